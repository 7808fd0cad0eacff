import { useRef } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { readPicked } from '../crate/file-drop'
import { tellError } from '../ui/notify'
import { StatusMark } from '../ui/status-mark'
import { bringImages } from '../workers/clients'
import type { SourceReport } from '../workers/source-messages'
import { TextureDialog } from './texture-dialog'

type Reference = SourceReport['references'][number]
const nameOf = (path: string): string => path.split(/[\\/]/).pop() ?? path

/** Every texture that the materials ask for, as written, with what was found. */
export function TextureList({
  item,
  source,
  linking,
  onLinking,
}: {
  item: CrateItem
  source: SourceReport
  linking: string | null
  onLinking: (path: string | null) => void
}) {
  const { send } = useCrate()
  const picker = useRef<HTMLInputElement>(null)
  const bring = async (files: FileList | null): Promise<void> => {
    if (!files || files.length === 0) return
    try {
      await send({ do: 'add-sources', item: item.id, sources: await bringImages(await readPicked(files)) })
    } catch (error) {
      tellError(error)
    }
  }
  return (
    <div className="flex min-h-0 min-w-0 flex-col border-l border-edge px-3 pt-2">
      <div className="flex justify-between pb-1">
        <p className="caption">Textures asked for</p>
        <button type="button" className="link" onClick={() => picker.current?.click()}>
          Bring more images
        </button>
      </div>
      <input
        ref={picker}
        type="file"
        multiple
        className="hidden"
        aria-label="More images"
        onChange={(event) =>
          void bring(event.target.files).finally(() => {
            event.target.value = ''
          })
        }
      />
      <ul className="min-h-0 flex-1 relative overflow-y-auto" aria-label="Textures asked for" tabIndex={0}>
        {source.references.map((reference, index) => (
          <li
            key={`${reference.material} ${reference.path} ${index}`}
            className="grid grid-cols-[16px_1fr_auto] gap-2 border-b border-dashed border-edge py-1"
          >
            <StatusMark status={statusOf(reference)} />
            <span className="min-w-0">
              <span className="block truncate" title={`${reference.material}: ${reference.path}`}>
                <b className="font-semibold">{reference.role}</b> {nameOf(reference.path)}
              </span>
              <span
                className="block truncate text-ink-2"
                title={reference.problem ?? reference.found ?? reference.path}
              >
                {outcome(reference)}
              </span>
            </span>
            <button
              type="button"
              className="link"
              aria-label={`Choose the file for ${reference.path}`}
              onClick={() => onLinking(reference.path)}
            >
              {reference.found === null && reference.stock === null ? 'Point to it' : 'Change'}
            </button>
          </li>
        ))}
        {source.references.length === 0 && <li className="py-1 text-ink-2">The materials ask for no textures.</li>}
      </ul>
      <TextureDialog
        item={item}
        references={source.references}
        path={linking}
        onClose={() => onLinking(null)}
        onBringMore={() => picker.current?.click()}
      />
    </div>
  )
}

function statusOf(reference: Reference): 'blocks' | 'risky' | 'clear' {
  if (reference.stock !== null) return 'clear'
  if (reference.found === null) return 'blocks'
  return reference.problem === null ? 'clear' : 'risky'
}

function outcome(reference: Reference): string {
  if (reference.stock !== null) return `the game’s own: ${reference.stock}`
  if (reference.found === null) return 'not found'
  if (reference.problem !== null) return 'found, but not readable'
  const size = reference.pixels ? `${reference.pixels.width} × ${reference.pixels.height}` : ''
  return `${nameOf(reference.found)}${size === '' ? '' : ` · ${size}`}`
}
