import type { Units } from './extras.ts'

/** Units that sources come in, with their length in metres. */
export const lengthUnits = [
  { id: 'mm', title: 'millimetres', metres: 0.001 },
  { id: 'cm', title: 'centimetres', metres: 0.01 },
  { id: 'in', title: 'inches', metres: 0.0254 },
  { id: 'dm', title: 'decimetres', metres: 0.1 },
  { id: 'ft', title: 'feet', metres: 0.3048 },
  { id: 'm', title: 'metres', metres: 1 },
] as const

/**
 * The unit of a given length, or null when it has no common name.
 * @example unitOfMetres(0.01)?.id // 'cm'
 */
export function unitOfMetres(metres: number): (typeof lengthUnits)[number] | null {
  return lengthUnits.find((unit) => Math.abs(unit.metres - metres) < unit.metres * 1e-6) ?? null
}

/**
 * What a unit is called by its length in metres: “cm”; “0.37 m” where it has no name.
 * @example unitName(0.37) // '0.37 m'
 */
export function unitName(metresPerUnit: number): string {
  return unitOfMetres(metresPerUnit)?.id ?? `${Number(metresPerUnit.toPrecision(4))} m`
}

/** Heights of things people stand beside, in metres: what an item of unknown unit most likely measures. */
const LIKELY = { least: 0.1, most: 12, best: 1.8 }

/**
 * The metric unit under which an extent is most like a thing in a game: between 0.1 and 12 m, nearest to a person's
 * height. Inches lie too near to centimetres to be told from them by a size, and are far rarer where nothing is said:
 * of them, furniture in centimetres would come out two and a half times too large.
 * @param largestExtent the item's longest side in units of the source
 *
 * @example likelyUnit(180).id // 'cm'
 */
export function likelyUnit(largestExtent: number): (typeof lengthUnits)[number] {
  const customary = ['m', 'cm', 'mm'].map(
    (id) => lengthUnits.find((unit) => unit.id === id) as (typeof lengthUnits)[number],
  )
  const fitting = customary.filter(
    ({ metres }) => largestExtent * metres >= LIKELY.least && largestExtent * metres <= LIKELY.most,
  )
  const far = ({ metres }: { metres: number }): number => Math.abs(Math.log((largestExtent * metres) / LIKELY.best))
  return (fitting.length > 0 ? fitting : customary).reduce((best, unit) => (far(unit) < far(best) ? unit : best))
}

/** Lengths, in metres, that the unit customary for a format may give: beyond them it is not the one that was meant. */
const BELIEVABLE = { least: 0.001, most: 100 }

/**
 * Metres of a source unit: as declared or chosen; as is customary for its format, unless the thing were a crumb or a
 * hill then; else the likely one for its size.
 * @example const height = survey.size[1] * metresOrLikely(units, Math.max(...survey.size))
 */
export function metresOrLikely({ metresPerUnit, from }: Units, largestExtent: number): number {
  const isMeant =
    metresPerUnit !== null &&
    (from !== 'customary' ||
      !(largestExtent > 0) ||
      (largestExtent * metresPerUnit >= BELIEVABLE.least && largestExtent * metresPerUnit <= BELIEVABLE.most))
  return isMeant ? metresPerUnit : likelyUnit(largestExtent).metres
}
