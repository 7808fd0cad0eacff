import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { readPresets, type Preset } from '../../core/crate/preset'
import { lengthUnits } from '../../core/item/units'
import { axisNames } from '../../core/maths/axes'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import { download } from '../ui/download'
import { plural } from '../ui/format'
import { tellError } from '../ui/notify'
import { useFilePicker } from '../ui/use-file-picker'
import { OpenChoice } from './open-choice'

const blank: Preset = { title: 'Preset', files: ['*'], worklist: null }

interface PresetsDialogProps {
  /** New ones, which are kept with the others. */
  added: readonly Preset[]
  onClose: () => void
}

/** What is done with files of certain names when they are brought; the first preset that fits a name counts. */
export function PresetsDialog({ added, onClose }: PresetsDialogProps) {
  const { crate, send } = useCrate()
  const [presets, setPresets] = useState<readonly Preset[]>([...(crate.presets ?? []), ...added])
  const change = (at: number, part: Partial<Preset>): void =>
    setPresets(presets.map((each, index) => (index === at ? { ...each, ...part } : each)))
  const fromFile = useFilePicker('Presets from a file', '.json', async ([file]) => {
    try {
      setPresets([...presets, ...readPresets(await file.text(), file.name)])
    } catch (error) {
      tellError(error)
    }
  })
  const save = async (): Promise<void> => {
    const named = presets.map((each) => ({ ...each, title: each.title.trim() || 'Preset' }))
    if (await send({ do: 'set-presets', presets: named })) onClose()
  }
  return (
    <DialogFrame
      open
      wide
      title="Presets for files by their names"
      action="Keep"
      onClose={onClose}
      onSubmit={() => void save()}
    >
      <p className="text-[13px] text-ink-2">
        Files that are brought take the first preset that their name fits: what they become, their unit, their worklist.
        A part of it that is left open is told from the file.
      </p>
      <ul className="relative flex max-h-[46vh] flex-col gap-2 overflow-y-auto">
        {presets.map((preset, at) => (
          <li key={at} className="rounded-lg border border-edge-strong bg-paper p-2.5">
            <PresetFields
              preset={preset}
              number={at + 1}
              onChange={(part) => change(at, part)}
              onRemove={() => setPresets(presets.filter((_each, index) => index !== at))}
            />
          </li>
        ))}
        {presets.length === 0 && (
          <li className="rounded-lg border border-dashed border-edge-strong p-4 text-center text-[13px] text-ink-2">
            None yet. Choose one item in the table and “Keep as preset”, or add one here.
          </li>
        )}
      </ul>
      <div className="flex gap-2">
        <button type="button" className="button" onClick={() => setPresets([...presets, blank])}>
          <Plus size={16} aria-hidden="true" /> Add a preset
        </button>
        <button type="button" className="button" onClick={fromFile.open}>
          From a file…
        </button>
        {presets.length > 0 && (
          <button
            type="button"
            className="button"
            onClick={() =>
              download(
                new TextEncoder().encode(`${JSON.stringify(presets, null, 2)}\n`),
                `${crate.id}.presets.json`,
                'application/json',
              )
            }
          >
            Save as a file
          </button>
        )}
        {fromFile.input}
      </div>
    </DialogFrame>
  )
}

interface PresetFieldsProps {
  preset: Preset
  number: number
  onChange: (part: Partial<Preset>) => void
  onRemove: () => void
}

function PresetFields({ preset, number, onChange, onRemove }: PresetFieldsProps) {
  const { rulebook } = useCrate()
  const { title, files, kind, unit, up, split, worklist } = preset
  return (
    <fieldset className="grid grid-cols-[1fr_1fr_auto] gap-x-3 gap-y-2 text-[13px]">
      <legend className="sr-only">Preset {number}</legend>
      <label className="flex items-center gap-2">
        <span className="w-12 text-ink-2">Name</span>
        <input
          className="field min-w-0 flex-1"
          maxLength={200}
          required
          value={title}
          onChange={(event) => onChange({ title: event.target.value })}
        />
      </label>
      <label className="flex items-center gap-2">
        <span className="text-ink-2">Files</span>
        <input
          className="field num min-w-0 flex-1"
          placeholder="post_* gate_??.glb art/*"
          defaultValue={files.join(' ')}
          onChange={(event) => onChange({ files: event.target.value.split(/\s+/).filter((pattern) => pattern !== '') })}
        />
      </label>
      <button
        type="button"
        className="rounded p-1 text-ink-2 hover:text-block"
        aria-label={`Remove preset ${title}`}
        onClick={onRemove}
      >
        <Trash2 size={16} aria-hidden="true" />
      </button>
      <div className="col-span-3 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <OpenChoice
          label="become"
          value={kind ?? ''}
          open="what they look like"
          options={rulebook.kinds.map((each) => ({ value: each.id, label: each.title.toLowerCase() }))}
          onChange={({ target: { value } }) => onChange({ kind: value === '' ? undefined : value })}
        />
        <OpenChoice
          label="one unit is"
          value={unit ?? ''}
          open="as the file says"
          options={lengthUnits.map(({ id }) => ({ value: id, label: `1 ${id}` }))}
          onChange={({ target: { value } }) => onChange({ unit: value === '' ? undefined : value })}
        />
        <OpenChoice
          label="up is"
          value={up ?? ''}
          open="as the file says"
          options={axisNames.map((axis) => ({ value: axis, label: axis.toUpperCase() }))}
          onChange={({ target: { value } }) => onChange({ up: axisNames.find((axis) => axis === value) })}
        />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={split === true}
            onChange={(event) => onChange({ split: event.target.checked ? true : undefined })}
          />
          an item of each thing in it
        </label>
        <span className="text-ink-2">
          {worklist === null ? (
            'prepared for what they are'
          ) : (
            <>
              {plural(worklist.length, 'step')} of its own{' '}
              <button type="button" className="link" onClick={() => onChange({ worklist: null })}>
                Prepare instead
              </button>
            </>
          )}
        </span>
      </div>
    </fieldset>
  )
}
