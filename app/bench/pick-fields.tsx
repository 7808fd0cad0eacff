import { Crosshair, X } from 'lucide-react'
import { useId } from 'react'
import { z } from 'zod'
import type { Field, PartChoice } from '../workers/field-messages'
import { facesSchema, pointsSchema } from './pick-values'
import { NumberInput } from '../ui/fields/number-input'
import { VectorInput, type Triple } from '../ui/fields/vector-input'
import { gameAxes } from '../../core/game/space'
import { useCrate } from '../crate/use-crate'
import { changeYardView, useYardView, type PickReach, type WaitingPick } from '../yard/yard-view'

const weightsSchema = z.array(z.object({ part: z.string(), weight: z.number() })).catch([])

const shown = (value: number): string => String(Number(value.toFixed(3)))

/** Starts or ends waiting for clicks in the yard. */
export function PickButton({ pick, label }: { pick: WaitingPick; label: string }) {
  const waiting = useYardView((view) => view.pick?.entry === pick.entry && view.pick.key === pick.key)
  return (
    <button
      type="button"
      aria-pressed={waiting}
      onClick={() => changeYardView({ pick: waiting ? null : pick, compare: null, level: 0 })}
      className={`button px-2 py-0.5 text-[12.5px] ${waiting ? 'bg-kraft-wash' : ''}`}
    >
      <Crosshair size={14} aria-hidden="true" /> {waiting ? 'Done' : label}
    </button>
  )
}

interface PickFieldProps {
  entry: string
  value: unknown
  onChange: (value: unknown) => void
}

/** Points clicked in the yard, or typed. */
export function PointsField({
  entry,
  field,
  value,
  onChange,
}: PickFieldProps & { field: Extract<Field, { type: 'points' }> }) {
  const points = pointsSchema.parse(value)
  const axes = gameAxes(useCrate().rulebook.space)
  // Of many only those that are there are listed, and one more.
  const listed = field.count > 2 ? Math.min(field.count, points.length + 1) : field.count
  const rows = Array.from({ length: listed }, (_, index) => points[index] ?? null)
  const change = (index: number, point: Triple): void =>
    onChange(
      rows
        .slice(0, Math.max(points.length, index + 1))
        .map((row, each) => (each === index ? point : (row ?? [0, 0, 0]))),
    )
  const apart =
    points.length === 2 ? Math.hypot(...points[0].map((coordinate, axis) => coordinate - points[1][axis])) : null
  return (
    <fieldset className="text-[13px]">
      <div className="flex items-center justify-between gap-2">
        <legend className="float-left">{field.label}</legend>
        <PickButton
          pick={{ entry, key: field.key, kind: 'points', count: field.count }}
          label={field.count === 1 ? 'Click a point' : field.count === 2 ? 'Click two points' : 'Click points'}
        />
      </div>
      {rows.map((row, index) => (
        <div key={index} className="mt-1 flex items-center gap-1">
          <VectorInput
            label={(axis) => `${axis} of point ${index + 1}`}
            axes={axes}
            value={row as Triple | null}
            onChange={(point) => change(index, point)}
          />
          {field.count !== 2 && row && (
            <button
              type="button"
              className="button px-1 py-0.5"
              aria-label={`Leave out point ${index + 1}`}
              onClick={() => onChange(points.filter((_, each) => each !== index))}
            >
              <X size={13} aria-hidden="true" />
            </button>
          )}
        </div>
      ))}
      {apart !== null && (
        <p className="mt-1 text-[12px] text-ink-2">
          They are <span className="num">{shown(apart)}</span> {field.unit} apart now.
        </p>
      )}
    </fieldset>
  )
}

const growths = [
  { id: 'face', label: 'one face' },
  { id: 'flat', label: 'as far as it is flat' },
  { id: 'piece', label: 'the connected piece' },
  { id: 'surface', label: 'all of this material' },
  { id: 'round', label: 'a brush' },
] as const

/** Faces clicked in the yard, each with how far the pick reaches; a whole part can be chosen without a pointer. */
export function FacesField({
  entry,
  field,
  value,
  parts,
  onChange,
}: PickFieldProps & { field: Extract<Field, { type: 'faces' }>; parts: readonly PartChoice[] }) {
  const id = useId()
  const picks = facesSchema.parse(value)
  const drawn = parts.filter((part) => part.role === 'part')
  const unit = useCrate().rulebook.space.unit.plural
  // A stroke of the brush is many picks; they stand as one line.
  const rows = picks.reduce<{ pick: (typeof picks)[number]; first: number; count: number }[]>((lines, pick, index) => {
    const last = lines.at(-1)
    if (last && pick.growth === 'round' && last.pick.growth === 'round' && last.pick.part === pick.part) last.count++
    else lines.push({ pick, first: index, count: 1 })
    return lines
  }, [])
  const add = (name: string): void => {
    const part = drawn.find((each) => each.name === name)
    if (part)
      onChange([
        ...picks,
        {
          part: name,
          point: part.bounds.min.map((low, axis) => (low + part.bounds.max[axis]) / 2),
          growth: 'surface',
          angleDegrees: 20,
          radius: 0,
        },
      ])
  }
  return (
    <fieldset className="text-[13px]">
      <div className="flex items-center justify-between gap-2">
        <legend className="float-left">{field.label}</legend>
        <PickButton pick={{ entry, key: field.key, kind: 'faces' }} label="Click faces" />
      </div>
      <ReachControls unit={unit} />
      <ul className="mt-1 flex flex-col gap-1">
        {rows.map(({ pick, first, count }, line) => (
          <li key={line} className="flex items-center gap-1.5">
            <span className="min-w-0 flex-1 truncate">{pick.part}</span>
            {pick.growth === 'round' ? (
              <span className="text-[12px] text-ink-2">
                brush, {count} {count === 1 ? 'place' : 'places'}
              </span>
            ) : (
              <select
                aria-label={`How far pick ${line + 1} reaches`}
                className="field text-[12px]"
                value={pick.growth}
                onChange={(event) =>
                  onChange(picks.map((each, at) => (at === first ? { ...each, growth: event.target.value } : each)))
                }
              >
                {growths
                  .filter((growth) => growth.id !== 'round')
                  .map((growth) => (
                    <option key={growth.id} value={growth.id}>
                      {growth.label}
                    </option>
                  ))}
              </select>
            )}
            <button
              type="button"
              aria-label={`Remove pick ${line + 1}`}
              onClick={() => onChange(picks.filter((_, at) => at < first || at >= first + count))}
              className="rounded p-0.5 text-ink-2 hover:text-ink"
            >
              <X size={14} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ul>
      <label htmlFor={id} className="sr-only">
        Add a part
      </label>
      <select id={id} className="field mt-1 w-full text-[12px]" value="" onChange={(event) => add(event.target.value)}>
        <option value="">or choose a part…</option>
        {drawn.map((part) => (
          <option key={part.name}>{part.name}</option>
        ))}
      </select>
    </fieldset>
  )
}

/** What the next click takes, or how wide the brush is. */
function ReachControls({ unit }: { unit: string }) {
  const reach = useYardView((view) => view.reach)
  const set = (part: Partial<PickReach>): void => changeYardView({ reach: { ...reach, ...part } })
  const amount =
    reach.growth === 'flat'
      ? {
          label: 'Least bend that stops it',
          value: reach.angleDegrees,
          unit: '°',
          least: 0,
          most: 180,
          set: (angleDegrees: number) => set({ angleDegrees }),
        }
      : reach.growth === 'round'
        ? {
            label: 'Radius of the brush',
            value: reach.radius,
            unit,
            least: 0.001,
            most: Infinity,
            set: (radius: number) => set({ radius }),
          }
        : null
  return (
    <div className="mt-1 flex items-center gap-1.5 text-[12px]">
      <span className="text-ink-2">takes</span>
      <select
        aria-label="What a click takes"
        className="field min-w-0 flex-1 text-[12px]"
        value={reach.growth}
        onChange={(event) => set({ growth: growths.find(({ id }) => id === event.target.value)?.id ?? 'flat' })}
      >
        {growths.map((growth) => (
          <option key={growth.id} value={growth.id}>
            {growth.label}
          </option>
        ))}
      </select>
      {amount && (
        <>
          <NumberInput
            label={amount.label}
            className="w-[52px] text-[12px]"
            least={amount.least}
            most={amount.most}
            value={amount.value}
            onChange={amount.set}
          />
          <span className="text-ink-2">{amount.unit}</span>
        </>
      )}
    </div>
  )
}

/** Starts placing a picture by hand on the faces that were picked. */
export function PlacementField({ entry, field }: { entry: string; field: Extract<Field, { type: 'placement' }> }) {
  return (
    <div className="flex items-center justify-between gap-2 text-[13px]">
      <span>{field.label}</span>
      <PickButton pick={{ entry, key: field.key, kind: 'placement' }} label="Move it in the yard" />
    </div>
  )
}

/** How much each part counts when something is shared among them. */
export function WeightsField({
  field,
  value,
  parts,
  onChange,
}: Omit<PickFieldProps, 'entry'> & { field: Extract<Field, { type: 'weights' }>; parts: readonly PartChoice[] }) {
  const weights = weightsSchema.parse(value)
  const drawn = parts.filter((part) => part.role === 'part')
  if (drawn.length < 2) return null
  const set = (part: string, weight: number): void =>
    onChange([...weights.filter((each) => each.part !== part), ...(weight === 1 ? [] : [{ part, weight }])])
  return (
    <fieldset className="text-[13px]">
      <legend>{field.label}</legend>
      <ul className="mt-0.5 max-h-[120px] relative overflow-y-auto">
        {drawn.map((part) => {
          const weight = weights.find((each) => each.part === part.name)?.weight ?? 1
          return (
            <li key={part.name} className="flex items-center gap-2 py-px">
              <span className="min-w-0 flex-1 truncate">{part.name}</span>
              <input
                key={weight}
                aria-label={`How much ${part.name} counts`}
                type="range"
                className="w-[96px]"
                min={Math.log10(field.least)}
                max={Math.log10(field.most)}
                step={0.05}
                defaultValue={Math.log10(weight)}
                onPointerUp={(event) => set(part.name, rounded(event.currentTarget.value))}
                onKeyUp={(event) => set(part.name, rounded(event.currentTarget.value))}
              />
              <span className="num w-[38px] text-right text-[12px]">× {Number(weight.toPrecision(2))}</span>
            </li>
          )
        })}
      </ul>
    </fieldset>
  )
}

const rounded = (exponent: string): number => Number((10 ** Number(exponent)).toPrecision(2))
