import { Plus, Trash2 } from 'lucide-react'
import { z } from 'zod'
import { ColourInput } from '../ui/fields/colour-input'
import { NumberInput } from '../ui/fields/number-input'
import { TextInput } from '../ui/fields/text-input'
import type { Field } from '../workers/field-messages'

const variantSchema = z.object({
  name: z.string(),
  hueDegrees: z.number(),
  saturation: z.number(),
  lightness: z.number(),
  colour: z.string(),
  mode: z.string(),
  strength: z.number(),
})
const variantsSchema = z.array(variantSchema).catch([])
type Variant = z.infer<typeof variantSchema>

/** Recoloured looks: a name, a colour laid over, and shifts. */
export function VariantsField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'variants' }>
  value: unknown
  onChange: (value: unknown) => void
}) {
  const variants = variantsSchema.parse(value)
  const change = (index: number, part: Partial<Variant>): void =>
    onChange(variants.map((each, at) => (at === index ? { ...each, ...part } : each)))
  const fresh = (): Variant => ({
    name: `look ${variants.length + 2}`,
    hueDegrees: 0,
    saturation: 0,
    lightness: 0,
    colour: '#5a7a4a',
    mode: 'tint',
    strength: 1,
  })
  return (
    <div className="flex flex-col gap-2 text-[12.5px]">
      {variants.map((variant, index) => (
        <fieldset key={index} className="min-w-0 rounded border border-edge px-2 pt-1 pb-1.5">
          <legend className="sr-only">Look {variant.name}</legend>
          <div className="flex items-center gap-1.5">
            <ColourInput
              label={`Colour of ${variant.name}`}
              className="h-[24px] w-[30px]"
              value={variant.colour}
              onChange={(colour) => change(index, { colour })}
            />
            <TextInput
              className="min-w-0 flex-1 py-0.5"
              label={`Name of look ${index + 1}`}
              value={variant.name}
              onChange={(name) => change(index, { name })}
            />
            <select
              className="field w-[92px] py-0.5"
              aria-label={`How ${variant.name} is laid over`}
              value={variant.mode}
              onChange={(event) => change(index, { mode: event.target.value })}
            >
              {field.modes.map((mode) => (
                <option key={mode.value} value={mode.value}>
                  {mode.label}
                </option>
              ))}
            </select>
            <button
              type="button"
              aria-label={`Remove ${variant.name}`}
              className="rounded border border-edge-strong p-0.5 hover:border-spruce"
              onClick={() => onChange(variants.filter((_, at) => at !== index))}
            >
              <Trash2 size={14} aria-hidden="true" />
            </button>
          </div>
          <div className="mt-1 grid grid-cols-4 gap-1.5">
            <Shift
              label="Laid on"
              value={variant.strength}
              least={0}
              most={1}
              onChange={(strength) => change(index, { strength })}
            />
            <Shift
              label="Hue °"
              value={variant.hueDegrees}
              least={-180}
              most={180}
              onChange={(hueDegrees) => change(index, { hueDegrees })}
            />
            <Shift
              label="Colour ±"
              value={variant.saturation}
              least={-1}
              most={2}
              onChange={(saturation) => change(index, { saturation })}
            />
            <Shift
              label="Light ±"
              value={variant.lightness}
              least={-1}
              most={1}
              onChange={(lightness) => change(index, { lightness })}
            />
          </div>
        </fieldset>
      ))}
      <button
        type="button"
        className="button self-start py-0.5 text-[12.5px]"
        onClick={() => onChange([...variants, fresh()])}
      >
        <Plus size={14} aria-hidden="true" /> Another look
      </button>
    </div>
  )
}

function Shift({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string
  value: number
  least: number
  most: number
  onChange: (value: number) => void
}) {
  return (
    <label className="flex min-w-0 flex-1 flex-col text-[11.5px] text-ink-2">
      {label}
      <NumberInput
        className="w-full min-w-0 py-0 text-ink"
        least={least}
        most={most}
        value={value}
        onChange={onChange}
      />
    </label>
  )
}

const huesSchema = z.array(z.object({ hueDegrees: z.number(), reachDegrees: z.number() })).catch([])

/** Which hues change: arcs of the hue circle, drawn on a strip of all hues. */
export function HuesField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'hues' }>
  value: unknown
  onChange: (value: unknown) => void
}) {
  const hues = huesSchema.parse(value)
  const change = (index: number, part: Partial<(typeof hues)[number]>): void =>
    onChange(hues.map((each, at) => (at === index ? { ...each, ...part } : each)))
  return (
    <fieldset className="flex min-w-0 flex-col gap-1 text-[12.5px]">
      <legend>
        {field.label}: {hues.length === 0 ? 'all' : `${hues.length} of the circle`}
      </legend>
      <div aria-hidden="true" className="hue-strip relative h-3 overflow-hidden rounded border border-edge-strong">
        {hues.length > 0 && <span className="absolute inset-0 bg-slip/80" />}
        {hues.flatMap(({ hueDegrees, reachDegrees }, index) =>
          [-360, 0, 360].map((turn) => (
            <span
              key={`${index} ${turn}`}
              className="hue-strip absolute inset-y-0"
              style={{
                left: `${((hueDegrees - reachDegrees + turn) / 360) * 100}%`,
                width: `${(reachDegrees / 180) * 100}%`,
                backgroundSize: `${(180 / reachDegrees) * 100}% 100%`,
                backgroundPosition: `${positionOf(hueDegrees - reachDegrees + turn, reachDegrees * 2)}% 0`,
              }}
            />
          )),
        )}
      </div>
      {hues.map((hue, index) => (
        <div key={index} className="flex items-end gap-1.5">
          <Shift
            label="Hue °"
            value={hue.hueDegrees}
            least={0}
            most={360}
            onChange={(hueDegrees) => change(index, { hueDegrees })}
          />
          <Shift
            label="Reach °"
            value={hue.reachDegrees}
            least={1}
            most={180}
            onChange={(reachDegrees) => change(index, { reachDegrees })}
          />
          <button
            type="button"
            aria-label={`Remove hues ${index + 1}`}
            className="rounded border border-edge-strong p-0.5 hover:border-spruce"
            onClick={() => onChange(hues.filter((_, at) => at !== index))}
          >
            <Trash2 size={14} aria-hidden="true" />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button self-start py-0.5 text-[12.5px]"
        onClick={() => onChange([...hues, { hueDegrees: 90, reachDegrees: 40 }])}
      >
        <Plus size={14} aria-hidden="true" /> {hues.length === 0 ? 'Only some hues' : 'More hues'}
      </button>
    </fieldset>
  )
}

/**
 * Where a background as wide as the whole circle has to begin so that a window at `from` shows its own hues, in per
 * cent as CSS counts them.
 */
const positionOf = (from: number, width: number): number => (width >= 360 ? 0 : (from / (360 - width)) * 100)
