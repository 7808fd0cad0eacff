import { interpolateRgbBasis, scaleLog } from 'd3'
import type { UvLayoutMessage } from '../workers/map-messages'
import type { Placement } from './draw-picture'

export const layoutViews = ['none', 'islands', 'stretch', 'density'] as const
export type LayoutView = (typeof layoutViews)[number]
export const layoutTitles: Record<LayoutView, string> = {
  none: 'No layout',
  islands: 'Islands',
  stretch: 'Stretch',
  density: 'Density',
}

/** From kraft through paper to spruce: too little, right, too much. */
const ramp = interpolateRgbBasis(['#a8323a', '#efe2cb', '#1d5a4c'])
const stretchColour = scaleLog([1, 4], [0.5, 0]).clamp(true)

/** The middle density: what the others are measured against. */
export function medianDensity(density: Float32Array): number {
  const sorted = density.filter((value) => value > 0).sort()
  return sorted[Math.floor(sorted.length / 2)] ?? 1
}

/** Draws UVs over a map: as lines, or filled by how far they are drawn out or how fine they lie. */
export function drawLayout(
  context: CanvasRenderingContext2D,
  layout: UvLayoutMessage,
  view: LayoutView,
  place: Placement,
  picture: { width: number; height: number },
): void {
  if (view === 'none') return
  const [w, h] = [picture.width * place.scale, picture.height * place.scale]
  const densityColour = scaleLog([medianDensity(layout.density) / 4, medianDensity(layout.density) * 4], [0, 1]).clamp(
    true,
  )
  const outline = (at: number): void => {
    context.beginPath()
    for (let corner = 0; corner < 3; corner++)
      context.lineTo(
        place.x + layout.triangles[at + corner * 2] * w,
        place.y + layout.triangles[at + corner * 2 + 1] * h,
      )
    context.closePath()
  }
  context.save()
  context.lineWidth = 1
  for (let triangle = 0; triangle * 6 < layout.triangles.length; triangle++) {
    outline(triangle * 6)
    if (view !== 'islands') {
      const share =
        view === 'stretch'
          ? stretchColour(Math.max(1, layout.stretch[triangle]))
          : densityColour(Math.max(1e-9, layout.density[triangle]))
      context.fillStyle = ramp(share)
      context.globalAlpha = 0.75
      context.fill()
    }
    context.globalAlpha = view === 'islands' ? 0.9 : 0.25
    context.strokeStyle = view === 'islands' ? '#fbf8f1' : '#26302d'
    context.stroke()
    if (view === 'islands') {
      context.globalAlpha = 0.9
      context.setLineDash([2, 2])
      context.strokeStyle = '#1d5a4c'
      context.stroke()
      context.setLineDash([])
    }
  }
  context.restore()
}
