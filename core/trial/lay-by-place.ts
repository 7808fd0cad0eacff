import { inScene } from './check-mesh.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'

/** A surface with pictures laid on it by its place in the world, every triangle with corners of its own. */
export interface LaidSurface {
  /** 3 a corner, in the scene. */
  positions: Float32Array<ArrayBuffer>
  indices: Uint32Array<ArrayBuffer>
  /** 2 a corner; a whole number is as many pictures further. */
  uvs: Float32Array<ArrayBuffer>
}

/**
 * How level geometry shows pictures in a game that does not read its UVs: each triangle along the axis that it faces
 * most, a picture for every so many game units.
 * @param pictureSize width and height of one picture, in game units
 *
 * @example const [surface] = layByPlace(node, rulebook.space.gridCell)
 */
export function layByPlace(node: LoadedNode, pictureSize: number): LaidSurface[] {
  return node.primitives.map(({ positions, indices }) => {
    const placed = inScene(node, positions)
    const corners = Float32Array.from(
      { length: indices.length * 3 },
      (_, at) => placed[indices[Math.floor(at / 3)] * 3 + (at % 3)],
    )
    const uvs = new Float32Array(indices.length * 2)
    for (let at = 0; at < indices.length; at += 3) {
      const place = (corner: number, axis: number): number => corners[(at + corner) * 3 + axis]
      const side = (corner: number, axis: number): number => place(corner, axis) - place(0, axis)
      const normal = [0, 1, 2].map((axis) => {
        const [next, last] = [(axis + 1) % 3, (axis + 2) % 3]
        return Math.abs(side(1, next) * side(2, last) - side(1, last) * side(2, next))
      })
      const faces = normal.indexOf(Math.max(...normal))
      // On walls pictures stand upright.
      const [across, up] = faces === 1 ? [0, 2] : faces === 0 ? [2, 1] : [0, 1]
      for (const corner of [0, 1, 2]) {
        uvs[(at + corner) * 2] = place(corner, across) / pictureSize
        uvs[(at + corner) * 2 + 1] = -place(corner, up) / pictureSize
      }
    }
    return { positions: corners, indices: Uint32Array.from(indices, (_corner, at) => at), uvs }
  })
}
