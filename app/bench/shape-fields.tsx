import { z } from 'zod'
import { gameAxes } from '../../core/game/space'
import { useCrate } from '../crate/use-crate'
import { VectorInput } from '../ui/fields/vector-input'
import type { Field } from '../workers/field-messages'
import { PickButton } from './pick-fields'
import { shapeEditSchema } from './pick-values'

const tripleSchema = z.tuple([z.number(), z.number(), z.number()]).catch([0, 0, 0])

/** Three numbers along the game's axes. */
export function VectorField({
  label,
  unit,
  value,
  signed,
  onChange,
}: {
  label: string
  unit: string
  value: unknown
  /** Whether the numbers have a direction; sizes have none. */
  signed?: boolean
  onChange: (value: [number, number, number]) => void
}) {
  const numbers = tripleSchema.parse(value)
  const axes = gameAxes(useCrate().rulebook.space)
  return (
    <div
      role="group"
      aria-label={label}
      className="grid grid-cols-[86px_1fr_1fr_1fr_auto] items-center gap-1 text-[12.5px]"
    >
      <span>{label}</span>
      <VectorInput
        label={(axis) => `${label}, ${axis}`}
        axes={axes}
        value={numbers}
        signed={signed}
        onChange={onChange}
      />
      <span className="text-[11.5px] text-ink-2">{unit}</span>
    </div>
  )
}

/** A shape's place, turn and size: by handles in the yard, or in numbers. */
export function ShapeEditField({ entry, field }: { entry: string; field: Extract<Field, { type: 'shape-edit' }> }) {
  const { crate, send } = useCrate()
  const item = crate.items.find((each) => each.worklist.some(({ id }) => id === entry))
  const step = item?.worklist.find(({ id }) => id === entry)
  if (!item || !step) return null
  const edit = shapeEditSchema.parse(step.parameters)
  const set =
    (key: 'moved' | 'turnedDegrees' | 'sized') =>
    (value: [number, number, number]): void =>
      void send({ do: 'edit-step', item: item.id, entry, parameters: { ...step.parameters, [key]: value } })
  return (
    <fieldset className="flex flex-col gap-1">
      <div className="flex items-center justify-between gap-2 text-[13px]">
        <legend className="float-left">{field.label}</legend>
        <PickButton pick={{ entry, key: field.key, kind: 'shape-edit' }} label="In the yard" />
      </div>
      <VectorField label="Moved" unit={field.unit} value={edit.moved} onChange={set('moved')} />
      <VectorField label="Turned" unit="°" value={edit.turnedDegrees} onChange={set('turnedDegrees')} />
      <VectorField label="Sized" unit="×" value={edit.sized} signed={false} onChange={set('sized')} />
    </fieldset>
  )
}
