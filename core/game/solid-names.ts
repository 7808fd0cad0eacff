import type { Rulebook } from './schema.ts'
import { templatePattern } from '../support/templates.ts'

export interface ReadSolidName {
  shape: string
  /** Whether it is written as the game reads it; otherwise it is nearly so. */
  exact: boolean
}

/**
 * Reads a name as that of a solid: exactly as the rulebook words it, or nearly: what its letters spell, case and marks
 * aside, is one letter off at most.
 * @returns null for the name of something else
 *
 * @example readSolidName(rulebook, 'gate_leaf') // null
 */
export function readSolidName(rulebook: Rulebook, name: string): ReadSolidName | null {
  const shapes = [...new Set(rulebook.kinds.flatMap(({ solids }) => solids?.shapes ?? []))]
  for (const shape of shapes) {
    if (templatePattern(rulebook.solids.name, { shape, nn: '\\d\\d+' }).test(name)) return { shape, exact: true }
  }
  const letters = lettersOf(name)
  const near = shapes.find(
    (shape) =>
      lettersApart(letters, lettersOf(rulebook.solids.name.replace('{shape}', shape).replace('{nn}', ''))) <= 1,
  )
  return near === undefined ? null : { shape: near, exact: false }
}

/**
 * The letters of a name alone, in lower case: what is left when marks and numbers are taken out.
 * @example lettersOf('Solid_Box-01') // 'solidbox'
 */
export const lettersOf = (name: string): string => name.toLowerCase().replace(/[^a-z]/g, '')

/**
 * Letters to put in, take out, change or swap with their neighbour, to turn one word into another (optimal string
 * alignment).
 *
 * @example lettersApart('solid', 'soild') // 1
 */
export function lettersApart(first: string, second: string): number {
  if (Math.abs(first.length - second.length) > 2) return Infinity
  const rows = [Array.from({ length: second.length + 1 }, (_, index) => index)]
  for (let a = 1; a <= first.length; a++) {
    const row = [a]
    for (let b = 1; b <= second.length; b++) {
      const same = first[a - 1] === second[b - 1] ? 0 : 1
      let least = Math.min(rows[a - 1][b] + 1, row[b - 1] + 1, rows[a - 1][b - 1] + same)
      if (a > 1 && b > 1 && first[a - 1] === second[b - 2] && first[a - 2] === second[b - 1])
        least = Math.min(least, rows[a - 2][b - 2] + 1)
      row.push(least)
    }
    rows.push(row)
  }
  return rows[first.length][second.length]
}
