import { decomposeMatrix } from '../../maths/matrices.ts'
import { cross, dot, lengthOf, unit, type Vector3 } from '../../maths/vectors.ts'

/**
 * A right-angled half of a triangle, placed: unturned, its right angle stands at `at`, its sides lie along +X and +Y,
 * and its front is seen from +Z by the right-hand rule on these numbers.
 */
export interface HalfBlock {
  at: Vector3
  /** Quaternion x, y, z, w. */
  turn: [number, number, number, number]
  /** How long the two sides at the right angle are. */
  size: [number, number]
}

/** Where each triangle is cut, and how short its halves' shortest sides become. */
export interface HalfBlockCuts {
  /** For each triangle the corner (0, 1 or 2) that the cut begins at; it ends on the side across. */
  apex: Uint8Array
  /** For each triangle the shortest of the sides that enclose a right angle; 0 where it has no area. */
  shortestSide: Float64Array
}

/**
 * Cuts whose halves are as large to within this share count as equal, so that rounded numbers are cut the same again.
 */
const EQUAL_SHARE = 1e-3

/**
 * Every triangle is two right-angled ones: it is cut along the height that leaves the shortest side longest. A height
 * may fall outside; the one on the longest side never does.
 * @param positions 3 numbers a corner
 * @param indices 3 a triangle
 *
 * @example const { shortestSide } = cutIntoHalfBlocks(positions, indices)
 */
export function cutIntoHalfBlocks(positions: ArrayLike<number>, indices: ArrayLike<number>): HalfBlockCuts {
  const count = Math.floor(indices.length / 3)
  const apex = new Uint8Array(count)
  const shortestSide = new Float64Array(count)
  for (let triangle = 0; triangle < count; triangle++) {
    for (let corner = 0; corner < 3; corner++) {
      const shortest = shortestOfCut(
        positions,
        indices[triangle * 3 + ((corner + 1) % 3)] * 3,
        indices[triangle * 3 + ((corner + 2) % 3)] * 3,
        indices[triangle * 3 + corner] * 3,
      )
      // The last corner first: its height stands on the side that a triangle is written with.
      const isBetter =
        corner === 2
          ? shortest >= shortestSide[triangle] * (1 - EQUAL_SHARE)
          : shortest > shortestSide[triangle] * (1 + EQUAL_SHARE)
      if (!isBetter || shortest <= 0) continue
      shortestSide[triangle] = shortest
      apex[triangle] = corner
    }
  }
  return { apex, shortestSide }
}

/**
 * The shortest side at the right angles when the height from `top` onto `from`–`to` is cut; 0 where it falls outside.
 */
function shortestOfCut(positions: ArrayLike<number>, from: number, to: number, top: number): number {
  const [ax, ay, az] = [positions[from], positions[from + 1], positions[from + 2]]
  const [ux, uy, uz] = [positions[to] - ax, positions[to + 1] - ay, positions[to + 2] - az]
  const [vx, vy, vz] = [positions[top] - ax, positions[top + 1] - ay, positions[top + 2] - az]
  const base = Math.sqrt(ux * ux + uy * uy + uz * uz)
  if (!(base > 0)) return 0
  const along = (ux * vx + uy * vy + uz * vz) / base
  const height = Math.sqrt((uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2) / base
  return Math.max(0, Math.min(along, base - along, height))
}

/**
 * The two half-blocks of each triangle, in the order of the triangles: first the half beside the end of the side that
 * is cut, then the one beside its beginning. A triangle without area has none.
 *
 * @example const blocks = halfBlocksOf(positions, indices) // twice as many as triangles
 */
export function halfBlocksOf(positions: ArrayLike<number>, indices: ArrayLike<number>): HalfBlock[] {
  const { apex, shortestSide } = cutIntoHalfBlocks(positions, indices)
  const blocks: HalfBlock[] = []
  const place = (corner: number): Vector3 => [
    positions[indices[corner] * 3],
    positions[indices[corner] * 3 + 1],
    positions[indices[corner] * 3 + 2],
  ]
  for (let triangle = 0; triangle < apex.length; triangle++) {
    if (shortestSide[triangle] === 0) continue
    const [from, to, top] = [1, 2, 0].map((step) => place(triangle * 3 + ((apex[triangle] + step) % 3)))
    const foot = footOf(from, to, top)
    blocks.push(placed(foot, to, top), placed(foot, top, from))
  }
  return blocks
}

function footOf(from: Vector3, to: Vector3, top: Vector3): Vector3 {
  const way = between(from, to)
  const share = dot(way, between(from, top)) / dot(way, way)
  return [from[0] + way[0] * share, from[1] + way[1] * share, from[2] + way[2] * share]
}

const between = (a: Vector3, b: Vector3): Vector3 => [b[0] - a[0], b[1] - a[1], b[2] - a[2]]

function placed(at: Vector3, first: Vector3, second: Vector3): HalfBlock {
  const [u, v] = [between(at, first), between(at, second)]
  const x = unit(u)
  const z = unit(cross(u, v))
  const y = cross(z, x)
  const { rotation } = decomposeMatrix([...x, 0, ...y, 0, ...z, 0, 0, 0, 0, 1])
  return { at, turn: rotation as HalfBlock['turn'], size: [lengthOf(u), lengthOf(v)] }
}

/**
 * How many digits behind the point keep places of a thing of this size to a ten-millionth of it. A size that is read
 * from rounded numbers again has as many.
 *
 * @example decimalsFor(2.5) // 7
 */
export const decimalsFor = (longestSide: number): number =>
  Math.min(9, Math.max(3, Math.ceil(7 - Math.log10(Math.max(longestSide, 1e-6)) - 1e-5)))

/**
 * Places in one digit less than half-blocks are written in. Half-blocks of such places lead back to the very same ones
 * when they are put together again, since what is lost in writing them is less than half a step.
 *
 * @example const places = onGrid(positions, decimalsFor(longestSide))
 */
export function onGrid(positions: ArrayLike<number>, decimals: number): Float64Array {
  const steps = 10 ** (decimals - 1)
  return Float64Array.from(positions, (value) => Math.round(value * steps) / steps)
}

/**
 * The half-blocks of triangles as they are written, in so many digits.
 * @param positions 3 numbers a corner
 * @param indices 3 a triangle
 *
 * @example const blocks = writtenHalfBlocks(onGrid(positions, decimals), indices, decimals)
 */
export const writtenHalfBlocks = (
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  decimals: number,
): HalfBlock[] => halfBlocksOf(onGrid(positions, decimals), indices).map((block) => roundHalfBlock(block, decimals))

/** A half-block in as many digits as are written. */
export function roundHalfBlock({ at, turn, size }: HalfBlock, decimals: number): HalfBlock {
  const shown = (value: number): number => Number(value.toFixed(decimals)) + 0
  return {
    at: at.map(shown) as Vector3,
    turn: turn.map((value) => Number(value.toFixed(TURN_DECIMALS)) + 0) as HalfBlock['turn'],
    size: size.map(shown) as [number, number],
  }
}

const TURN_DECIMALS = 9

/**
 * The corners of a half-block: the one at its right angle, the end of its first side, the end of its second.
 * @example cornersOfHalfBlock({ at: [0, 0, 0], turn: [0, 0, 0, 1], size: [3, 4] })
 */
export function cornersOfHalfBlock({ at, turn: [x, y, z, w], size }: HalfBlock): [Vector3, Vector3, Vector3] {
  const first: Vector3 = [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)]
  const second: Vector3 = [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)]
  const reached = (way: Vector3, length: number): Vector3 => [
    at[0] + way[0] * length,
    at[1] + way[1] * length,
    at[2] + way[2] * length,
  ]
  return [at, reached(first, size[0]), reached(second, size[1])]
}

/**
 * Half-blocks put together again: two that follow each other and share a right angle and a side between them are one
 * triangle, as they were cut; any other is one for itself.
 * @param tolerance how far corners that are one may lie apart
 * @returns 9 numbers a triangle: the side that was cut, then the corner across
 *
 * @example const triangles = joinHalfBlocks(blocks, 0.001)
 */
export function joinHalfBlocks(blocks: readonly HalfBlock[], tolerance: number): Float64Array {
  const joined: number[] = []
  const near = (a: Vector3, b: Vector3): boolean => lengthOf(between(a, b)) <= tolerance
  for (let number = 0; number < blocks.length; number++) {
    const [foot, to, top] = cornersOfHalfBlock(blocks[number])
    const pair = number + 1 < blocks.length ? cornersOfHalfBlock(blocks[number + 1]) : null
    const isPair =
      pair !== null &&
      near(foot, pair[0]) &&
      near(top, pair[1]) &&
      // The two sides go opposite ways along one line.
      dot(unit(between(foot, to)), unit(between(foot, pair[2]))) < -1 + 1e-6
    joined.push(...(isPair ? [...pair[2], ...to, ...top] : [...foot, ...to, ...top]))
    if (isPair) number++
  }
  return Float64Array.from(joined)
}

/**
 * How far the half-blocks put together again lie from the triangles that they were cut from: the furthest of their
 * corners, and of the two that meet at each right angle.
 * @param blocks of these very triangles, as `halfBlocksOf` gives them, in as many digits as are written
 *
 * @example const worst = halfBlockError(positions, indices, writtenHalfBlocks(positions, indices, decimals))
 */
export function halfBlockError(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  blocks: readonly HalfBlock[],
): number {
  const { apex, shortestSide } = cutIntoHalfBlocks(positions, indices)
  let worst = 0
  let number = 0
  for (let triangle = 0; triangle < apex.length; triangle++) {
    if (shortestSide[triangle] === 0) continue
    const [from, to, top] = [1, 2, 0].map((step): Vector3 => {
      const corner = indices[triangle * 3 + ((apex[triangle] + step) % 3)] * 3
      return [positions[corner], positions[corner + 1], positions[corner + 2]]
    })
    const [foot, end, height] = cornersOfHalfBlock(blocks[number++])
    const [otherFoot, otherHeight, start] = cornersOfHalfBlock(blocks[number++])
    const pairs: [Vector3, Vector3][] = [
      [end, to],
      [height, top],
      [otherHeight, top],
      [start, from],
      [foot, otherFoot],
    ]
    for (const [made, meant] of pairs) worst = Math.max(worst, lengthOf(between(made, meant)))
  }
  return worst
}
