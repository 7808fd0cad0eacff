import { useRef, useState, type ReactNode } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { formatBytes, formatCount } from '../ui/format'
import type { SourceReport } from '../workers/source-messages'
import type { SceneData } from '../workers/scene-data'
import { AxesDialog } from './axes-dialog'
import { NewerDialog } from './newer-dialog'
import { SizeDialog } from './size-dialog'
import { useNewer } from './use-newer'

const provenance: Record<string, string> = {
  declared: 'the file says so',
  customary: 'usual for this format',
  chosen: 'you chose it',
  unknown: 'nobody says',
  guess: 'a guess by its size',
}
const shownAxis = (axis: string): string => axis.toUpperCase().replace('-', '−')
const metres = (value: number): string =>
  value >= 100 ? String(Math.round(value)) : String(Number(value.toPrecision(3)))

/** The source in numbers: files, counts, unit and axes with where they are known from. */
export function SourceSummary({
  item,
  source,
  scene,
}: {
  item: CrateItem
  source: SourceReport
  scene: SceneData | null
}) {
  const [choosing, setChoosing] = useState<'size' | 'axes' | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const newer = useNewer(item)
  const [first] = source.sizes
  return (
    <div
      className="flex min-h-0 flex-col gap-1.5 relative overflow-y-auto px-3 py-2"
      tabIndex={0}
      role="group"
      aria-label="The source in numbers"
    >
      <p className="caption">What came in</p>
      <p>
        <b className="num font-semibold">{formatCount(source.triangles)}</b> triangles in{' '}
        <b className="num font-semibold">{source.parts.length}</b> {source.parts.length === 1 ? 'part' : 'parts'}
        {source.bones > 0 && (
          <>
            , <b className="num font-semibold">{source.bones}</b> bones
          </>
        )}
        {source.clips.length > 0 && (
          <>
            , <b className="num font-semibold">{source.clips.length}</b>{' '}
            {source.clips.length === 1 ? 'motion' : 'motions'}
          </>
        )}
      </p>
      <Fact
        title="Size"
        value={`${first.metres.map(metres).join(' × ')} m`}
        note={`in ${first.unit}: ${provenance[first.why] ?? first.why}`}
        action="Choose by looking"
        onAction={() => setChoosing('size')}
      />
      <Fact
        title="Axes"
        value={`${shownAxis(source.axes.up)} up, ${shownAxis(source.axes.forward)} forward`}
        note={provenance[source.axes.from] ?? ''}
        action="Choose by looking"
        onAction={() => setChoosing('axes')}
      />
      <details>
        <summary className="caption cursor-pointer">
          {item.sources.length} {item.sources.length === 1 ? 'file' : 'files'}, kept as they came
        </summary>
        <ul>
          {item.sources.map((each) => (
            <li key={each.path} className="flex justify-between gap-2">
              <span className="truncate" title={each.path}>
                {each.path.split('/').pop()}
              </span>
              <span className="num shrink-0 text-ink-2">{formatBytes(each.bytes)}</span>
            </li>
          ))}
        </ul>
      </details>
      <div className="mt-auto flex flex-wrap gap-x-3 gap-y-0.5">
        <button
          type="button"
          className="link"
          disabled={newer.reading !== null}
          onClick={() => picker.current?.click()}
        >
          Bring newer
        </button>
        {newer.canWatch && (
          <button type="button" className="link" onClick={() => void newer.watch()}>
            {newer.watched === null ? 'Watch the file' : `Watching ${newer.watched}`}
          </button>
        )}
        {newer.reading !== null && (
          <span role="status" className="text-ink-2">
            {newer.reading}
          </span>
        )}
      </div>
      <input
        ref={picker}
        type="file"
        multiple
        className="hidden"
        aria-label="Newer files"
        onChange={(event) => {
          if (event.target.files)
            void newer.bring(event.target.files).finally(() => {
              event.target.value = ''
            })
        }}
      />
      <SizeDialog
        open={choosing === 'size'}
        item={item}
        source={source}
        scene={scene}
        onClose={() => setChoosing(null)}
      />
      <AxesDialog
        open={choosing === 'axes'}
        item={item}
        source={source}
        scene={scene}
        onClose={() => setChoosing(null)}
      />
      <NewerDialog item={item} newer={newer.found} onClose={newer.dismiss} />
    </div>
  )
}

function Fact({
  title,
  value,
  note,
  action,
  onAction,
}: {
  title: string
  value: ReactNode
  note: string
  action: string
  onAction: () => void
}) {
  return (
    <div>
      <p className="flex justify-between gap-2">
        <span className="caption">{title}</span>
        <button type="button" className="link" onClick={onAction} aria-label={`${title}: ${action.toLowerCase()}`}>
          {action}
        </button>
      </p>
      <p className="num">{value}</p>
      <p className="text-ink-2">{note}</p>
    </div>
  )
}
