import { Plus, X } from 'lucide-react'
import { useRef, useState } from 'react'
import { z } from 'zod'
import type { Field } from '../workers/field-messages'

const outlineSchema = z.array(z.tuple([z.number(), z.number()])).catch([])
type Corner = [number, number]

/** Half of what is shown across: outlines are in shares of the width. */
const REACH = 0.75
const SIDE = 200
const NUDGE = 0.02

const onPaper = ([x, y]: Corner): Corner => [((x + REACH) / REACH / 2) * SIDE, ((REACH - y) / REACH / 2) * SIDE]
const fromPaper = (x: number, y: number): Corner => [
  round(((x / SIDE) * 2 - 1) * REACH),
  round((1 - (y / SIDE) * 2) * REACH),
]
const round = (value: number): number => Number(Math.max(-REACH, Math.min(REACH, value)).toFixed(3)) + 0

/** An outline across, drawn by its corners: dragged, or moved by the arrow keys; one more by a click on the paper. */
export function OutlineField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'outline' }>
  value: unknown
  onChange: (value: unknown) => void
}) {
  const kept = outlineSchema.parse(value)
  const [drag, setDrag] = useState<{ corner: number; to: Corner } | null>(null)
  const paper = useRef<SVGSVGElement>(null)
  const corners = kept.map((corner, number) => (drag?.corner === number ? drag.to : corner))
  const at = (event: React.PointerEvent): Corner => {
    const box = paper.current?.getBoundingClientRect()
    return box
      ? fromPaper(((event.clientX - box.left) / box.width) * SIDE, ((event.clientY - box.top) / box.height) * SIDE)
      : [0, 0]
  }
  const move = (number: number, to: Corner): void => onChange(kept.map((each, other) => (other === number ? to : each)))
  const keys: Record<string, Corner> = {
    ArrowLeft: [-NUDGE, 0],
    ArrowRight: [NUDGE, 0],
    ArrowUp: [0, NUDGE],
    ArrowDown: [0, -NUDGE],
  }
  const line = corners.map((corner) => onPaper(corner).join(',')).join(' ')
  return (
    <fieldset className="text-[13px]">
      <div className="flex items-center justify-between gap-2">
        <legend className="float-left">{field.label}</legend>
        <span className="flex gap-1">
          <button
            type="button"
            className="button px-1.5 py-0.5 text-[12.5px]"
            onClick={() => {
              const [x, y] = kept.at(-1) ?? [-0.5, 0]
              onChange([...kept, [round(x + 0.1), round(y)]])
            }}
          >
            <Plus size={13} aria-hidden="true" /> Corner
          </button>
          <button
            type="button"
            className="button px-1.5 py-0.5"
            aria-label="Leave out the last corner"
            disabled={kept.length <= 2}
            onClick={() => onChange(kept.slice(0, -1))}
          >
            <X size={13} aria-hidden="true" />
          </button>
        </span>
      </div>
      <svg
        ref={paper}
        viewBox={`0 0 ${SIDE} ${SIDE}`}
        className="mt-1 w-full touch-none rounded border border-edge-strong bg-white"
        role="group"
        aria-label={`${field.label}: ${corners.length} corners`}
        onPointerMove={(event) => drag && setDrag({ ...drag, to: at(event) })}
        onPointerUp={() => {
          if (drag) move(drag.corner, drag.to)
          setDrag(null)
        }}
      >
        <path d={`M0 ${SIDE / 2}H${SIDE}M${SIDE / 2} 0V${SIDE}`} stroke="var(--color-edge)" />
        <polyline points={line} fill="none" stroke="var(--color-ink)" strokeWidth={1.5} />
        {corners.map((corner, number) => {
          const [x, y] = onPaper(corner)
          return (
            <circle
              key={number}
              cx={x}
              cy={y}
              r={5}
              tabIndex={0}
              role="slider"
              aria-label={`Corner ${number + 1}`}
              aria-valuenow={corner[0]}
              aria-valuetext={`${corner[0].toFixed(2)} to the right, ${corner[1].toFixed(2)} up`}
              className="cursor-grab fill-slip stroke-spruce focus-visible:fill-spruce"
              strokeWidth={2}
              onPointerDown={(event) => {
                event.currentTarget.focus()
                paper.current?.setPointerCapture(event.pointerId)
                setDrag({ corner: number, to: corner })
              }}
              onKeyDown={(event) => {
                const by = keys[event.key]
                if (!by) return
                event.preventDefault()
                move(number, [round(corner[0] + by[0]), round(corner[1] + by[1])])
              }}
            />
          )
        })}
      </svg>
      <p className="mt-0.5 text-[12px] text-ink-2">
        In shares of the width, from −{REACH} to {REACH}.
      </p>
    </fieldset>
  )
}
