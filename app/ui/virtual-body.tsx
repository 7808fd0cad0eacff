import type { Virtualizer, VirtualItem } from '@tanstack/react-virtual'
import type { ReactNode } from 'react'

interface VirtualBodyProps {
  virtual: Virtualizer<HTMLDivElement, Element>
  /** How a row looks beside its rule. */
  rowClass: (index: number) => string
  /** The cells of a row. */
  children: (row: VirtualItem) => ReactNode
}

/** The body of a table of as many rows as there are: those in sight, between two rows as high as all the others. */
export function VirtualBody({ virtual, rowClass, children }: VirtualBodyProps) {
  const drawn = virtual.getVirtualItems()
  const above = drawn.at(0)?.start ?? 0
  const below = virtual.getTotalSize() - (drawn.at(-1)?.end ?? 0)
  return (
    <tbody>
      {above > 0 && <Space pixels={above} />}
      {drawn.map((row) => (
        <tr
          key={row.key}
          ref={virtual.measureElement}
          data-index={row.index}
          aria-rowindex={row.index + 2}
          className={`border-b border-dashed border-edge ${rowClass(row.index)}`}
        >
          {children(row)}
        </tr>
      ))}
      {below > 0 && <Space pixels={below} />}
    </tbody>
  )
}

const Space = ({ pixels }: { pixels: number }) => (
  <tr aria-hidden="true">
    <td style={{ height: pixels, padding: 0 }} />
  </tr>
)
