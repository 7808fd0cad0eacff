import type { Document } from '@gltf-transform/core'
import type { Part } from '../../item/parts.ts'
import { primitiveIndices } from '../../item/primitive-arrays.ts'
import { pickedFaces, type FacePick } from '../meshes/face-picks.ts'
import { meshSoup } from './skin.ts'

/** Ways to say which corners of a part are meant. */
export const regions = ['all', 'box', 'ball', 'side', 'picked', 'unheld'] as const
export type Region = (typeof regions)[number]

/** Which corners are meant; points are places of the scene, in game units. */
export interface CornerChoice {
  corners: Region
  /** Opposite corners of a box; middle and rim of a ball; a place on a plane and one on the side that is meant. */
  points: readonly (readonly number[])[]
  /** How much further than the box, the ball or the plane it reaches. */
  wider: number
  faces: readonly FacePick[]
  /** All corners but these. */
  others: boolean
}

/**
 * 1 for each corner of a part that is meant.
 * @param places where the corners are in the scene, 3 floats a corner
 * @param unheld whether no bone holds a corner
 *
 * @example const marks = chosenCorners(document, part, places, choice, (corner) => weightSum(table, corner) === 0)
 */
export function chosenCorners(
  document: Document,
  part: Part,
  places: Float32Array,
  choice: CornerChoice,
  unheld: (corner: number) => boolean,
): Uint8Array {
  const marks = new Uint8Array(places.length / 3)
  if (choice.corners === 'picked') markPicked(document, part, choice.faces, marks)
  else {
    const inside = insideOf(choice, unheld)
    for (let corner = 0; corner < marks.length; corner++)
      if (inside(places[corner * 3], places[corner * 3 + 1], places[corner * 3 + 2], corner)) marks[corner] = 1
  }
  return choice.others ? marks.map((mark) => 1 - mark) : marks
}

type Inside = (x: number, y: number, z: number, corner: number) => boolean

function insideOf({ corners, points: [a, b], wider }: CornerChoice, unheld: (corner: number) => boolean): Inside {
  if (corners === 'all') return () => true
  if (corners === 'unheld') return (_x, _y, _z, corner) => unheld(corner)
  if (!a || !b) return () => false
  const apart = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])
  if (corners === 'ball') return (x, y, z) => Math.hypot(x - a[0], y - a[1], z - a[2]) <= apart + wider
  if (corners === 'side')
    return (x, y, z) =>
      (x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1]) + (z - a[2]) * (b[2] - a[2]) >= -wider * apart
  const [least, most] = [Math.min, Math.max].map((pick, way) =>
    [0, 1, 2].map((axis) => pick(a[axis], b[axis]) + (way === 0 ? -wider : wider)),
  )
  return (x, y, z) => [x, y, z].every((value, axis) => value >= least[axis] && value <= most[axis])
}

function markPicked(document: Document, { mesh }: Part, faces: readonly FacePick[], marks: Uint8Array): void {
  const { triangles } = pickedFaces(document, faces)
  const { firstCorner } = meshSoup(mesh)
  mesh.listPrimitives().forEach((primitive, number) => {
    const picked = triangles.get(primitive)
    if (!picked) return
    const indices = primitiveIndices(primitive)
    indices.forEach((corner, at) => {
      if (picked[Math.floor(at / 3)] === 1) marks[firstCorner[number] + corner] = 1
    })
  })
}
