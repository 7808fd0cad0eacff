import type { ReactNode } from 'react'
import type { Kind } from '../../core/game/schema'

/**
 * A small drawing of what a kind is, put together from what the rulebook says of it, so that kinds of any game have
 * one: what stands fast and what can be carried, moves, bends, turns to the viewer, lies under one’s feet.
 */
export function KindMark({ kind, size = 32 }: { kind: Kind | null | undefined; size?: number }) {
  return (
    <span
      className="yard-ground grid shrink-0 place-items-center rounded"
      style={{ width: size, height: size }}
      aria-hidden="true"
    >
      <svg width={size * 0.8} height={size * 0.8} viewBox="0 0 32 32" fill="none" strokeLinejoin="round">
        {drawingOf(kind)}
      </svg>
    </span>
  )
}

const ink = 'stroke-ink'
const wood = 'fill-kraft'
const leaf = 'fill-spruce-wash'

function drawingOf(kind: Kind | null | undefined): ReactNode {
  if (!kind) return <path d="M8 8h16v16H8z" className={ink} strokeDasharray="3 3" />
  if (!kind.mesh) return <Swatch />
  if (kind.mesh.facesViewer) return <Sheet />
  if (kind.markers) return <Way />
  if (kind.faceRoles.length > 0) return <Floor />
  if (kind.models.length > 1) return <Two />
  if (kind.bones) return <Bent />
  if (kind.motionAsked) return <Swinging />
  if (kind.attachPoints) return <Hooked />
  if (kind.addsTo !== null) return <Added />
  return kind.solids?.fixed === false ? <Carried /> : <Standing />
}

const Box = ({ at = 0 }: { at?: number }) => (
  <g transform={`translate(0 ${at})`} className={ink} strokeWidth="1.4">
    <path d="M7 13 16 9l9 4-9 4z" className={leaf} />
    <path d="M7 13v10l9 4V17z" className={wood} />
    <path d="M25 13v10l-9 4V17z" className={wood} fillOpacity="0.6" />
  </g>
)
const GroundLine = () => <path d="M3 28.500h26" className={ink} strokeWidth="1.4" />

const Standing = () => (
  <>
    <Box at={1} />
    <GroundLine />
  </>
)
const Carried = () => (
  <>
    <Box at={-3} />
    <path d="M8 28.500q8 -4 16 0" className={ink} strokeWidth="1.4" strokeDasharray="2 2" />
  </>
)
const Swinging = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M10 4v24" />
    <path d="M10 9l13 6v9l-13 -6z" className={wood} />
    <path d="M26 10a13 13 0 0 1 1 12m0 0l-3 -2m3 2l2 -3" />
  </g>
)
const Bent = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M4 25q2 -16 12 -17t12 14" strokeWidth="5" className="stroke-kraft" />
    <circle cx="5" cy="24" r="2.400" className="fill-slip" />
    <circle cx="15" cy="8" r="2.400" className="fill-slip" />
    <circle cx="27" cy="21" r="2.400" className="fill-slip" />
  </g>
)
const Hooked = () => (
  <>
    <Box at={1} />
    <g className={ink} strokeWidth="1.400">
      <circle cx="16" cy="5" r="2.600" className="fill-slip" />
      <path d="M16 8v5M27 20h3" />
      <circle cx="28" cy="20" r="2" className="fill-slip" />
    </g>
  </>
)
const Two = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M3 25q5 -8 12 0z" className={wood} />
    <path d="M18 15q5 -10 11 0z" className={wood} />
    <circle cx="23.500" cy="19.500" r="4.200" className="fill-slip" />
  </g>
)
const Sheet = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M8 5h16v15H8z" className={wood} />
    <path d="M11 9h10M11 13h7M16 20v8" />
    <path d="M4 26q12 5 24 0m0 0l-3 -1m3 1l-1 2.500" />
  </g>
)
const Way = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M3 24l6 -4h20l-6 4z" className={wood} />
    <path d="M9 19V8l7 2.500L9 13" className={leaf} />
    <path d="M24 19V8l5 2.500L24 13" className={leaf} />
  </g>
)
const Floor = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M3 19l13 -6 13 6 -13 6z" className={wood} />
    <path d="M3 19v3l13 6 13 -6v-3" className={leaf} />
    <path d="M9.500 16l13 6M22.500 16l-13 6" />
  </g>
)
const Swatch = () => (
  <g className={ink} strokeWidth="1.400">
    <path d="M6 6h20v20H6z" className={wood} />
    <path d="M6 13h20M6 20h20M13 6v7M20 13v7M11 20v6" />
  </g>
)
const Added = () => (
  <g className={ink} strokeWidth="1.4">
    <path d="M4 14h14v14H4z" strokeDasharray="2.500 2.500" />
    <path d="M18 6h10v12H18z" className={wood} />
    <path d="M23 9v6M20 12h6" />
  </g>
)
