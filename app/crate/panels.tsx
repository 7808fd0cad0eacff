import { useLayoutEffect, useRef, type ReactNode } from 'react'
import { Group, Panel, Separator, type PanelImperativeHandle } from 'react-resizable-panels'
import { getPanelSizes, putPanelSizes } from '../storage/settings'

const kept = new Map<string, number>()

/** Reads the sizes that panels were dragged to, before the first page of a crate is shown. */
export async function loadPanelSizes(): Promise<void> {
  if (kept.size > 0) return
  for (const [id, size] of Object.entries(await getPanelSizes().catch(() => ({})))) kept.set(id, size)
}

function keep(id: string, pixels: number): void {
  kept.set(id, Math.round(pixels))
  // A full store keeps no sizes, and that is all.
  void putPanelSizes(Object.fromEntries(kept)).catch(() => undefined)
}

interface SplitProps {
  /** What its size is kept under; another one gives it the size of that, and what stands in it stays as it is. */
  id: string
  orientation: 'horizontal' | 'vertical'
  /** Which of the two keeps its size when the window grows, with its usual, least and largest size in pixels. */
  sized: 'first' | 'second'
  pixels: number
  least: number
  most: number
  /** What dragging the line between them does, for who does not see it. */
  label: string
  first: ReactNode
  second: ReactNode
}

const LEAST_OF_OTHER = 160

/** Two panels with a line between them that is dragged, or moved with the arrow keys; sizes stay. */
export function Split({ id, orientation, sized, pixels, least, most, label, first, second }: SplitProps) {
  const panel = useRef<PanelImperativeHandle>(null)
  const size = kept.get(id) ?? pixels
  // The panels stand where they are from the start; another desk in the same place only wants another size.
  useLayoutEffect(() => panel.current?.resize(kept.get(id) ?? pixels), [id, pixels])
  const own = {
    panelRef: panel,
    defaultSize: size,
    minSize: least,
    maxSize: most,
    groupResizeBehavior: 'preserve-pixel-size',
  } as const
  const rest = { minSize: LEAST_OF_OTHER } as const
  return (
    <Group
      orientation={orientation}
      onLayoutChanged={(_, { isUserInteraction }) => {
        // The panel is measured once it is drawn in the new layout.
        if (isUserInteraction) requestAnimationFrame(() => panel.current && keep(id, panel.current.getSize().inPixels))
      }}
      className="min-h-0 min-w-0 flex-1"
    >
      <Panel className="flex min-h-0 min-w-0" {...(sized === 'first' ? own : rest)}>
        {first}
      </Panel>
      <Separator
        aria-label={label}
        className={
          orientation === 'vertical'
            ? 'h-[3px] bg-ink outline-offset-2 hover:bg-spruce data-[separator=active]:bg-spruce'
            : 'w-[3px] bg-edge outline-offset-2 hover:bg-spruce data-[separator=active]:bg-spruce'
        }
      />
      <Panel className="flex min-h-0 min-w-0" {...(sized === 'second' ? own : rest)}>
        {second}
      </Panel>
    </Group>
  )
}
