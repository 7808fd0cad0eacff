import { Plus, Trash2 } from 'lucide-react'
import { z } from 'zod'
import type { Field } from '../workers/messages'
import { cardsSchema } from '../surface/punched-card'

const assignments = z.array(z.object({ texture: z.string(), role: z.string() })).catch([])

/** What each picture is for, in a choice of its own. */
export function MapRolesField({ field, value, onChange }: { field: Extract<Field, { type: 'map-roles' }>; value: unknown; onChange: (value: unknown) => void }) {
  const roles = assignments.parse(value)
  return (
    <ul className="flex flex-col gap-1 text-[12.5px]" aria-label={field.label}>
      {roles.map((assignment, index) => (
        <li key={assignment.texture} className="grid grid-cols-[1fr_128px] items-center gap-2">
          <span className="truncate" title={assignment.texture}>{assignment.texture}</span>
          <select className="field py-0.5" aria-label={`What ${assignment.texture} is for`} value={assignment.role} onChange={(event) => onChange(roles.map((each, at) => (at === index ? { ...each, role: event.target.value } : each)))}>
            {field.options.map((option) => <option key={option.value} value={option.value}>{option.label}</option>)}
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
          <b className="font-semibold">{card.material}, {card.output}</b>: R {card.red.from}, G {card.green.from}, B {card.blue.from}, A {card.alpha.from}
        </li>
      ))}
      {cards.length === 0 ? <li className="text-ink-2">No card is punched: no material has maps to pack.</li> : <li className="pt-1 text-ink-2">Punch it on the card beside the map.</li>}
    </ul>
  )
}

const variantSchema = z.object({ name: z.string(), hueDegrees: z.number(), saturation: z.number(), lightness: z.number(), colour: z.string(), mode: z.string(), strength: z.number() })
const variantsSchema = z.array(variantSchema).catch([])
type Variant = z.infer<typeof variantSchema>

/** Recoloured looks: a name, a colour laid over, and shifts. */
export function VariantsField({ field, value, onChange }: { field: Extract<Field, { type: 'variants' }>; value: unknown; onChange: (value: unknown) => void }) {
  const variants = variantsSchema.parse(value)
  const change = (index: number, part: Partial<Variant>): void => onChange(variants.map((each, at) => (at === index ? { ...each, ...part } : each)))
  const fresh = (): Variant => ({ name: `look ${variants.length + 2}`, hueDegrees: 0, saturation: 0, lightness: 0, colour: '#5a7a4a', mode: 'tint', strength: 1 })
  return (
    <div className="flex flex-col gap-2 text-[12.5px]">
      {variants.map((variant, index) => (
        <fieldset key={index} className="rounded border border-edge px-2 pt-1 pb-1.5">
          <legend className="sr-only">Look {variant.name}</legend>
          <div className="flex items-center gap-1.5">
            <input type="color" aria-label={`Colour of ${variant.name}`} value={variant.colour} onChange={(event) => change(index, { colour: event.target.value })} className="h-[24px] w-[30px] shrink-0 rounded border border-edge-strong bg-slip" />
            <input className="field min-w-0 flex-1 py-0.5" aria-label={`Name of look ${index + 1}`} key={variant.name} defaultValue={variant.name} onBlur={(event) => { const name = event.target.value.trim(); if (name !== '' && name !== variant.name) change(index, { name }) }} />
            <select className="field py-0.5" aria-label={`How ${variant.name} is laid over`} value={variant.mode} onChange={(event) => change(index, { mode: event.target.value })}>
              {field.modes.map((mode) => <option key={mode.value} value={mode.value}>{mode.label}</option>)}
            </select>
            <button type="button" aria-label={`Remove ${variant.name}`} className="rounded border border-edge-strong p-0.5 hover:border-spruce" onClick={() => onChange(variants.filter((_, at) => at !== index))}><Trash2 size={14} aria-hidden="true" /></button>
          </div>
          <div className="mt-1 grid grid-cols-4 gap-1.5">
            <Shift label="Laid on" value={variant.strength} least={0} most={1} onChange={(strength) => change(index, { strength })} />
            <Shift label="Hue °" value={variant.hueDegrees} least={-180} most={180} onChange={(hueDegrees) => change(index, { hueDegrees })} />
            <Shift label="Colour ±" value={variant.saturation} least={-1} most={2} onChange={(saturation) => change(index, { saturation })} />
            <Shift label="Light ±" value={variant.lightness} least={-1} most={1} onChange={(lightness) => change(index, { lightness })} />
          </div>
        </fieldset>
      ))}
      <button type="button" className="button self-start py-0.5 text-[12.5px]" onClick={() => onChange([...variants, fresh()])}><Plus size={14} aria-hidden="true" /> Another look</button>
    </div>
  )
}

function Shift({ label, value, least, most, onChange }: { label: string; value: number; least: number; most: number; onChange: (value: number) => void }) {
  return (
    <label className="flex flex-col text-[11.5px] text-ink-2">
      {label}
      <input
        key={value} className="field num py-0 text-ink" inputMode="decimal" defaultValue={value} title={`${least} to ${most}`}
        onBlur={(event) => { const next = Number(event.target.value); if (Number.isFinite(next) && next !== value) onChange(Math.min(most, Math.max(least, next))) }}
      />
    </label>
  )
}
