import { identityMatrix, multiplyMatrices } from './axes.ts'
import { chainMatrices, rotationMatrix, translationMatrix, type Matrix } from './matrices.ts'

/** Bones that one corner may follow while we work on it; a game reads fewer. */
export const SLOTS = 8

/** Which bones hold each corner of a surface, and by how much: `SLOTS` places a corner, strongest first. */
export interface HeldCorners {
  boneOf: Uint16Array<ArrayBuffer>
  weightOf: Float32Array<ArrayBuffer>
}

/**
 * The strongest bones of each corner, out of sets of four as mesh files hold them (glTF 2.0 specification, section
 * 3.7.3.1).
 * @param bones how many there are; what names another holds nothing
 *
 * @example const held = heldCorners([{ bones: joints, weights }], positions.length / 3, bones.length)
 */
export function heldCorners(
  sets: readonly { bones: ArrayLike<number>; weights: ArrayLike<number> }[],
  corners: number,
  bones: number,
): HeldCorners {
  const made = { boneOf: new Uint16Array(corners * SLOTS), weightOf: new Float32Array(corners * SLOTS) }
  for (let corner = 0; corner < corners; corner++) {
    const row: [number, number][] = []
    for (const set of sets)
      for (let at = corner * 4; at < corner * 4 + 4; at++)
        if (set.weights[at] > 0 && set.bones[at] < bones) row.push([set.bones[at], set.weights[at]])
    if (row.length > 1) row.sort((a, b) => b[1] - a[1])
    for (let slot = 0; slot < Math.min(SLOTS, row.length); slot++) {
      made.boneOf[corner * SLOTS + slot] = row[slot][0]
      made.weightOf[corner * SLOTS + slot] = row[slot][1]
    }
  }
  return made
}

/** A bone as everything stands at rest. */
export interface RestBone {
  name: string
  /** Number of the bone that it hangs on, whatever stands between; -1 for none. */
  above: number
  /** Where it is in the scene. */
  at: [number, number, number]
}

/** All that bends of an item, in the working space. */
export interface Bendable {
  bones: RestBone[]
  /** Parts that bones hold. */
  held: {
    part: string
    /** Numbers of the item's bones, as the part counts them. */
    bones: number[]
    /** From the mesh to the scene as each of those bones holds it at rest: 16 numbers each, column-major. */
    rest: Float32Array<ArrayBuffer>
    surfaces: HeldCorners[]
  }[]
  /** Stiff parts, and the bone that goes where they go. */
  carried: { part: string; bone: number }[]
}

/** How one bone is moved from its rest: turned about the axes of the scene through it, in this order, then moved. */
export interface BoneMove {
  turnDegrees: readonly [number, number, number]
  moved: readonly [number, number, number]
}

/**
 * Where each bone is carried, from its rest: by its own move, and by those of all bones above it.
 * @returns ways from the scene at rest to the scene as it is bent, column-major, one for each bone
 *
 * @example const [arm] = carriedBy(bones, new Map([[0, { turnDegrees: [0, 0, 45], moved: [0, 0, 0] }]]))
 */
export function carriedBy(bones: readonly RestBone[], moves: ReadonlyMap<number, BoneMove>): Matrix[] {
  const known: (Matrix | undefined)[] = bones.map(() => undefined)
  return bones.map((_, bone) => {
    const chain: number[] = []
    // A chain has no more links than there are bones: a circle ends here too.
    for (let each = bone; each >= 0 && !known[each] && chain.length < bones.length; each = bones[each].above)
      chain.push(each)
    for (const each of chain.reverse()) {
      const above = known[bones[each].above] ?? identityMatrix()
      const move = moves.get(each)
      known[each] = move ? multiplyMatrices(above, matrixOf(bones[each], move)) : above
    }
    return known[bone] ?? identityMatrix()
  })
}

function matrixOf({ at: [x, y, z] }: RestBone, { turnDegrees, moved }: BoneMove): Matrix {
  const turns = turnDegrees.map((degrees, axis) =>
    rotationMatrix(axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0, (degrees * Math.PI) / 180),
  )
  return chainMatrices(
    translationMatrix(x + moved[0], y + moved[1], z + moved[2]),
    turns[2],
    turns[1],
    turns[0],
    translationMatrix(-x, -y, -z),
  )
}

/**
 * What bones make of places or directions: the sum of what each makes of them, by weight (linear blend skinning; glTF
 * 2.0 specification, section 3.7.3.3). What nothing holds stays as it is.
 * @param values 3 floats a corner
 * @param matrices 16 numbers a bone, from the mesh at rest to where the bone holds it
 * @param isPlace whether values are places, which are moved as well as turned
 * @param into 3 floats a corner, written over
 *
 * @example blend(positions, held, matrices, true, bent)
 */
export function blend(
  values: ArrayLike<number>,
  { boneOf, weightOf }: HeldCorners,
  matrices: ArrayLike<number>,
  isPlace: boolean,
  into: Float32Array,
): void {
  const m = matrices
  const place = isPlace ? 1 : 0
  for (let corner = 0; corner < into.length / 3; corner++) {
    const [x, y, z] = [values[corner * 3], values[corner * 3 + 1], values[corner * 3 + 2]]
    let [sx, sy, sz, sum] = [0, 0, 0, 0]
    // The strongest stand first, so that after the first unused place there are no more.
    for (let slot = corner * SLOTS; slot < (corner + 1) * SLOTS && weightOf[slot] > 0; slot++) {
      const weight = weightOf[slot]
      const at = boneOf[slot] * 16
      sum += weight
      sx += weight * (m[at] * x + m[at + 4] * y + m[at + 8] * z + place * m[at + 12])
      sy += weight * (m[at + 1] * x + m[at + 5] * y + m[at + 9] * z + place * m[at + 13])
      sz += weight * (m[at + 2] * x + m[at + 6] * y + m[at + 10] * z + place * m[at + 14])
    }
    into[corner * 3] = sum > 0 ? sx : x
    into[corner * 3 + 1] = sum > 0 ? sy : y
    into[corner * 3 + 2] = sum > 0 ? sz : z
  }
}
