import type { Document } from '@gltf-transform/core'
import { bodyInName, tellsBodies } from '../../game/body-names.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { signedVolume } from '../../geometry/mesh/orient.ts'
import { isClosed, placeMesh } from '../../geometry/mesh/triangle-mesh.ts'
import type { BodyRole } from '../../item/body-role.ts'
import { isMirroring, partsBounds } from '../../item/measure.ts'
import { listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { reversedWinding } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { readMesh } from './mesh-arrays.ts'

type Bounds = ReturnType<typeof partsBounds>

interface Of {
  rulebook: Rulebook
  kind: Kind
}

/** A part of level geometry as the game takes it. */
export interface Body {
  part: Part
  is: BodyRole
  closed: boolean
  /** What it encloses, in cubed game units; negative where its faces look inward. */
  volume: number
  bounds: Bounds
}

/**
 * What a part does as level geometry; solid where the game does not tell bodies apart.
 * @example const isTrim = bodyRole(part, { rulebook, kind }) === 'trim'
 */
export const bodyRole = ({ name }: Part, { rulebook, kind }: Of): BodyRole =>
  tellsBodies(rulebook, kind) ? bodyInName(rulebook, name) : 'solid'

/**
 * Every body of level geometry, measured where it stands; none where the game does not tell them apart.
 * @example const open = listBodies(document, { rulebook, kind }).filter(({ volume }) => volume === null)
 */
export function listBodies(document: Document, of: Of): Body[] {
  if (!tellsBodies(of.rulebook, of.kind)) return []
  return listViewParts(document).map((part) => ({ part, is: bodyRole(part, of), ...enclosed(part) }))
}

function enclosed(part: Part): Pick<Body, 'closed' | 'volume' | 'bounds'> {
  const { positions, indices } = readMesh(part.mesh)
  const matrix = restMatrix(part.node)
  const all = Uint32Array.from({ length: indices.length / 3 }, (_triangle, at) => at)
  const wound = isMirroring(matrix) ? reversedWinding(indices) : indices
  const none = new Uint8Array(all.length)
  const volume = all.length > 0 ? signedVolume(transformedPoints(positions, matrix), wound, all, none) : 0
  const bounds = partsBounds([part])
  return {
    // Sheets back to back have no borders and no inside.
    closed:
      isClosed(placeMesh(positions, indices).placeOfIndex) &&
      Math.abs(volume) > ENCLOSES_NOTHING * longestSide({ bounds }) ** 3,
    volume,
    bounds,
  }
}

/** Share of a cube as long as the body, under which it has no inside. */
const ENCLOSES_NOTHING = 1e-6

/**
 * Drawn parts that have an outside to be looked at: of a hollow one only ever sees the inside.
 * @example const facing = measurePartFacing(outsideParts(document, { rulebook, kind }))
 */
export const outsideParts = (document: Document, of: Of): Part[] =>
  listViewParts(document).filter((part) => bodyRole(part, of) !== 'hollow')

/**
 * The longest side of a body's box, in game units.
 * @example longestSide({ bounds: { min: [0, 0, 0], max: [1, 3, 2] } }) // 3
 */
export const longestSide = ({ bounds: { min, max } }: Pick<Body, 'bounds'>): number =>
  Math.max(...[0, 1, 2].map((axis) => max[axis] - min[axis]))

/**
 * Whether the boxes of two bodies have room in common.
 * @example const cut = bodies.filter((body) => boxesMeet(hollow, body))
 */
export const boxesMeet = ({ bounds: a }: Body, { bounds: b }: Body): boolean =>
  [0, 1, 2].every((axis) => a.min[axis] < b.max[axis] && b.min[axis] < a.max[axis])
