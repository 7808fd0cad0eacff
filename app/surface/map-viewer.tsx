import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { Wipe } from '../ui/wipe'
import type { MapPicture, Preview, UvLayoutMessage } from '../workers/map-messages'
import {
  channelViews,
  differencePicture,
  drawPart,
  visiblePicture,
  type ChannelView,
  type Placement,
} from './draw-picture'
import { drawLayout, type LayoutView } from './draw-layout'

export type Zoom = 'fit' | 1 | 4

interface MapViewerProps {
  left: MapPicture | null
  right: MapPicture | Preview | null
  /** Size in pixels of what is shown, where a picture stands for it that is smaller. */
  pixels: { width: number; height: number } | null
  leftTitle: string
  rightTitle: string
  channel: ChannelView
  difference: boolean
  zoom: Zoom
  layout: UvLayoutMessage | null
  layoutView: LayoutView
  /** Whether alpha is opacity, or a number like the others. */
  isColour: boolean
  /** Whether the map repeats, as on a wall. */
  repeat: boolean
}

const STEP_PIXELS = 40

/** A map before and after, with a line between; it is moved by dragging or with the arrow keys. */
export function MapViewer({
  left,
  right,
  pixels,
  leftTitle,
  rightTitle,
  channel,
  difference,
  zoom,
  layout,
  layoutView,
  isColour,
  repeat,
}: MapViewerProps) {
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  const [wipe, setWipe] = useState(0.5)
  const [moved, setMoved] = useState({ x: 0, y: 0 })
  useLayoutEffect(() => {
    const element = frame.current
    if (!element) return
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }))
    watch.observe(element)
    return () => watch.disconnect()
  }, [])
  const shownLeft = useMemo(() => left && visiblePicture(left, channel, isColour), [left, channel, isColour])
  const shownRight = useMemo(() => right && visiblePicture(right, channel, isColour), [right, channel, isColour])
  const between = useMemo(
    () =>
      difference && left && right && left.width === right.width && left.height === right.height
        ? differencePicture(left, right, channel)
        : null,
    [difference, left, right, channel],
  )
  const picture = pixels ?? right ?? left
  const place = picture ? placementOf(picture, size, zoom, moved) : null

  useEffect(() => {
    const target = canvas.current
    const context = target?.getContext('2d')
    if (!target || !context || !place) return
    const ratio = window.devicePixelRatio || 1
    target.width = Math.round(size.width * ratio)
    target.height = Math.round(size.height * ratio)
    context.scale(ratio, ratio)
    const line = between ? 0 : wipe * size.width
    // Pictures of different sizes lie on each other: the smaller one's pixels are drawn larger.
    const over = (shown: { width: number }): Placement => ({
      ...place,
      scale: (place.scale * (picture?.width ?? shown.width)) / shown.width,
    })
    if (shownLeft && !between)
      drawPart(context, shownLeft, over(shownLeft), 0, shownRight ? line : size.width, size.height, repeat)
    const rightSide = between ?? shownRight
    if (rightSide)
      drawPart(context, rightSide, over(rightSide), shownLeft && !between ? line : 0, size.width, size.height, repeat)
    if (layout && picture) drawLayout(context, layout, layoutView, place, picture)
    performance.mark('map drawn')
  }, [shownLeft, shownRight, between, place, size, wipe, layout, layoutView, picture, repeat])

  const drag = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.currentTarget.hasPointerCapture(event.pointerId))
      setMoved({ x: moved.x + event.movementX, y: moved.y + event.movementY })
  }
  const key = (event: KeyboardEvent): void => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [STEP_PIXELS, 0],
      ArrowRight: [-STEP_PIXELS, 0],
      ArrowUp: [0, STEP_PIXELS],
      ArrowDown: [0, -STEP_PIXELS],
    }
    const step = steps[event.key]
    if (!step || event.target !== event.currentTarget) return
    event.preventDefault()
    setMoved({ x: moved.x + step[0], y: moved.y + step[1] })
  }
  return (
    <div
      ref={frame}
      tabIndex={0}
      role="group"
      aria-label="Map, moved by dragging or with the arrow keys"
      className="light-table absolute inset-0 cursor-grab touch-none overflow-hidden active:cursor-grabbing"
      onPointerDown={(event) => {
        if (event.target === canvas.current) event.currentTarget.setPointerCapture(event.pointerId)
      }}
      onPointerMove={drag}
      onKeyDown={key}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={
          between
            ? `Difference of ${leftTitle} and ${rightTitle}, eight times as strong`
            : `${leftTitle} and ${rightTitle}`
        }
        className="absolute inset-0 size-full"
      />
      {shownLeft && shownRight && !between && (
        <>
          <Wipe value={wipe} left={leftTitle} right={rightTitle} onChange={setWipe} />
          <p className="chip pointer-events-none absolute bottom-3 left-3 z-10">{leftTitle}</p>
        </>
      )}
      {shownRight && (
        <p className="chip pointer-events-none absolute right-3 bottom-3 z-10">
          {between ? 'Difference × 8' : rightTitle}
        </p>
      )}
      {!shownRight && (
        <p className="chip pointer-events-none absolute top-1/2 left-1/2 z-10 -translate-1/2" role="status">
          Fetching the map…
        </p>
      )}
    </div>
  )
}

/** The picture in the middle of the view, moved by what was dragged. */
function placementOf(
  picture: { width: number; height: number },
  size: { width: number; height: number },
  zoom: Zoom,
  moved: { x: number; y: number },
): Placement {
  const scale = zoom === 'fit' ? Math.min((size.width - 24) / picture.width, (size.height - 24) / picture.height) : zoom
  return {
    scale,
    x: Math.round((size.width - picture.width * scale) / 2 + moved.x),
    y: Math.round((size.height - picture.height * scale) / 2 + moved.y),
  }
}

export const channelTitles: Record<ChannelView, string> = {
  colour: 'Colour',
  red: 'R',
  green: 'G',
  blue: 'B',
  alpha: 'Alpha',
}
export { channelViews }
