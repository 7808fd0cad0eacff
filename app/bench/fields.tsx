import { useId } from 'react'
import { z } from 'zod'
import type { Field, PartChoice } from '../workers/field-messages'
import { OutlineField } from './outline-field'
import { ShapeEditField, VectorField } from './shape-fields'
import { HuesField, VariantsField } from './colour-fields'
import { CardsField, MapRolesField } from './map-fields'
import { FacesField, PlacementField, PointsField, WeightsField } from './pick-fields'
import { EventsField } from './events-field'
import { changeYardView } from '../yard/yard-view'
import { ColourInput } from '../ui/fields/colour-input'
import { Row, Switch } from '../ui/fields/field-row'
import { NumberInput } from '../ui/fields/number-input'
import { TextInput } from '../ui/fields/text-input'
import { ChecksField, PartsField, namesWith } from './parts-field'
import { TagsField } from './tags-field'

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
      return (
        <Row id={id} label={field.label} unit={field.unit}>
          <NumberInput
            id={id}
            label={field.label}
            className="w-[84px]"
            least={field.least}
            most={field.most}
            slider={field.slider ? field.step : undefined}
            value={typeof value === 'number' ? value : field.least}
            onChange={onChange}
            onDraft={
              field.slider
                ? (draft) => changeYardView({ draft: draft === null ? null : { entry, key: field.key, value: draft } })
                : undefined
            }
          />
        </Row>
      )
    case 'toggle':
      return (
        <Row id={id} label={field.label}>
          <Switch on={value === true} label={field.label} onChange={onChange} />
        </Row>
      )
    case 'choice':
      return (
        <Row id={id} label={field.label}>
          <select
            id={id}
            className="field w-full"
            value={String(value)}
            onChange={(event) =>
              onChange(field.options.find((option) => String(option.value) === event.target.value)?.value)
            }
          >
            {!field.options.some((option) => option.value === value) && (
              <option value={String(value)}>{String(value)}</option>
            )}
            {field.options.map((option) => (
              <option
                key={option.value}
                value={option.value}
                disabled={option.refused !== undefined}
                title={option.refused}
              >
                {option.label}
                {option.refused === undefined ? '' : ` – no: ${option.refused}`}
              </option>
            ))}
          </select>
        </Row>
      )
    case 'part':
      return (
        <Row id={id} label={field.label}>
          <select
            id={id}
            className="field w-full"
            value={String(value)}
            onChange={(event) => onChange(event.target.value)}
          >
            {namesWith(parts, [String(value)]).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </Row>
      )
    case 'parts':
      return (
        <PartsField
          label={field.label}
          chosen={z.array(z.string()).catch([]).parse(value)}
          parts={parts}
          onChange={onChange}
        />
      )
    case 'layers':
      return (
        <ChecksField
          label={field.label}
          chosen={z.array(z.string()).catch([]).parse(value)}
          options={field.options}
          onChange={onChange}
        />
      )
    case 'tags':
      return <TagsField field={field} value={value} onChange={onChange} />
    case 'colour':
      return (
        <Row id={id} label={field.label}>
          <span className="flex items-center gap-2">
            <ColourInput id={id} value={String(value)} onChange={onChange} />
            <span className="num text-[12px] text-ink-2">{String(value)}</span>
          </span>
        </Row>
      )
    case 'text':
      return (
        <Row id={id} label={field.label}>
          <TextInput id={id} className="w-full" value={String(value)} onChange={onChange} />
        </Row>
      )
    case 'events':
      return <EventsField field={field} value={value} onChange={onChange} />
    case 'outline':
      return <OutlineField field={field} value={value} onChange={onChange} />
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
