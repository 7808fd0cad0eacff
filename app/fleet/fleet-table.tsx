import { createColumnHelper, FlexRender, tableFeatures, useTable, type Row } from '@tanstack/react-table'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { memo, useRef, type ReactNode } from 'react'
import { useSteady } from '../ui/use-steady'
import { VirtualBody } from '../ui/virtual-body'
import { EntryLink, Findings, GaugeCell, ItemName, KindChoice, Remove, SlotChoice } from './cells'
import { FleetHomeContext, useFleetHome, useNewFleetHome } from './fleet-home'
import { nextSort, type FleetRow, type FleetSort } from './fleet-rows'

const features = tableFeatures({})
const helper = createColumnHelper<typeof features, FleetRow>()

/** What counts most in a game: what it is built of, and what its pictures take. */
const gaugesOf = (ofHalfBlocks: boolean, withMaps: boolean): { id: string; label: string }[] => [
  ofHalfBlocks ? { id: 'half-blocks', label: 'Half-blocks' } : { id: 'triangles', label: 'Triangles' },
  ...(withMaps ? [{ id: 'texture-memory', label: 'Texture memory' }] : []),
]

const columnsOf = (gauges: readonly { id: string; label: string }[]) =>
  helper.columns([
    helper.display({ id: 'item', header: 'Item', cell: ({ row }) => <ItemName item={row.original.item} /> }),
    helper.display({
      id: 'kind',
      header: 'Kind',
      cell: ({ row }) => (
        <div className="flex flex-col items-start gap-1">
          <KindChoice item={row.original.item} />
          <OwnSlot item={row.original.item} />
        </div>
      ),
    }),
    ...gauges.map(({ id, label }) =>
      helper.display({
        id: `gauge ${id}`,
        header: label,
        cell: ({ row }) => <GaugeCell row={row.original} gauge={id} />,
      }),
    ),
    helper.display({ id: 'findings', header: 'Findings', cell: ({ row }) => <Findings row={row.original} /> }),
    helper.display({
      id: 'entry',
      header: 'Entry',
      cell: ({ row }) => <EntryLink item={row.original.item} />,
    }),
    helper.display({
      id: 'remove',
      header: () => <span className="sr-only">Remove</span>,
      cell: ({ row }) => <Remove item={row.original.item} />,
    }),
  ])

/** Made once: cells of columns that were made anew would be taken out of the page and put in again at each progress. */
const columnSets = new Map<string, ReturnType<typeof columnsOf>>()

function columnsFor(ofHalfBlocks: boolean, withMaps: boolean): ReturnType<typeof columnsOf> {
  const key = `${ofHalfBlocks} ${withMaps}`
  const known = columnSets.get(key) ?? columnsOf(gaugesOf(ofHalfBlocks, withMaps))
  columnSets.set(key, known)
  return known
}

/** A row with a picture is this high, unless more stands in it. */
const ROW_PIXELS = 61
const sortable = /^(?:item|kind|findings|gauge .*)$/

export interface FleetTableProps {
  rows: readonly FleetRow[]
  sort: FleetSort
  onSort: (sort: FleetSort) => void
  selected: ReadonlySet<string>
  /** @param upTo whether all between this one and the last that was pressed go with it */
  onSelect: (item: string, on: boolean, upTo: boolean) => void
  onSelectAll: (on: boolean) => void
}

/** The crate's items, each with its gauges and what was found: as many as there are, those in sight drawn. */
export function FleetTable({ rows, sort, onSort, selected, onSelect, onSelectAll }: FleetTableProps) {
  const home = useNewFleetHome()
  const { rulebook } = home.game
  const select = useSteady(onSelect)
  const columns = columnsFor(rulebook.halfBlocks !== null, rulebook.maps.roles.length > 0)
  const table = useTable({ features, data: rows as FleetRow[], columns, getRowId: ({ item }) => item.id })
  const frame = useRef<HTMLDivElement>(null)
  const all = table.getRowModel().rows
  const virtual = useVirtualizer({
    count: all.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PIXELS,
    getItemKey: (index) => all[index].id,
    overscan: 6,
  })
  const chosen = rows.filter(({ item }) => selected.has(item.id)).length
  return (
    <FleetHomeContext value={home}>
      <div ref={frame} className="relative min-h-0 overflow-y-auto" tabIndex={0} role="group" aria-label="Items">
        <table className="w-full text-left" aria-rowcount={rows.length + 1}>
          <thead className="sticky top-0 z-10 bg-paper">
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id} className="caption border-b border-edge-strong">
                <th scope="col" className="w-7 py-1.5">
                  <input
                    type="checkbox"
                    aria-label="Choose all that are shown"
                    checked={rows.length > 0 && chosen === rows.length}
                    ref={(box) => {
                      if (box) box.indeterminate = chosen > 0 && chosen < rows.length
                    }}
                    onChange={(event) => onSelectAll(event.target.checked)}
                  />
                </th>
                {group.headers.map((header) => (
                  <Head key={header.id} id={header.id} sort={sort} onSort={onSort}>
                    <table.FlexRender header={header} />
                  </Head>
                ))}
              </tr>
            ))}
          </thead>
          <VirtualBody
            virtual={virtual}
            rowClass={(index) => (selected.has(all[index].original.item.id) ? 'bg-spruce-wash' : '')}
          >
            {({ index }) => (
              <Cells
                row={all[index]}
                of={all[index].original}
                columns={columns}
                chosen={selected.has(all[index].original.item.id)}
                onSelect={select}
              />
            )}
          </VirtualBody>
        </table>
      </div>
    </FleetHomeContext>
  )
}

interface CellsProps extends Pick<FleetTableProps, 'onSelect'> {
  row: Row<typeof features, FleetRow>
  /** What the row is of: the table makes its rows anew whenever one of them is another. */
  of: FleetRow
  columns: ReturnType<typeof columnsOf>
  chosen: boolean
}

const Cells = memo(
  function Cells({ row, of: { item }, chosen, onSelect }: CellsProps) {
    return (
      <>
        <td className="py-2">
          <input
            type="checkbox"
            aria-label={`Choose ${item.name}`}
            checked={chosen}
            onChange={(event) => onSelect(item.id, event.target.checked, (event.nativeEvent as MouseEvent).shiftKey)}
          />
        </td>
        {row.getAllCells().map((cell) => (
          <td key={cell.id} className="py-2 pr-4">
            <FlexRender cell={cell} />
          </td>
        ))}
      </>
    )
  },
  (a, b) => a.of === b.of && a.columns === b.columns && a.chosen === b.chosen && a.onSelect === b.onSelect,
)

/** Only in games of numbered places, since it looks at all other items. */
function OwnSlot({ item }: { item: FleetRow['item'] }) {
  const { game } = useFleetHome()
  return game.rulebook.slots && <SlotChoice item={item} />
}

interface HeadProps {
  id: string
  sort: FleetSort
  onSort: (sort: FleetSort) => void
  children: ReactNode
}

function Head({ id, sort, onSort, children }: HeadProps) {
  if (!sortable.test(id))
    return (
      <th scope="col" className="py-1.5 pr-4 font-semibold">
        {children}
      </th>
    )
  const by = id as NonNullable<FleetSort['by']>
  const on = sort.by === by
  const Arrow = sort.descending ? ArrowDown : ArrowUp
  return (
    <th
      scope="col"
      className="py-1.5 pr-4 font-semibold"
      aria-sort={on ? (sort.descending ? 'descending' : 'ascending') : 'none'}
    >
      <button
        type="button"
        className="flex items-center gap-1 whitespace-nowrap hover:text-spruce"
        onClick={() => onSort(nextSort(sort, by))}
      >
        {children}
        {on && <Arrow size={13} aria-hidden="true" />}
      </button>
    </th>
  )
}
