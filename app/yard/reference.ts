import type { YardSpace } from './yard-settings'

interface Box {
  min: readonly number[]
  max: readonly number[]
}

/** What of known size stands beside an item: the game's figure, or of it a hand or a fingertip. */
export interface Reference {
  what: 'figure' | 'hand' | 'fingertip'
  /** In game units. */
  width: number
  height: number
}

/** A hand is about so much of a person's height, and a fingertip of a hand's length. */
const HAND_OF_HEIGHT = 0.108
const WIDTH_OF_HAND = 0.52
const TIP_OF_HAND = 0.09
/**
 * Things smaller than so much of the figure are shown beside its hand, and smaller than so much of that a fingertip.
 */
const HAND_BELOW = 0.2
const TIP_BELOW = 0.15

/** The longest side of a box. */
export const longestOf = ({ min, max }: Box): number => Math.max(...max.map((value, axis) => value - min[axis]))

/**
 * What is set beside an item of a size so that both are seen.
 * @param longest the item's longest side, in game units
 */
export function referenceFor(longest: number, { figureHeight, figureWidth }: YardSpace): Reference {
  const hand = figureHeight * HAND_OF_HEIGHT
  if (longest >= figureHeight * HAND_BELOW) return { what: 'figure', width: figureWidth, height: figureHeight }
  if (longest >= hand * TIP_BELOW) return { what: 'hand', width: hand * WIDTH_OF_HAND, height: hand }
  return { what: 'fingertip', width: hand * TIP_OF_HAND, height: hand * TIP_OF_HAND * 2.2 }
}

/** How far from an item its measures stand, in game units; no further than suits its size. */
export const measureGap = (longest: number, { gridCell }: YardSpace): number =>
  longest * 0.05 + Math.min(gridCell * 0.1, longest * 0.06)

/** Where the ground lies: at zero, or under an item that is nowhere near it. */
export function groundUnder(box: Box, { figureHeight }: YardSpace): number {
  const near = Math.max(longestOf(box), figureHeight) * 3
  return Math.abs(box.min[1]) <= near ? 0 : box.min[1]
}

/**
 * Beside the item at its back right, clear of the lines that measure it: seen from the front right, as the yard is at
 * first, it hides nothing of the item.
 */
export function referencePlace(box: Box, space: YardSpace): [number, number, number] {
  const longest = longestOf(box)
  const { width } = referenceFor(longest, space)
  return [box.max[0] + measureGap(longest, space) * 2 + width * 0.7, groundUnder(box, space), box.min[2]]
}

/** The cell of the grid on the ground: the game's, or a tenth of it, and so on, for what is smaller than one. */
export function cellFor(longest: number, { gridCell }: YardSpace): number {
  const tenths = Math.max(0, Math.ceil(Math.log10(gridCell / Math.max(longest, gridCell * 1e-6)) - 0.3))
  return gridCell / 10 ** tenths
}
