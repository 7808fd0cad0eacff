import { hierarchy, treemap, treemapSquarify, type HierarchyRectangularNode } from 'd3'
import { useState } from 'react'
import type { FileSort } from '../../core/pack/packed-file'
import type { PackedFileFacts, PackFacts } from '../storage/database'
import { formatBytes, formatMegabytes, plural } from '../ui/format'

/** What files are called that are for one thing, and how they are drawn. */
export const sortNames: Record<FileSort, { title: string; fill: string }> = {
  mesh: { title: 'Meshes', fill: '#bcd3c8' },
  map: { title: 'Maps', fill: '#e3c99a' },
  look: { title: 'Looks', fill: '#cfd9e6' },
  material: { title: 'Material texts', fill: '#d9cfe0' },
  entry: { title: 'Entries', fill: '#e2d6cb' },
  manifest: { title: 'Manifest', fill: '#e9e4d8' },
}

type Grouping = 'item' | 'sort'
interface Group {
  title: string
  children: PackedFileFacts[]
}
type Node = { children: Group[] } | Group | PackedFileFacts

/** Whose a file is: its item’s, everybody’s where several ask for it, or the pack’s own. */
function ownerOf({ askedBy = [] }: PackedFileFacts): string {
  const items = new Set(askedBy.flatMap(({ item }) => item ?? []))
  if (items.size > 1) return 'Shared'
  return [...items][0] ?? 'The pack itself'
}

function groupsOf(files: readonly PackedFileFacts[], by: Grouping): Group[] {
  const groups = new Map<string, PackedFileFacts[]>()
  for (const file of files) {
    const title = by === 'item' ? ownerOf(file) : file.sort ? sortNames[file.sort].title : 'Files'
    groups.set(title, [...(groups.get(title) ?? []), file])
  }
  return [...groups].map(([title, children]) => ({ title, children }))
}

interface PackTreemapProps {
  pack: PackFacts
  /** In pixels of the drawing, which takes the width that it is given. */
  size: { width: number; height: number }
}

/** The files of a pack as areas, by item or by what they are, so that what takes room is seen at once. */
export function PackTreemap({ pack, size }: PackTreemapProps) {
  const [by, setBy] = useState<Grouping>('item')
  const total = pack.files.reduce((sum, file) => sum + file.bytes, 0)
  const groups = groupsOf(pack.files, by)
  const root = treemap<Node>()
    .size([size.width, size.height])
    .paddingInner(2)
    .paddingTop((node) => (hasHeading(node) ? 18 : 0))
    .round(true)
    .tile(treemapSquarify)(
    hierarchy<Node>({ children: groups }, (node) => ('children' in node ? node.children : undefined))
      // The smallest are drawn a little too large, so that they are there at all.
      .sum((node) => ('bytes' in node ? Math.max(node.bytes, total / 600) : 0))
      .sort((a, b) => (b.value ?? 0) - (a.value ?? 0)),
  )
  const used = [...new Set(pack.files.flatMap(({ sort }) => sort ?? []))]
  return (
    <figure>
      <div className="mb-2 flex items-center gap-1.5" role="group" aria-label="Areas by">
        {(['item', 'sort'] as const).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={by === each}
            className={`button px-2.5 text-[13px] ${by === each ? 'border-spruce font-semibold' : ''}`}
            onClick={() => setBy(each)}
          >
            {each === 'item' ? 'By item' : 'By what it is'}
          </button>
        ))}
      </div>
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        role="img"
        aria-label={`What takes room: ${groups.map(({ title, children }) => `${title} ${formatBytes(children.reduce((sum, { bytes }) => sum + bytes, 0))}`).join(', ')}`}
        className="w-full rounded-lg"
      >
        {root.children?.map((group) => (
          <GroupArea key={(group.data as Group).title} group={group} />
        ))}
      </svg>
      <ul className="mt-1.5 flex flex-wrap gap-x-3 text-[12.5px] text-ink-2">
        {used.map((sort) => (
          <li key={sort} className="flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className="size-2.5 rounded-[2px] border border-edge-strong"
              style={{ background: sortNames[sort].fill }}
            />
            {sortNames[sort].title}
          </li>
        ))}
      </ul>
      <figcaption className="num mt-1.5 text-[13px] text-ink-2">
        {formatMegabytes(total)} unpacked in {plural(pack.files.length, 'file')}
      </figcaption>
    </figure>
  )
}

/** Whether a group’s area has room for its name above its files. */
const hasHeading = ({ depth, x0, x1, y0, y1 }: HierarchyRectangularNode<Node>): boolean =>
  depth === 1 && x1 - x0 > 40 && y1 - y0 > 34

function GroupArea({ group }: { group: HierarchyRectangularNode<Node> }) {
  const { title } = group.data as Group
  return (
    <g>
      {hasHeading(group) && (
        <text x={group.x0 + 2} y={group.y0 + 13} fontSize={12} fontWeight={650} fill="#26302d">
          {shortened(title, group.x1 - group.x0 - 4)}
        </text>
      )}
      {group.leaves().map((leaf) => (
        <FileArea key={(leaf.data as PackedFileFacts).path} leaf={leaf} />
      ))}
    </g>
  )
}

function FileArea({ leaf }: { leaf: HierarchyRectangularNode<Node> }) {
  const file = leaf.data as PackedFileFacts
  const width = leaf.x1 - leaf.x0
  const height = leaf.y1 - leaf.y0
  const name = file.path.split('/').pop() ?? file.path
  return (
    <g transform={`translate(${leaf.x0} ${leaf.y0})`}>
      <rect
        width={width}
        height={height}
        rx={3}
        fill={file.sort ? sortNames[file.sort].fill : '#e4ddcf'}
        stroke="#b9aa90"
        strokeWidth={0.5}
      >
        <title>{`${file.path}, ${formatBytes(file.bytes)}`}</title>
      </rect>
      {width > 74 && height > 34 && (
        <text x={6} y={16} fontSize={11.5} fill="#26302d">
          {shortened(name, width - 8)}
          <tspan x={6} dy={14}>
            {formatBytes(file.bytes)}
          </tspan>
        </text>
      )}
    </g>
  )
}

const PIXELS_A_LETTER = 6.4

const shortened = (text: string, width: number): string =>
  text.length > width / PIXELS_A_LETTER
    ? `${text.slice(0, Math.max(1, Math.floor(width / PIXELS_A_LETTER) - 1))}…`
    : text
