import { hierarchy, treemap, treemapSquarify } from 'd3'
import { Link } from 'react-router'
import { useCrate } from '../crate/use-crate'
import { usePack } from '../queries/pack-queries'
import { formatBytes, formatMegabytes } from '../ui/format'

const size = { width: 300, height: 300 }
const tints: Record<string, string> = { dds: '#d9c09a', glb: '#bcd3c8', json: '#d3dbe2' }

interface FileNode {
  path: string
  bytes: number
}

/** The files of the last pack as areas, so that what takes room is seen at once. */
export function PackMap() {
  const { crate, rulebook } = useCrate()
  const pack = usePack(crate.id)
  if (pack === undefined) return <div />
  const files: FileNode[] = pack?.files ?? []
  if (files.length === 0) {
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
  }
  const total = files.reduce((sum, file) => sum + file.bytes, 0)
  const root = treemap<FileNode | { children: FileNode[] }>()
    .size([size.width, size.height])
    .paddingInner(2)
    .round(true)
    .tile(treemapSquarify)(
    hierarchy<FileNode | { children: FileNode[] }>({ children: files }, (node) =>
      'children' in node ? node.children : undefined,
    )
      .sum((node) => ('bytes' in node ? Math.max(node.bytes, total / 400) : 0))
      .sort((a, b) => (b.value ?? 0) - (a.value ?? 0)),
  )
  return (
    <figure>
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        role="img"
        aria-label={`The pack: ${files.map((file) => `${file.path} ${formatBytes(file.bytes)}`).join(', ')}`}
        className="w-full rounded-lg"
      >
        {root.leaves().map((leaf) => {
          const file = leaf.data as FileNode
          const width = leaf.x1 - leaf.x0
          const height = leaf.y1 - leaf.y0
          const name = file.path.split('/').pop() ?? file.path
          return (
            <g key={file.path} transform={`translate(${leaf.x0} ${leaf.y0})`}>
              <rect
                width={width}
                height={height}
                rx={3}
                fill={tints[name.split('.').pop() ?? ''] ?? '#e4ddcf'}
                stroke="#b9aa90"
                strokeWidth={0.5}
              >
                <title>{`${file.path}, ${formatBytes(file.bytes)}`}</title>
              </rect>
              {width > 74 && height > 34 && (
                <text x={6} y={17} fontSize={11.5} fontWeight={600} fill="#26302d">
                  {name.length > width / 6.4 ? `${name.slice(0, Math.floor(width / 6.4) - 1)}…` : name}
                  <tspan x={6} dy={14} fontWeight={400}>
                    {formatBytes(file.bytes)}
                  </tspan>
                </text>
              )}
            </g>
          )
        })}
      </svg>
      <figcaption className="num mt-2 text-[13px] text-ink-2">
        {formatMegabytes(total)} unpacked in {files.length} files; the archive may have{' '}
        {formatMegabytes(rulebook.files.archive.largestBytes)}
      </figcaption>
    </figure>
  )
}
