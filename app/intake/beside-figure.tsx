import type { Rulebook } from '../../core/game/schema'
import { referenceFor, type Reference } from '../yard/reference'
import { yardSpaceOf } from '../yard/yard-settings'

const [WIDTH, HEIGHT] = [216, 128]

/** The item, the figure and the doorway to one scale; whichever is largest fills the card. */
export function BesideFigure({
  size,
  picture,
  rulebook,
}: {
  size: readonly number[]
  picture: string | null
  rulebook: Rulebook
}) {
  const { doorway, unit } = rulebook.space
  // Beside what is small, a hand: the figure would make a dot of it.
  const reference = referenceFor(Math.max(...size) / unit.metres, yardSpaceOf(rulebook))
  const person = { width: reference.width * unit.metres, height: reference.height * unit.metres }
  const door =
    reference.what === 'figure'
      ? { width: doorway.width * unit.metres, height: doorway.height * unit.metres }
      : { width: 0, height: 0 }
  const [width, height] = size
  const gap = Math.max(width, person.height) * 0.12
  const across = width + gap + person.width + gap + door.width
  const tall = Math.max(height, door.height, person.height)
  const scale = Math.min((WIDTH - 8) / across, (HEIGHT - 10) / tall)
  const ground = HEIGHT - 5
  const place = (x: number, w: number, h: number) => ({
    x: 4 + x * scale,
    y: ground - h * scale,
    width: Math.max(0.8, w * scale),
    height: Math.max(0.8, h * scale),
  })
  const [own, body, frame] = [
    place(0, width, height),
    place(width + gap, person.width, person.height),
    place(width + gap * 2 + person.width, door.width, door.height),
  ]
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full rounded border border-edge bg-slip" aria-hidden="true">
      <line x1="0" x2={WIDTH} y1={ground} y2={ground} className="stroke-edge-strong" />
      {picture ? (
        <image href={picture} {...own} preserveAspectRatio="none" />
      ) : (
        <rect {...own} className="fill-kraft" />
      )}
      <ReferenceOutline what={reference.what} {...body} />
      {door.width > 0 && (
        <path
          d={`M${frame.x} ${ground} V${frame.y} H${frame.x + frame.width} V${ground}`}
          fill="none"
          className="stroke-spruce"
          strokeWidth={Math.max(1, frame.width * 0.06)}
        />
      )}
    </svg>
  )
}

interface OutlineProps {
  what: Reference['what']
  x: number
  y: number
  width: number
  height: number
}

/** A person, a hand or a fingertip as a plain dark shape. */
function ReferenceOutline({ what, x, y, width, height }: OutlineProps) {
  if (what === 'fingertip')
    return <rect x={x} y={y} width={width} height={height} rx={width / 2} className="fill-ink-2" />
  if (what === 'hand')
    return (
      <g className="fill-ink-2">
        <rect x={x} y={y + height * 0.48} width={width * 0.86} height={height * 0.52} rx={width * 0.12} />
        {[0.1, 0, 0.05, 0.16].map((down, index) => (
          <rect
            key={down}
            x={x + index * width * 0.22}
            y={y + height * down}
            width={width * 0.19}
            height={height * (0.6 - down)}
            rx={width * 0.09}
          />
        ))}
      </g>
    )
  return (
    <g className="fill-ink-2">
      <rect x={x} y={y + width * 0.9} width={width} height={Math.max(0.5, height - width * 0.9)} rx={width / 2.2} />
      <circle cx={x + width / 2} cy={y + width * 0.42} r={width * 0.42} />
    </g>
  )
}
