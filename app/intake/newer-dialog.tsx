import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import { formatCount } from '../ui/format'
import { StatusMark } from '../ui/status-mark'
import type { Newer } from '../workers/source-messages'

const stateWords = {
  same: 'as before',
  moved: 'stands elsewhere',
  changed: 'has another shape',
  added: 'is new',
  gone: 'is gone',
} as const
const size = (values: number[]): string => values.map((value) => String(Number(value.toPrecision(4)))).join(' × ')

/** What a newer source changes, before it is accepted. */
export function NewerDialog({ item, newer, onClose }: { item: CrateItem; newer: Newer | null; onClose: () => void }) {
  const { send } = useCrate()
  if (!newer) return null
  const { change } = newer
  const parts = change.parts.filter((part) => part.state !== 'same')
  const textures = change.textures.filter((texture) => texture.state !== 'same')
  const same = parts.length === 0 && textures.length === 0
  const accept = async (): Promise<void> => {
    await send({ do: 'replace-sources', item: item.id, main: newer.main, sources: newer.sources })
    onClose()
  }
  return (
    <DialogFrame
      open
      title={`A newer ${item.name}`}
      action="Take the newer one"
      onClose={onClose}
      onSubmit={() => void accept()}
      wide
    >
      <table className="w-full text-[13px]">
        <thead>
          <tr className="caption text-left">
            <th> </th>
            <th className="num text-right">Now</th>
            <th className="num text-right">Newer</th>
          </tr>
        </thead>
        <tbody>
          <tr className="border-b border-dashed border-edge">
            <td className="py-1">Triangles</td>
            <td className="num text-right">{formatCount(change.triangles.before)}</td>
            <td className="num text-right">{formatCount(change.triangles.after)}</td>
          </tr>
          <tr className="border-b border-dashed border-edge">
            <td className="py-1">Size, in units of the file</td>
            <td className="num text-right">{size(change.size.before)}</td>
            <td className="num text-right">{size(change.size.after)}</td>
          </tr>
          <tr>
            <td className="py-1">Parts</td>
            <td className="num text-right">{change.parts.filter((part) => part.before !== null).length}</td>
            <td className="num text-right">{change.parts.filter((part) => part.after !== null).length}</td>
          </tr>
        </tbody>
      </table>
      {same ? (
        <p>Parts and textures are the same as before.</p>
      ) : (
        <ul className="max-h-56 relative overflow-y-auto text-[13px]" aria-label="What changed" tabIndex={0}>
          {parts.map((part) => (
            <li
              key={part.name}
              className="grid grid-cols-[16px_1fr_auto] gap-2 border-b border-dashed border-edge py-1"
            >
              <StatusMark status={part.state === 'gone' ? 'risky' : 'note'} />
              <span>
                <b className="font-semibold">{part.name}</b> {stateWords[part.state]}
              </span>
              <span className="num text-ink-2">
                {part.before === null ? '' : formatCount(part.before)}
                {part.before !== null && part.after !== null ? ' → ' : ''}
                {part.after === null ? '' : formatCount(part.after)}
              </span>
            </li>
          ))}
          {textures.map((texture) => (
            <li key={texture.name} className="grid grid-cols-[16px_1fr] gap-2 border-b border-dashed border-edge py-1">
              <StatusMark status={texture.state === 'gone' ? 'risky' : 'note'} />
              <span>
                Texture <b className="font-semibold">{texture.name}</b>{' '}
                {texture.state === 'changed' ? 'has another picture' : stateWords[texture.state]}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="text-[13px] text-ink-2">
        The worklist runs again on the newer source. Steps whose part is gone say so and are passed over. Undo brings
        the present one back.
      </p>
    </DialogFrame>
  )
}
