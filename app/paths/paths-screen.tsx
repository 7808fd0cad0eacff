import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import { pathSorts, type PathRow, type PathSort, type PathTrouble } from '../../core/crate/path-row'
import { fitsPattern } from '../../core/support/name-pattern'
import { useCrate } from '../crate/use-crate'
import { requestRuns } from '../queries/crate-runs'
import { plural } from '../ui/format'
import { StatusMark, type Status } from '../ui/status-mark'
import { VirtualBody } from '../ui/virtual-body'
import { RebaseBar } from './rebase-bar'
import { usePathRows } from './use-path-rows'

const troubleWords: Record<PathTrouble, string> = {
  missing: 'missing',
  unreadable: 'cannot be read',
  doubled: 'two files of that name',
  'own disk': 'on a disk of yours',
  'not a name': 'not a name here',
}
const troubleStatus: Record<PathTrouble, Status> = {
  missing: 'blocks',
  unreadable: 'risky',
  doubled: 'risky',
  'own disk': 'note',
  'not a name': 'blocks',
}

/** What is listed: files as a rule, since a scene may have hundreds of parts. */
const listings = {
  files: { label: 'files', sorts: ['mesh', 'picture'] },
  parts: { label: 'names of parts', sorts: ['part'] },
  materials: { label: 'names of materials', sorts: ['material'] },
  all: { label: 'files and names', sorts: pathSorts },
} as const satisfies Record<string, { label: string; sorts: readonly PathSort[] }>
type Listing = keyof typeof listings

const ROW_PIXELS = 45

/** Every file that the crate's items ask for: as written, as found, and as packed. */
export function PathsScreen() {
  const { crate, game } = useCrate()
  useEffect(() => {
    requestRuns(crate, game)
  }, [crate, game])
  const { rows: all, waiting } = usePathRows()
  const [listing, setListing] = useState<Listing>('files')
  const rows = useMemo(() => {
    const sorts: readonly PathSort[] = listings[listing].sorts
    return all.filter(({ sort }) => sorts.includes(sort))
  }, [all, listing])
  const [find, setFind] = useState('')
  const [trouble, setTrouble] = useState<PathTrouble | 'any' | ''>('')
  const shown = useMemo(
    () =>
      rows.filter(
        (row) =>
          (trouble === '' || (trouble === 'any' ? row.trouble !== null : row.trouble === trouble)) &&
          [row.item, row.asks, row.written, row.found ?? '', ...row.packed].some((each) => fitsPattern(each, find)),
      ),
    [rows, find, trouble],
  )
  const present = [...new Set(rows.flatMap((row) => row.trouble ?? []))]
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-hidden">
      <div className="mx-auto flex min-h-0 w-full max-w-[1500px] flex-1 flex-col gap-3 px-8 py-5">
        <div className="flex items-baseline justify-between gap-4">
          <h1 className="text-[26px]">Names and paths</h1>
          <Link to={`/crate/${crate.id}`} className="link text-[13px]">
            Whole crate
          </Link>
        </div>
        <div className="flex flex-wrap items-center gap-2 text-[13px]">
          <input
            className="field w-[240px]"
            aria-label="Find a path, item or material"
            placeholder="part of a path, or *_col.dds"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          <select
            className="field"
            aria-label="What is listed"
            value={listing}
            onChange={(event) => {
              setListing(event.target.value as Listing)
              setTrouble('')
            }}
          >
            {Object.entries(listings).map(([id, { label }]) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
          <select
            className="field"
            aria-label="What is wrong"
            value={trouble}
            onChange={(event) => setTrouble(event.target.value as PathTrouble | 'any' | '')}
          >
            <option value="">all of them</option>
            {present.length > 0 && <option value="any">with something to look at</option>}
            {present.map((each) => (
              <option key={each} value={each}>
                {troubleWords[each]} ({rows.filter((row) => row.trouble === each).length})
              </option>
            ))}
          </select>
          <span className="text-ink-2" role="status">
            <span className="num">
              {shown.length === rows.length ? rows.length : `${shown.length} of ${rows.length}`}
            </span>{' '}
            {listing === 'files' ? 'paths' : 'rows'}
            {waiting > 0 && `; ${plural(waiting, 'item')} still being read`}
          </span>
        </div>
        <RebaseBar rows={all} />
        {rows.length === 0 && waiting > 0 ? null : <PathTable rows={shown} />}
      </div>
    </main>
  )
}

function PathTable({ rows }: { rows: readonly PathRow[] }) {
  const { crate } = useCrate()
  const frame = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PIXELS,
    overscan: 8,
  })
  if (rows.length === 0)
    return <p className="py-6 text-center text-ink-2">Nothing is like that. Items that bring no files ask for none.</p>
  return (
    <div ref={frame} className="relative min-h-0 overflow-y-auto" tabIndex={0} role="group" aria-label="Paths">
      <table className="w-full table-fixed text-left text-[13px]" aria-rowcount={rows.length + 1}>
        <thead className="sticky top-0 z-10 bg-paper">
          <tr className="caption border-b border-edge-strong">
            <th scope="col" className="w-[18%] py-1.5 pr-4 font-semibold">
              Item and what
            </th>
            <th scope="col" className="w-[27%] py-1.5 pr-4 font-semibold">
              As the source wrote it
            </th>
            <th scope="col" className="w-[19%] py-1.5 pr-4 font-semibold">
              File or name
            </th>
            <th scope="col" className="py-1.5 font-semibold">
              As it is packed
            </th>
          </tr>
        </thead>
        <VirtualBody virtual={virtual} rowClass={() => 'align-top'}>
          {({ index }) => <PathCells row={rows[index]} crateId={crate.id} />}
        </VirtualBody>
      </table>
    </div>
  )
}

function PathCells({ row, crateId }: { row: PathRow; crateId: string }) {
  const { id, item, sort, asks, written, found, stock, packed, trouble } = row
  const isName = sort === 'part' || sort === 'material'
  return (
    <>
      <td className="py-1.5 pr-4">
        <Link to={`/crate/${crateId}/item/${id}?stage=intake`} className="font-semibold hover:underline">
          {item}
        </Link>
        <span className="block text-[12px] text-ink-2 [overflow-wrap:anywhere]">{asks}</span>
      </td>
      <td className="num py-1.5 pr-4 text-[12px] [overflow-wrap:anywhere]">{written}</td>
      <td className="py-1.5 pr-4 [overflow-wrap:anywhere]">
        {trouble !== null && (
          <span className="flex items-center gap-1.5">
            <StatusMark status={troubleStatus[trouble]} />{' '}
            {isName && trouble === 'doubled' ? 'stands twice' : troubleWords[trouble]}
          </span>
        )}
        {stock !== null ? (
          <span className="text-ink-2">the game’s own</span>
        ) : isName ? (
          trouble === null && <span className="text-ink-2">{packed[0] === written ? 'kept' : 'renamed'}</span>
        ) : (
          found !== null && <span className="num text-[12px] text-ink-2">{found === written ? 'the same' : found}</span>
        )}
      </td>
      <td className="num py-1.5 text-[11.5px] [overflow-wrap:anywhere]">
        {packed.length === 0 ? <span className="text-ink-2">not packed</span> : packed.join(', ')}
      </td>
    </>
  )
}
