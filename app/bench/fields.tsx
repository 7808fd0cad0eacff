import { Switch as HeadlessSwitch } from '@headlessui/react'
import { useId, useState, type ReactNode } from 'react'
import { z } from 'zod'
import type { Field, PartChoice } from '../workers/messages'
import { ShapeEditField, VectorField } from './shape-fields'
import { HuesField, VariantsField } from './colour-fields'
import { CardsField, MapRolesField } from './map-fields'
import { FacesField, PlacementField, PointsField, WeightsField } from './pick-fields'
import { changeYardView } from './yard-view'

interface FieldControlProps {
  /** The step's entry in the worklist, for settings that wait for clicks in the yard. */
  entry: string
  field: Field
  value: unknown
  parts: readonly PartChoice[]
  onChange: (value: unknown) => void
}

/** One setting of a step, in the control that suits it. */
export function FieldControl({ entry, field, value, parts, onChange }: FieldControlProps) {
  const id = useId()
  switch (field.type) {
    case 'number':
      return <NumberField id={id} field={field} value={typeof value === 'number' ? value : field.least} onChange={onChange} onDraft={field.slider ? (draft) => changeYardView({ draft: draft === null ? null : { entry, key: field.key, value: draft } }) : undefined} />
    case 'toggle':
      return (
        <Row id={id} label={field.label}>
          <Switch on={value === true} label={field.label} onChange={onChange} />
        </Row>
      )
    case 'choice':
      return (
        <Row id={id} label={field.label}>
          <select id={id} className="field w-full" value={String(value)} onChange={(event) => onChange(field.options.find((option) => String(option.value) === event.target.value)?.value)}>
            {!field.options.some((option) => option.value === value) && <option value={String(value)}>{String(value)}</option>}
            {field.options.map((option) => (
              <option key={option.value} value={option.value} disabled={option.refused !== undefined} title={option.refused}>{option.label}{option.refused === undefined ? '' : ` – no: ${option.refused}`}</option>
            ))}
          </select>
        </Row>
      )
    case 'part':
      return (
        <Row id={id} label={field.label}>
          <select id={id} className="field w-full" value={String(value)} onChange={(event) => onChange(event.target.value)}>
            {namesWith(parts, [String(value)]).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </Row>
      )
    case 'parts':
      return <PartsField label={field.label} chosen={z.array(z.string()).catch([]).parse(value)} parts={parts} onChange={onChange} />
    case 'layers':
      return <ChecksField label={field.label} chosen={z.array(z.string()).catch([]).parse(value)} options={field.options} onChange={onChange} />
    case 'tags':
      return <TagsField field={field} value={value} onChange={onChange} />
    case 'colour':
      return (
        <Row id={id} label={field.label}>
          <span className="flex items-center gap-2">
            <input id={id} type="color" value={String(value)} onChange={(event) => onChange(event.target.value)} className="h-[26px] w-[44px] rounded border border-edge-strong bg-slip" />
            <span className="num text-[12px] text-ink-2">{String(value)}</span>
          </span>
        </Row>
      )
    case 'text':
      return (
        <Row id={id} label={field.label}>
          <input key={String(value)} id={id} className="field w-full" defaultValue={String(value)} onBlur={(event) => { const text = event.target.value.trim(); if (text !== '' && text !== value) onChange(text) }} />
        </Row>
      )
    case 'map-roles':
      return <MapRolesField field={field} value={value} onChange={onChange} />
    case 'cards':
      return <CardsField field={field} value={value} />
    case 'variants':
      return <VariantsField field={field} value={value} onChange={onChange} />
    case 'points':
      return <PointsField entry={entry} field={field} value={value} onChange={onChange} />
    case 'faces':
      return <FacesField entry={entry} field={field} value={value} parts={parts} onChange={onChange} />
    case 'placement':
      return <PlacementField entry={entry} field={field} />
    case 'shape-edit':
      return <ShapeEditField entry={entry} field={field} />
    case 'vector':
      return <VectorField label={field.label} unit={field.unit} value={value} onChange={onChange} />
    case 'hues':
      return <HuesField field={field} value={value} onChange={onChange} />
    case 'weights':
      return <WeightsField field={field} value={value} parts={parts} onChange={onChange} />
  }
}

export const namesWith = (parts: readonly PartChoice[], more: readonly string[]): string[] => [...new Set([...parts.filter((part) => part.role === 'part').map((part) => part.name), ...more])].filter((name) => name !== '')

export function Row({ id, label, children }: { id: string; label: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[112px_1fr] items-center gap-2 text-[13px]">
      <label htmlFor={id}>{label}</label>
      <div>{children}</div>
    </div>
  )
}

/** A number with its unit; it counts when it is left or entered, and only within its limits. */
function NumberField({ id, field, value, onChange, onDraft }: { id: string; field: Extract<Field, { type: 'number' }>; value: number; onChange: (value: number) => void; onDraft?: (draft: number | null) => void }) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = (): void => {
    const next = Number(draft?.replaceAll(',', ''))
    if (draft !== null && draft.trim() !== '' && Number.isFinite(next)) onChange(Math.min(field.most, Math.max(field.least, next)))
    setDraft(null)
    onDraft?.(null)
  }
  const shown = draft ?? value.toLocaleString('en-GB', { maximumFractionDigits: 4 })
  const sliding = draft === null ? value : Number(draft.replaceAll(',', '')) || field.least
  return (
    <Row id={id} label={field.label}>
      <span className="flex items-center gap-1.5">
        <input id={id} className="field num w-[84px]" inputMode="decimal" value={shown} onChange={(event) => setDraft(event.target.value)} onBlur={commit} onKeyDown={(event) => { if (event.key === 'Enter') commit() }} />
        <span className="text-[12px] text-ink-2">{field.unit}</span>
      </span>
      {field.slider && (
        <input type="range" aria-label={`${field.label}, slider`} className="mt-1 w-full accent-spruce" min={field.least} max={field.most} step={field.step} value={sliding} onChange={(event) => { setDraft(event.target.value); onDraft?.(Number(event.target.value)) }} onPointerUp={commit} onKeyUp={commit} onBlur={commit} />
      )}
    </Row>
  )
}

export function Switch({ on, label, onChange }: { on: boolean; label: string; onChange: (on: boolean) => void }) {
  return (
    <HeadlessSwitch checked={on} onChange={onChange} aria-label={label} className="group relative h-[18px] w-[34px] rounded-full border border-edge-strong bg-edge transition-colors data-checked:border-spruce data-checked:bg-spruce">
      <span className="absolute top-[1px] left-[1px] size-[14px] rounded-full bg-white transition-transform group-data-checked:translate-x-4" />
    </HeadlessSwitch>
  )
}

function PartsField({ label, chosen, parts, onChange }: { label: string; chosen: string[]; parts: readonly PartChoice[]; onChange: (value: string[]) => void }) {
  const names = namesWith(parts, chosen)
  return <ChecksField label={label} chosen={chosen} options={names.map((name) => ({ value: name, label: '' }))} onChange={onChange} />
}

function ChecksField({ label, chosen, options, onChange }: { label: string; chosen: string[]; options: readonly { value: string; label: string }[]; onChange: (value: string[]) => void }) {
  return (
    <fieldset className="text-[13px]">
      <legend className="mb-0.5">{label}</legend>
      <div className="flex flex-wrap gap-1">
        {options.map((option) => {
          const on = chosen.includes(option.value)
          return (
            <button key={option.value} type="button" aria-pressed={on} title={option.label || undefined} onClick={() => onChange(on ? chosen.filter((each) => each !== option.value) : [...chosen, option.value])} className={`chip ${on ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}>
              {option.value}
            </button>
          )
        })}
      </div>
    </fieldset>
  )
}

const tagsSchema = z.array(z.object({ material: z.string(), surface: z.string(), flags: z.array(z.string()), shading: z.string().default('') })).catch([])

/** What each material is made of, and the flags it is drawn with. */
function TagsField({ field, value, onChange }: { field: Extract<Field, { type: 'tags' }>; value: unknown; onChange: (value: unknown) => void }) {
  const tags = tagsSchema.parse(value)
  const change = (index: number, part: Partial<(typeof tags)[number]>): void => onChange(tags.map((tag, each) => (each === index ? { ...tag, ...part } : tag)))
  return (
    <div className="flex flex-col gap-2 text-[13px]">
      {tags.map((tag, index) => (
        <fieldset key={tag.material}>
          <div className="flex items-center gap-2">
            <legend className="float-left w-[112px] truncate font-semibold">{tag.material}</legend>
            <select className="field flex-1" aria-label={`Surface of ${tag.material}`} value={tag.surface} onChange={(event) => change(index, { surface: event.target.value })}>
              {field.surfaces.map((surface) => (
                <option key={surface}>{surface}</option>
              ))}
            </select>
          </div>
          <div className="mt-1 flex flex-wrap gap-1">
            <select className="field py-0 text-[11.5px]" aria-label={`Shading of ${tag.material}`} title="The shading model of the game" value={tag.shading} onChange={(event) => change(index, { shading: event.target.value })}>
              <option value="">shading that fits</option>
              {field.shadings.map((shading) => (
                <option key={shading.name} value={shading.name} title={shading.title}>{shading.name}</option>
              ))}
            </select>
            {field.flags.map((flag) => {
              const on = tag.flags.includes(flag.name)
              return (
                <button key={flag.name} type="button" aria-pressed={on} aria-label={`${flag.name} for ${tag.material}`} title={flag.meaning} onClick={() => change(index, { flags: on ? tag.flags.filter((each) => each !== flag.name) : [...tag.flags, flag.name] })} className={`chip text-[11.5px] ${on ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}>
                  {flag.name}
                </button>
              )
            })}
          </div>
        </fieldset>
      ))}
    </div>
  )
}
