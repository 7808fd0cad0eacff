import type { ReactNode } from 'react'
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels'
import { getPanelLayouts, putPanelLayouts } from '../storage/settings'

const kept = new Map<string, string>()

/** Reads the sizes that panels were dragged to, before the first page of a crate is shown. */
export async function loadPanelLayouts(): Promise<void> {
  if (kept.size > 0) return
  for (const [id, layout] of Object.entries(await getPanelLayouts().catch(() => ({})))) kept.set(id, layout)
}

const storage = {
  getItem: (id: string): string | null => kept.get(id) ?? null,
  setItem: (id: string, layout: string): void => {
    kept.set(id, layout)
    // A full store keeps no sizes, and that is all.
    void putPanelLayouts(Object.fromEntries(kept)).catch(() => undefined)
  },
}

interface SplitProps {
  id: string
  orientation: 'horizontal' | 'vertical'
  /** Which of the two keeps its size when the window grows, with its usual and its least size in pixels. */
  sized: 'first' | 'second'
  pixels: number
  least: number
  most: number
  /** What dragging the line between them does, for who does not see it. */
  label: string
  first: ReactNode
  second: ReactNode
}

/** Two panels with a line between them that is dragged, or moved with the arrow keys; sizes stay. */
export function Split({ id, orientation, sized, pixels, least, most, label, first, second }: SplitProps) {
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({ id, storage, onlySaveAfterUserInteractions: true })
  const own = {
    defaultSize: pixels,
    minSize: least,
    maxSize: most,
    groupResizeBehavior: 'preserve-pixel-size',
  } as const
  const rest = { minSize: 160 } as const
  return (
    <Group
      id={id}
      orientation={orientation}
      defaultLayout={defaultLayout}
      onLayoutChanged={onLayoutChanged}
      className="min-h-0 min-w-0 flex-1"
    >
      <Panel id={`${id}-first`} className="flex min-h-0 min-w-0" {...(sized === 'first' ? own : rest)}>
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
      <Panel id={`${id}-second`} className="flex min-h-0 min-w-0" {...(sized === 'second' ? own : rest)}>
        {second}
      </Panel>
    </Group>
  )
}
