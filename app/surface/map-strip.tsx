import { useEffect, useRef } from 'react'
import type { MapFacts } from '../workers/map-messages'
import { drawPicture, visiblePicture } from './draw-picture'

/** The item's maps side by side: those the game reads first, then what they are packed from. */
export function MapStrip({
  maps,
  selected,
  problems,
  onSelect,
}: {
  maps: readonly MapFacts[]
  selected: string | null
  problems: ReadonlySet<string>
  onSelect: (name: string) => void
}) {
  return (
    <div
      role="group"
      aria-label="Maps"
      className="flex shrink-0 gap-2 overflow-x-auto border-b border-edge bg-paper py-2 pr-[170px] pl-3.5"
    >
      {maps.map((map) => (
        <button
          key={map.name}
          type="button"
          aria-pressed={selected === map.name}
          onClick={() => onSelect(map.name)}
          className={
            'flex w-[178px] shrink-0 flex-col overflow-hidden rounded-lg border bg-slip text-left ' +
            `${selected === map.name ? 'border-spruce shadow-[0_0_0_2px_var(--color-spruce-wash)]' : 'border-edge-strong'}`
          }
        >
          <Thumbnail map={map} />
          <span className="block w-full px-2.5 pt-0.5 pb-1">
            <span className="flex items-baseline justify-between gap-2">
              <b className="font-semibold capitalize">{map.role}</b>
              <span className={`num text-[12px] ${problems.has(map.name) ? 'font-semibold text-risk' : 'text-ink-2'}`}>
                {map.width} × {map.height}
              </span>
            </span>
            <span className="block truncate text-[12px] text-ink-2" title={map.name}>
              {map.name}
            </span>
          </span>
        </button>
      ))}
    </div>
  )
}

function Thumbnail({ map }: { map: MapFacts }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const target = canvas.current
    if (!target) return
    drawPicture(target, visiblePicture(map.thumbnail, 'colour', map.key === 'colour'))
  }, [map])
  return <canvas ref={canvas} width={178} height={42} className="checked block h-[42px] w-full" aria-hidden="true" />
}
