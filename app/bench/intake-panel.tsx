import { useRef } from 'react'
import { axisNames, axisNameSchema } from '../../core/document/extras'
import { lengthUnits } from '../../core/document/units'
import type { CrateItem } from '../../core/crate/schema'
import type { SettledRun } from '../crate/runs'
import { useCrate } from '../crate/use-crate'
import { readPicked } from '../ui/file-drop'
import { formatBytes } from '../ui/format'
import { tellError } from '../ui/notify'
import { StatusMark } from '../ui/status-mark'
import { bringImages } from '../workers/clients'

const isImage = (path: string): boolean => /\.(png|jpe?g)$/i.test(path)

/** What came in: files, the textures they ask for, and what the modder says about unit and axes. */
export function IntakePanel({ item, run }: { item: CrateItem; run: SettledRun | undefined }) {
  const { send } = useCrate()
  const picker = useRef<HTMLInputElement>(null)
  const source = run?.evaluation?.source
  const images = item.sources.filter((each) => isImage(each.path))
  const bring = async (files: FileList | null): Promise<void> => {
    if (!files || files.length === 0) return
    try {
      await send({ do: 'add-sources', item: item.id, sources: await bringImages(await readPicked(files)) })
    } catch (error) {
      tellError(error)
    }
  }
  return (
    <section aria-label="What came in" className="w-[480px] shrink-0 overflow-y-auto border-r border-edge bg-slip px-4 py-2.5 text-[13px]" tabIndex={0}>
      <div className="flex items-center gap-4">
        <label className="flex items-center gap-1.5">
          Unit
          <select className="field" value={item.reading.metresPerUnit ?? ''} onChange={(event) => void send({ do: 'set-reading', item: item.id, reading: { metresPerUnit: event.target.value === '' ? undefined : Number(event.target.value) } })}>
            <option value="">as the file says</option>
            {lengthUnits.map((unit) => (
              <option key={unit.id} value={unit.metres}>{unit.id}</option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          Up
          <select
            className="field" value={item.reading.up ?? ''}
            onChange={(event) => {
              const up = axisNameSchema.safeParse(event.target.value)
              void send({ do: 'set-reading', item: item.id, reading: { up: up.success ? up.data : undefined, forward: undefined } })
            }}
          >
            <option value="">as the file says</option>
            {axisNames.map((axis) => (
              <option key={axis} value={axis}>{axis.toUpperCase()}</option>
            ))}
          </select>
        </label>
        <span className="text-ink-2">{source ? `${source.unit}; ${source.axes}` : ''}</span>
      </div>
      <p className="caption mt-2 mb-0.5 flex justify-between">
        Textures asked for
        <button type="button" className="link" onClick={() => picker.current?.click()}>
          Bring more images
        </button>
      </p>
      <input ref={picker} type="file" accept=".png,.jpg,.jpeg" multiple className="hidden" aria-label="More images" onChange={(event) => void bring(event.target.files).finally(() => { event.target.value = '' })} />
      <ul>
        {source?.references.map((reference, index) => (
          <li key={`${reference.path} ${index}`} className="grid grid-cols-[14px_1fr_170px] items-center gap-2 border-b border-dashed border-edge py-1">
            <StatusMark status={reference.found === null ? 'blocks' : 'clear'} />
            <span className="min-w-0 truncate" title={`${reference.material}: ${reference.path}`}>
              <b className="font-semibold">{reference.role}</b> {reference.path.split(/[\\/]/).pop()}
            </span>
            <select
              className="field min-w-0" aria-label={`File for ${reference.path}`} value={item.reading.links[reference.path] ?? reference.found ?? ''}
              onChange={(event) => void send({ do: 'link-texture', item: item.id, written: reference.path, path: event.target.value === '' ? null : event.target.value })}
            >
              <option value="">{reference.found === null ? 'not found: point to it' : 'by its name'}</option>
              {images.map((image) => (
                <option key={image.path} value={image.path}>{image.path}</option>
              ))}
            </select>
          </li>
        ))}
        {source?.references.length === 0 && <li className="text-ink-2">The materials ask for no textures.</li>}
      </ul>
      <p className="caption mt-2 mb-0.5">Files, kept as they came</p>
      <ul>
        {item.sources.map((each) => (
          <li key={each.path} className="flex justify-between gap-3">
            <span className="truncate">{each.path}</span>
            <span className="num text-ink-2">{formatBytes(each.bytes)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
