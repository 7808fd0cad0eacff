import { numbers } from '../pictures.ts'

/** Draws that are the same for the same seed. */
export interface Draw {
  /** A whole number from nought to below `end`. */
  below: (end: number) => number
  one: <T>(of: readonly T[]) => T
  chance: (share: number) => boolean
}

export function drawer(seed: number): Draw {
  const next = numbers(seed)
  const below = (end: number): number => Math.min(end - 1, Math.floor(next() * end))
  return { below, one: (of) => of[below(of.length)], chance: (share) => next() < share }
}
