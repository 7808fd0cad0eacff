import { PackageCheck } from 'lucide-react'
import { Link, useRevalidator } from 'react-router'
import type { Rulebook } from '../../core/game/schema'
import { namedAgainst } from '../../core/game/pack-order'
import { hashValue } from '../../core/support/hashing'
import { PackTreemap } from '../crate/pack-treemap'
import { CrateRouteBar } from '../crate/crate-route-bar'
import { WithRail } from '../crate/with-rail'
import { useCrate } from '../crate/use-crate'
import { usePacking } from '../crate/use-packing'
import type { PackFacts } from '../storage/database'
import { formatAgo, formatBytes } from '../ui/format'
import { GaugeBar } from '../ui/gauge-bar'
import { ProgressStrip } from '../ui/progress-strip'
import { StatusMark } from '../ui/status-mark'
import { BesidePacks } from './beside-packs'
import { PackChanges, StayedOut } from './pack-changes'
import { PackedFiles } from './packed-files'
import { SaveMenu } from './save-menu'

/** Makes the archive the game loads, and shows what is in it. */
export function PackScreen({ pack }: { pack: PackFacts | null }) {
  const { crate, rulebook } = useCrate()
  const { revalidate } = useRevalidator()
  const { progress, pack: packNow, stop } = usePacking()
  const current = pack !== null && pack.crateHash === hashValue(crate)
  const run = (): Promise<void> => packNow(() => revalidate())

  return (
    <>
      <CrateRouteBar current="pack" />
      <WithRail crate={crate}>
        <div className="min-w-0 flex-1 relative overflow-y-auto px-8 py-6">
          <div className="flex items-center gap-4">
            <div className="flex-1">
              <h1 className="text-[26px]">The pack</h1>
              <p className="text-ink-2">
                Everything that {rulebook.title} has to find, {manner(rulebook.files.archive.writer)}, and nothing that
                no one asks for. The same crate always gives the same bytes.
              </p>
            </div>
            <Link to={`/crate/${crate.id}/paths`} className="link text-[13px]">
              Names and paths
            </Link>
            <button
              type="button"
              className={pack && current ? 'button' : 'button-main'}
              onClick={() => void run()}
              disabled={progress !== null || crate.items.length === 0}
            >
              {pack ? 'Pack again' : 'Pack now'}
            </button>
          </div>
          {crate.items.length === 0 && (
            <p className="mt-6">
              The crate is empty.{' '}
              <Link className="link" to={`/crate/${crate.id}`}>
                Bring an item first.
              </Link>
            </p>
          )}
          {progress && (
            <div className="mt-5 rounded-lg border border-edge-strong bg-slip px-4 py-3">
              <ProgressStrip
                title={progress.title}
                doing={progress.doing}
                fraction={progress.fraction}
                of="of the work"
                onStop={stop}
              />
            </div>
          )}
          {!pack && !progress && crate.items.length > 0 && (
            <div className="mt-8 grid place-items-center rounded-xl border border-dashed border-edge-strong p-10 text-center text-ink-2">
              <PackageCheck size={30} aria-hidden="true" />
              <p className="mt-2">
                Nothing was packed yet. Packing runs every worklist to its end and writes the archive; findings that
                block do not stop it, but the loader will refuse it.
              </p>
            </div>
          )}
          {pack && !progress && <ThePack pack={pack} current={current} />}
        </div>
      </WithRail>
    </>
  )
}

const manner = (writer: Rulebook['files']['archive']['writer']): string =>
  writer === 'folder' ? 'file by file' : 'in one archive'

function ThePack({ pack, current }: { pack: PackFacts; current: boolean }) {
  const { crate, rulebook } = useCrate()
  const fileName = `${crate.id}.zip`
  const { base, writer } = rulebook.files.archive
  const warnings = base === null ? [] : namedAgainst(fileName, base)
  return (
    <section className="mt-6">
      {warnings.map((warning) => (
        <p key={warning} className="mb-3 flex items-center gap-2 rounded-lg border border-edge bg-slip px-4 py-2">
          <StatusMark status="risky" size={14} /> {warning}
        </p>
      ))}
      <div className="flex items-center gap-4 rounded-lg border border-edge bg-slip px-4 py-3">
        <StatusMark status={pack.blocks > 0 ? 'blocks' : current ? 'clear' : 'note'} size={14} />
        <div className="min-w-0 flex-1">
          <p className="font-semibold">
            {pack.blocks > 0
              ? `Packed, but ${pack.blocks} ${pack.blocks === 1 ? 'finding blocks' : 'findings block'}: the ` +
                'loader will refuse it'
              : current
                ? 'Packed; nothing blocks'
                : 'The crate was changed since; pack again before you share it'}
          </p>
          <p className="num truncate text-[12.5px] text-ink-2">
            {fileName} · {formatBytes(pack.size)} · {formatAgo(pack.packedAt, Date.now())} · sha256 {pack.sha256}
          </p>
          {writer === 'folder' && (
            <p className="text-[12.5px] text-ink-2">
              Unpack it in the game’s folder: every file goes where it belongs.
            </p>
          )}
        </div>
        <SaveMenu pack={pack} fileName={fileName} />
        <Link to={`/crate/${crate.id}/trial`} className="button-main">
          Try it
        </Link>
      </div>
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)_330px] gap-x-8">
        <div>
          <h2 className="sr-only">What takes room</h2>
          <PackTreemap pack={pack} size={{ width: 560, height: 250 }} />
        </div>
        <div className="min-w-0">
          <ul className="mb-4">
            <GaugeBar
              gauge={{
                label: 'Archive',
                value: pack.size,
                limit: rulebook.files.archive.largestBytes,
                least: 0,
                unit: 'bytes',
              }}
            />
          </ul>
          {pack.changes !== undefined && <PackChanges changes={pack.changes} />}
          <StayedOut leftOut={pack.leftOut ?? []} />
        </div>
      </div>
      <PackedFiles pack={pack} />
      <BesidePacks key={pack.sha256} fileName={fileName} />
    </section>
  )
}
