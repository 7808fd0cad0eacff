import { Link } from 'react-router'
import { PackTreemap } from '../crate/pack-treemap'
import { useCrate } from '../crate/use-crate'
import { usePack } from '../queries/pack-queries'
import { formatMegabytes } from '../ui/format'

/** What takes room in the last pack, or how one comes to be. */
export function RoomInPack() {
  const { crate, rulebook } = useCrate()
  const pack = usePack(crate.id)
  if (pack === undefined) return <div />
  if (!pack || pack.files.length === 0)
    return (
      <div className="grid h-[300px] place-items-center rounded-xl border border-dashed border-edge-strong p-6 text-center text-ink-2">
        <p>
          Nothing was packed yet.{' '}
          <Link className="link" to={`/crate/${crate.id}/pack`}>
            Pack once
          </Link>{' '}
          to see which files take room.
        </p>
      </div>
    )
  return (
    <div>
      <PackTreemap pack={pack} size={{ width: 300, height: 300 }} />
      <p className="num text-[13px] text-ink-2">
        The archive has {formatMegabytes(pack.size)} of {formatMegabytes(rulebook.files.archive.largestBytes)}
      </p>
    </div>
  )
}
