import { interpolateRgbBasis } from 'd3'
import { Color } from 'three'

/** From unmoved to moved furthest: paper, kraft, madder. */
const scale = interpolateRgbBasis(['#f3ead6', '#e2c391', '#c07a3e', '#8e1b2c'])

/** A colour for how far a surface moved, 0 to 1 of the furthest. */
export const shiftColour = (share: number): string => scale(Math.min(1, Math.max(0, share)))

/** Colours for each corner of a surface, 3 floats each, from how far each moved. */
export function shiftColours(distances: Float32Array, furthest: number): Float32Array {
  const colours = new Float32Array(distances.length * 3)
  const steps = Array.from({ length: 65 }, (_, step) => new Color(shiftColour(step / 64)))
  distances.forEach((distance, corner) => {
    steps[Math.round(Math.min(1, furthest > 0 ? distance / furthest : 0) * 64)].toArray(colours, corner * 3)
  })
  return colours
}
