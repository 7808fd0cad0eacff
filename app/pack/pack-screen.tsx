import { Download, PackageCheck } from 'lucide-react'
import { Link, useRevalidator } from 'react-router'
import type { Rulebook } from '../../core/game/schema'
import { namedAgainst } from '../../core/game/pack-order'
import { isEntryPath, isLookPath } from '../../core/game/templates'
import { hashValue } from '../../core/support/hashing'
import { CrateRouteBar } from '../crate/crate-route-bar'
import { WithRail } from '../crate/with-rail'
import { useCrate } from '../crate/use-crate'
import { usePacking } from '../crate/use-packing'
import type { PackFacts } from '../storage/database'
import { getPackBytes } from '../storage/packs'
import { download } from '../ui/download'
import { formatAgo, formatBytes } from '../ui/format'
import { GaugeBar } from '../ui/gauge-bar'
import { ProgressStrip } from '../ui/progress-strip'
import { StatusMark } from '../ui/status-mark'

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
                One archive for {rulebook.title}: meshes, looks, maps, entries, and a manifest with sizes
                {rulebook.files.manifest.checksums === 'none' ? '' : ' and checksums'}. The same crate always gives the
                same bytes.
              </p>
            </div>
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
          {pack && !progress && <PackedFiles pack={pack} current={current} />}
        </div>
      </WithRail>
    </>
  )
}

function PackedFiles({ pack, current }: { pack: PackFacts; current: boolean }) {
  const { crate, rulebook } = useCrate()
  const fileName = `${crate.id}.zip`
  const { base } = rulebook.files.archive
  const warnings = base === null ? [] : namedAgainst(fileName, base)
  const save = async (): Promise<void> => {
    const bytes = await getPackBytes(crate.id)
    if (bytes) download(bytes, fileName, 'application/zip')
  }
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
              ? `Packed, but ${pack.blocks} ${pack.blocks === 1 ? 'finding blocks' : 'findings block'}: the loader will refuse it`
              : current
                ? 'Packed; nothing blocks'
                : 'The crate was changed since; pack again before you share it'}
          </p>
          <p className="num truncate text-[12.5px] text-ink-2">
            {fileName} · {formatBytes(pack.size)} · {formatAgo(pack.packedAt, Date.now())} · sha256 {pack.sha256}
          </p>
        </div>
        <button type="button" className="button" onClick={() => void save()}>
          <Download size={16} aria-hidden="true" /> Download
        </button>
        <Link to={`/crate/${crate.id}/trial`} className="button-main">
          Try it
        </Link>
      </div>
      <ul className="mt-3 w-[330px]">
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
      <table className="mt-5 w-full text-left">
        <thead className="caption">
          <tr className="border-b border-edge-strong">
            <th scope="col" className="py-1.5 font-semibold">
              Path in the pack
            </th>
            <th scope="col" className="font-semibold">
              What it is
            </th>
            <th scope="col" className="text-right font-semibold">
              Size
            </th>
          </tr>
        </thead>
        <tbody>
          {pack.files.map((file) => (
            <tr key={file.path} className="border-b border-dashed border-edge">
              <td className="num py-1.5 text-[13px]">{file.path}</td>
              <td className="text-[13px] text-ink-2">{meaningOf(file.path, rulebook)}</td>
              <td className="num text-right text-[13px]">{formatBytes(file.bytes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const picture = /\.(?:dds|ktx2|png|tga|bmp|jpe?g|webp)$/i

function meaningOf(path: string, rulebook: Rulebook): string {
  if (path === rulebook.files.manifest.path)
    return rulebook.files.manifest.checksums === 'none'
      ? 'every file with its size'
      : 'every file with size and checksum'
  if (isEntryPath(path, rulebook)) return 'makes the item exist in the game'
  if (isLookPath(path, rulebook))
    return rulebook.materials.tinted ? 'finish and tint of each material' : 'which maps each material shows'
  if (path.endsWith(rulebook.files.mesh.ending)) return rulebook.halfBlocks ? 'the half-blocks' : 'the mesh'
  return path.endsWith(rulebook.files.texture.ending) || picture.test(path) ? 'a map' : 'belongs to the item'
}
