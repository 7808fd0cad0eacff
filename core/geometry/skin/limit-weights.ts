import { copyTable, SLOTS, WeightGatherer, type WeightTable } from './weight-table.ts'

/** What a game reads of a corner's weights. */
export interface WeightLimits {
  /** Bones a corner may follow. */
  influences: number
  /** Share of the whole below which a bone is left out, 0 to 1. */
  least: number
}

/**
 * Keeps the strongest bones of each corner, leaves out those that hardly hold it, and makes the rest sum to 1. A corner
 * that nothing holds stays so.
 *
 * @example limitWeights(table, { influences: 4, least: 0.01 })
 */
export function limitWeights(table: WeightTable, { influences, least }: WeightLimits): WeightTable {
  const made = copyTable(table)
  const gather = new WeightGatherer(table.bones)
  for (let corner = 0; corner < table.corners; corner++) {
    gather.addRow(table, corner, 1)
    gather.store(made, corner, influences, least)
  }
  return made
}

/**
 * Which bones stay when a game reads only so many: those that hold most stay, each other one gives what it holds to
 * the nearest bone above it that stays, or to the strongest where none above it does.
 * @param parents number of the bone above each, or -1
 * @returns for each bone the number, among the old ones, of the one that takes over
 *
 * @example const numberOf = fewerBones(table, parents, 24)
 */
export function fewerBones(table: WeightTable, parents: readonly number[], most: number): number[] {
  const held = new Float64Array(table.bones)
  table.weightOf.forEach((weight, at) => (held[table.boneOf[at]] += weight))
  const strongest = [...held.keys()].sort((a, b) => held[b] - held[a] || a - b)
  const stays = new Set(strongest.slice(0, Math.max(1, most)))
  return parents.map((_, bone) => {
    let taker = bone
    // A chain has no more links than there are bones: a circle ends here too.
    for (let step = 0; step < parents.length && taker >= 0 && !stays.has(taker); step++) taker = parents[taker]
    return stays.has(taker) ? taker : strongest[0]
  })
}

/**
 * A table whose bones were given other numbers; those of one number are summed.
 * @example const fewer = renumberBones(table, fewerBones(table, parents, 24), 24)
 */
export function renumberBones(table: WeightTable, numberOf: readonly number[], bones: number): WeightTable {
  const made: WeightTable = { ...copyTable(table), bones }
  const gather = new WeightGatherer(bones)
  for (let corner = 0; corner < table.corners; corner++) {
    for (let at = corner * SLOTS; at < (corner + 1) * SLOTS && table.weightOf[at] > 0; at++)
      gather.add(numberOf[table.boneOf[at]] ?? 0, table.weightOf[at])
    gather.store(made, corner)
  }
  return made
}
