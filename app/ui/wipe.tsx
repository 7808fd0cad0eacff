import { ArrowLeftRight } from 'lucide-react'
import { useRef, type KeyboardEvent, type PointerEvent } from 'react'

/** The line between the two that are compared; it is dragged, or moved with arrow keys. */
export function Wipe({
  value,
  left,
  right,
  onChange,
}: {
  value: number
  left: string
  right: string
  onChange: (value: number) => void
}) {
  const track = useRef<HTMLDivElement>(null)
  const limited = (next: number): void => onChange(Math.min(0.98, Math.max(0.02, next)))
  const drag = (event: PointerEvent<HTMLDivElement>): void => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !track.current) return
    const { left, width } = track.current.getBoundingClientRect()
    limited((event.clientX - left) / width)
  }
  const key = (event: KeyboardEvent): void => {
    const steps: Record<string, number> = { ArrowLeft: -0.02, ArrowRight: 0.02, Home: -1, End: 1 }
    const step = steps[event.key]
    if (step === undefined) return
    event.preventDefault()
    event.stopPropagation()
    limited(value + step)
  }
  return (
    <div ref={track} className="pointer-events-none absolute inset-0 z-[6]">
      <div
        role="slider"
        tabIndex={0}
        aria-label={`${left} at the left, ${right} at the right`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(value * 100)}
        aria-orientation="horizontal"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={drag}
        onKeyDown={key}
        className="pointer-events-auto absolute inset-y-0 w-7 -translate-x-1/2 cursor-ew-resize touch-none"
        style={{ left: `${value * 100}%` }}
      >
        <span className="absolute inset-y-0 left-1/2 w-[2px] -translate-x-1/2 bg-ink shadow-[0_0_0_1px_var(--color-slip)]" />
        <span className="absolute top-1/2 left-1/2 grid size-7 -translate-1/2 place-items-center rounded-full border-2 border-ink bg-slip">
          <ArrowLeftRight size={14} aria-hidden="true" />
        </span>
      </div>
    </div>
  )
}
