import { z } from 'zod'
import type { Field } from '../workers/field-messages'
import { cardsSchema } from '../surface/punched-card'

const assignments = z.array(z.object({ texture: z.string(), role: z.string() })).catch([])

/** What each picture is for, in a choice of its own. */
export function MapRolesField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'map-roles' }>
  value: unknown
  onChange: (value: unknown) => void
}) {
  const roles = assignments.parse(value)
  return (
    <ul className="flex flex-col gap-1 text-[12.5px]" aria-label={field.label}>
      {roles.map((assignment, index) => (
        <li key={assignment.texture} className="grid grid-cols-[1fr_128px] items-center gap-2">
          <span className="truncate" title={assignment.texture}>
            {assignment.texture}
          </span>
          <select
            className="field py-0.5"
            aria-label={`What ${assignment.texture} is for`}
            value={assignment.role}
            onChange={(event) =>
              onChange(roles.map((each, at) => (at === index ? { ...each, role: event.target.value } : each)))
            }
          >
            {field.options.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </select>
        </li>
      ))}
      {roles.length === 0 && <li className="text-ink-2">The materials have no pictures.</li>}
    </ul>
  )
}

/** Which cards are punched; the holes themselves are on the card beside the map. */
export function CardsField({ field, value }: { field: Extract<Field, { type: 'cards' }>; value: unknown }) {
  const cards = cardsSchema.parse(value)
  return (
    <ul className="text-[12.5px]" aria-label={field.label}>
      {cards.map((card) => (
        <li key={`${card.material} ${card.output}`} className="py-0.5">
          <b className="font-semibold">
            {card.material}, {card.output}
          </b>
          : R {card.red.from}, G {card.green.from}, B {card.blue.from}, A {card.alpha.from}
        </li>
      ))}
      {cards.length === 0 ? (
        <li className="text-ink-2">No card is punched: no material has maps to pack.</li>
      ) : (
        <li className="pt-1 text-ink-2">Punch it on the card beside the map.</li>
      )}
    </ul>
  )
}
