import { groupPositions } from '../../geometry/mesh/position-groups.ts'
import type { Document } from '@gltf-transform/core'
import type { solidShapes } from '../../item/annotations/solid/facts.ts'
import { transformedPoints, invertMatrix } from '../../maths/matrices.ts'
import { listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { PlainError } from '../../support/plain-error.ts'
import { chosenHull, type TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { findHiddenFaces } from '../../geometry/surface/hidden-faces.ts'
import { fitBox, fitTurnedBox } from '../../geometry/shapes/box.ts'
import {
  chainTurns,
  turnOfDegrees,
  UNTURNED,
  type PlacedShape,
  type Triple,
} from '../../geometry/shapes/placed-shape.ts'
import { fitBall, fitCapsule, fitCylinder } from '../../geometry/shapes/round.ts'
import { splitIntoHulls } from '../../geometry/shapes/split.ts'
import type { AddSolidParameters, ShapeEdit } from './add-solid-parameters.ts'
import { pickedFaces } from '../meshes/face-picks.ts'
import { reducedSoup } from '../meshes/derived-meshes.ts'
import type { ReportProgress } from '../context.ts'

export type SolidShape = (typeof solidShapes)[number]

/** How shapes are called. */
export const shapeTitles: Record<SolidShape, string> = {
  box: 'Box',
  ball: 'Ball',
  capsule: 'Capsule',
  cylinder: 'Cylinder',
  hull: 'Convex hull',
  mesh: 'The mesh, reduced',
}

/** A triangle seen from this share of directions or fewer counts as one that cannot be touched. */
const UNTOUCHED_SHARE = 0

/**
 * What a solid is fitted to, as one mesh in the space of the part it belongs to.
 * @throws PlainError when nothing is chosen
 *
 * @example const ground = solidGround(document, part, parameters)
 */
export function solidGround(
  document: Document,
  part: Part,
  chosen: Pick<AddSolidParameters, 'of' | 'parts' | 'faces'>,
): TriangleSoup {
  const toPart = invertMatrix(restMatrix(part.node)) ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
  const picked = chosen.of === 'faces' ? pickedFaces(document, chosen.faces).triangles : null
  const parts = listViewParts(document).filter(
    (each) =>
      chosen.of === 'item' ||
      chosen.of === 'faces' ||
      (chosen.of === 'part' ? each.name === part.name : chosen.parts.includes(each.name)),
  )
  const positions: number[] = []
  const indices: number[] = []
  for (const each of parts) {
    for (const primitive of each.mesh.listPrimitives()) {
      const marks = picked?.get(primitive)
      if (picked && !marks) continue
      const arrays = readPrimitive(primitive)
      const placed =
        each.node === part.node
          ? arrays.positions
          : transformedPoints(transformedPoints(arrays.positions, restMatrix(each.node)), toPart)
      const first = positions.length / 3
      for (const value of placed) positions.push(value)
      for (let triangle = 0; triangle < arrays.indices.length / 3; triangle++)
        if (!marks || marks[triangle])
          for (let corner = 0; corner < 3; corner++) indices.push(arrays.indices[triangle * 3 + corner] + first)
    }
  }
  if (indices.length === 0)
    throw new PlainError(
      chosen.of === 'faces' ? 'no faces are picked yet' : 'nothing is chosen to fit it to',
      part.name,
      chosen.of === 'faces' ? 'Click them in the yard.' : 'Choose parts.',
    )
  return usedOnly({ positions: Float32Array.from(positions), indices: Uint32Array.from(indices) })
}

/** A mesh without corners that no triangle uses, one corner a place. */
function usedOnly({ positions, indices }: TriangleSoup): TriangleSoup {
  const { groupOfCorner } = groupPositions(positions)
  const places = new Map<number, number>()
  const kept: number[] = []
  const made = indices.map((corner) => {
    const known = places.get(groupOfCorner[corner])
    if (known !== undefined) return known
    places.set(groupOfCorner[corner], kept.length / 3)
    kept.push(positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2])
    return kept.length / 3 - 1
  })
  return { positions: Float32Array.from(kept), indices: made }
}

/**
 * The shapes that stand for a mesh: one, or several hulls.
 * @throws PlainError when the shape cannot be made of it
 *
 * @example const [shape] = await fitSolid(solidGround(document, part, parameters), parameters, progress)
 */
export async function fitSolid(
  ground: TriangleSoup,
  chosen: AddSolidParameters,
  progress: ReportProgress,
): Promise<PlacedShape[]> {
  switch (chosen.shape) {
    case 'box':
      return [chosen.turned ? fitTurnedBox(ground.positions) : fitBox(ground.positions)]
    case 'ball':
      return [fitBall(ground.positions)]
    case 'capsule':
      return [fitCapsule(ground.positions)]
    case 'cylinder':
      return [fitCylinder(ground.positions)]
    case 'hull': {
      const meshes =
        chosen.hulls > 1
          ? await splitIntoHulls(ground, { mostHulls: chosen.hulls, mostPoints: chosen.points, concavity: 0.01 })
          : [chosenHull(ground.positions, chosen.points, chosen.error)?.mesh]
      const made = meshes.filter((mesh) => mesh !== undefined)
      if (made.length === 0) throw new PlainError('it is flat and has no hull', chosen.part, 'Use a box.')
      return made.map(aboutMiddle)
    }
    case 'mesh': {
      const touched = chosen.onlyOutside ? await withoutHidden(ground, progress) : ground
      return [aboutMiddle(await reducedSoup(touched, chosen.triangles))]
    }
  }
}

async function withoutHidden(ground: TriangleSoup, progress: ReportProgress): Promise<TriangleSoup> {
  const hidden = await findHiddenFaces(ground, {
    seenFromAtMost: UNTOUCHED_SHARE,
    progress: (fraction) => progress(fraction * 0.8, 'what can be touched'),
  })
  const kept = ground.indices.filter((_, index) => !hidden[Math.floor(index / 3)])
  return kept.length > 0 ? { positions: ground.positions, indices: kept } : ground
}

/**
 * A mesh placed about the middle of its own box.
 * @example const placed = aboutMiddle(plainShape(part))
 */
export function aboutMiddle(mesh: TriangleSoup): PlacedShape {
  const middle = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity]
    for (let at = axis; at < mesh.positions.length; at += 3) {
      low = Math.min(low, mesh.positions[at])
      high = Math.max(high, mesh.positions[at])
    }
    return (low + high) / 2
  }) as Triple
  return {
    mesh: { positions: mesh.positions.map((value, at) => value - middle[at % 3]), indices: mesh.indices },
    translation: middle,
    rotation: UNTURNED,
  }
}

/**
 * A shape moved, turned about its own middle and sized along its own axes; round shapes stay round.
 * @example const moved = editShape('box', shape, { moved: [0, 1, 0], turnedDegrees: [0, 0, 0], sized: [1, 1, 1] })
 */
export function editShape(
  shape: SolidShape,
  { mesh, translation, rotation }: PlacedShape,
  { moved, turnedDegrees, sized }: ShapeEdit,
): PlacedShape {
  const factors =
    shape === 'ball'
      ? [sized[0], sized[0], sized[0]]
      : shape === 'capsule' || shape === 'cylinder'
        ? [sized[0], sized[1], sized[0]]
        : sized
  const positions =
    shape === 'capsule'
      ? sizedCapsule(mesh.positions, factors)
      : mesh.positions.map((value, at) => value * factors[at % 3])
  return {
    mesh: { positions, indices: mesh.indices },
    translation: translation.map((value, axis) => value + moved[axis]) as Triple,
    rotation: chainTurns(turnOfDegrees(turnedDegrees), rotation),
  }
}

/** A capsule's ends stay half balls: its straight piece alone is drawn out. */
function sizedCapsule(positions: Float32Array, [across, along]: readonly number[]): Float32Array {
  const radius = Math.max(...positions.filter((_, at) => at % 3 === 0))
  const end = Math.max(...positions.filter((_, at) => at % 3 === 1))
  const half = Math.max(0, end - radius)
  const newHalf = Math.max(0, end * along - radius * across)
  return positions.map((value, at) =>
    at % 3 === 1
      ? Math.sign(value) * newHalf + (value - Math.sign(value) * Math.min(half, Math.abs(value))) * across
      : value * across,
  )
}
