import { useState, type PointerEvent } from 'react'
import type { Area } from '../yard/picker'

/**
 * A sheet over the yard on which an area is dragged; Escape puts it away. Without a pointer, parts are picked in the
 * list.
 */
export function AreaPick({ onDone }: { onDone: (area: Area | null) => void }) {
  const [drag, setDrag] = useState<{ from: [number, number]; to: [number, number] } | null>(null)
  const shareOf = (event: PointerEvent<HTMLDivElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect()
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height]
  }
  const area = drag && {
    left: Math.min(drag.from[0], drag.to[0]),
    right: Math.max(drag.from[0], drag.to[0]),
    top: Math.min(drag.from[1], drag.to[1]),
    bottom: Math.max(drag.from[1], drag.to[1]),
  }
  return (
    <div
      role="application"
      aria-label="Pick an area"
      tabIndex={0}
      ref={(sheet) => sheet?.focus()}
      className="absolute inset-0 z-20 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        setDrag({ from: shareOf(event), to: shareOf(event) })
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, to: shareOf(event) })}
      onPointerUp={() => onDone(area)}
      onKeyDown={(event) => event.key === 'Escape' && onDone(null)}
    >
      {area && (
        <span
          className="absolute border-2 border-dashed border-spruce bg-spruce-wash/40"
          style={{
            left: `${area.left * 100}%`,
            top: `${area.top * 100}%`,
            width: `${(area.right - area.left) * 100}%`,
            height: `${(area.bottom - area.top) * 100}%`,
          }}
        />
      )}
    </div>
  )
}
