/**
 * Corners that stand in the same place, numbered from 0 in order of first appearance.
 * Joined by exact coordinates first (-0 equals 0), then, with a tolerance, by distance.
 */
export interface PositionGroups {
  /** Group of each corner. */
  groupOfCorner: Uint32Array
  /** A corner of each group: the first. */
  cornerOfGroup: Uint32Array
}

const EMPTY = 0xffffffff

/**
 * Smallest power of two that leaves an open-addressing table at most half full.
 * @example tableSize(5) // 16
 */
export function tableSize(entries: number): number {
  let size = 16
  while (size < entries * 2) size *= 2
  return size
}

/**
 * Mixes three 32-bit integers (multiply and xorshift, after Pelle Evensen's moremur idea in 32 bits).
 * @example const slot = mixHash(x, y, z) & (slots.length - 1)
 */
export function mixHash(a: number, b: number, c: number): number {
  let hash = Math.imul(a, 0x85ebca6b) ^ Math.imul(b, 0xc2b2ae35) ^ Math.imul(c, 0x27d4eb2f)
  hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d)
  hash = Math.imul(hash ^ (hash >>> 12), 0x297a2d39)
  return (hash ^ (hash >>> 15)) >>> 0
}

/**
 * Groups corners by place.
 * @param positions 3 floats a corner
 * @param tolerance distance under which two places are one; 0 joins only equal coordinates
 *
 * @example const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
 */
export function groupPositions(positions: Float32Array, tolerance = 0): PositionGroups {
  const exact = groupExact(positions)
  return tolerance > 0 ? groupNear(positions, exact, tolerance) : exact
}

function groupExact(positions: Float32Array): PositionGroups {
  const cornerCount = positions.length / 3
  const plain = positions.map((value) => value + 0)
  const bits = new Int32Array(plain.buffer, plain.byteOffset, plain.length)
  const mask = tableSize(cornerCount) - 1
  const table = new Uint32Array(mask + 1).fill(EMPTY)
  const groupOfCorner = new Uint32Array(cornerCount)
  const cornerOfGroup = new Uint32Array(cornerCount)
  let groupCount = 0
  for (let corner = 0; corner < cornerCount; corner++) {
    const x = bits[corner * 3]
    const y = bits[corner * 3 + 1]
    const z = bits[corner * 3 + 2]
    let slot = mixHash(x, y, z) & mask
    for (;;) {
      const group = table[slot]
      if (group === EMPTY) {
        table[slot] = groupCount
        cornerOfGroup[groupCount] = corner
        groupOfCorner[corner] = groupCount++
        break
      }
      const other = cornerOfGroup[group] * 3
      if (bits[other] === x && bits[other + 1] === y && bits[other + 2] === z) {
        groupOfCorner[corner] = group
        break
      }
      slot = (slot + 1) & mask
    }
  }
  return { groupOfCorner, cornerOfGroup: cornerOfGroup.slice(0, groupCount) }
}

/**
 * Joins exact groups that lie within the tolerance, through a hash of cells twice as wide as the tolerance:
 * whatever is near enough stands in the own cell or in the seven on the nearer sides.
 */
function groupNear(positions: Float32Array, exact: PositionGroups, tolerance: number): PositionGroups {
  const count = exact.cornerOfGroup.length
  const mask = tableSize(count) - 1
  const firstInCell = new Uint32Array(mask + 1).fill(EMPTY)
  const nextInCell = new Uint32Array(count).fill(EMPTY)
  const joined = new Uint32Array(count)
  const limit = tolerance * tolerance
  const perCell = 1 / (tolerance * 2)
  for (let group = 0; group < count; group++) {
    const at = exact.cornerOfGroup[group] * 3
    const x = positions[at]
    const y = positions[at + 1]
    const z = positions[at + 2]
    const cx = Math.floor(x * perCell)
    const cy = Math.floor(y * perCell)
    const cz = Math.floor(z * perCell)
    const sx = x * perCell - cx < 0.5 ? -1 : 1
    const sy = y * perCell - cy < 0.5 ? -1 : 1
    const sz = z * perCell - cz < 0.5 ? -1 : 1
    let found = EMPTY
    for (let neighbour = 0; neighbour < 8 && found === EMPTY; neighbour++) {
      const slot =
        mixHash(neighbour & 1 ? cx + sx : cx, neighbour & 2 ? cy + sy : cy, neighbour & 4 ? cz + sz : cz) & mask
      for (let other = firstInCell[slot]; other !== EMPTY; other = nextInCell[other]) {
        const from = exact.cornerOfGroup[other] * 3
        const dx = positions[from] - x
        const dy = positions[from + 1] - y
        const dz = positions[from + 2] - z
        if (dx * dx + dy * dy + dz * dz <= limit) {
          found = other
          break
        }
      }
    }
    joined[group] = found === EMPTY ? group : found
    if (found !== EMPTY) continue
    const slot = mixHash(cx, cy, cz) & mask
    nextInCell[group] = firstInCell[slot]
    firstInCell[slot] = group
  }
  return renumber(exact, joined)
}

function renumber(exact: PositionGroups, joined: Uint32Array): PositionGroups {
  const numberOf = new Uint32Array(joined.length).fill(EMPTY)
  const corners: number[] = []
  for (let group = 0; group < joined.length; group++) {
    if (joined[group] !== group) continue
    numberOf[group] = corners.length
    corners.push(exact.cornerOfGroup[group])
  }
  return {
    groupOfCorner: exact.groupOfCorner.map((group) => numberOf[joined[group]]),
    cornerOfGroup: Uint32Array.from(corners),
  }
}
