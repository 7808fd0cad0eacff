import { identityMatrix, multiplyMatrices } from '../../core/maths/axes'
import { determinantOf, invertMatrix, transformedPoints } from '../../core/maths/matrices'
import { movedBounds, type SceneData } from '../workers/scene-data'

type Triple = [number, number, number]
type Motion = NonNullable<SceneData['motion']>
type Bend = NonNullable<SceneData['bend']>

/**
 * A scene with everything in it moved: what is drawn, how it goes, what bones hold, places and lights.
 * @param matrix column-major, a turn and one size for all sides
 */
export function movedScene(scene: SceneData, matrix: readonly number[]): SceneData {
  const back = invertMatrix(matrix) ?? identityMatrix()
  const size = Math.cbrt(Math.abs(determinantOf(matrix)))
  const place = (at: Triple): Triple => Array.from(transformedPoints(Float32Array.from(at), matrix)) as Triple
  const way = (towards: Triple): Triple =>
    [0, 1, 2].map(
      (axis) => [0, 1, 2].reduce((sum, from) => sum + matrix[from * 4 + axis] * towards[from], 0) / (size || 1),
    ) as Triple
  return {
    ...scene,
    parts: scene.parts.map((part) => ({
      ...part,
      matrix: multiplyMatrices(matrix, part.matrix),
      bounds: movedBounds(part.bounds, matrix),
    })),
    places: scene.places.map((each) => ({ ...each, at: place(each.at), ahead: way(each.ahead) })),
    lights: scene.lights.map((light) => ({
      ...light,
      at: place(light.at),
      range: light.range === null ? null : light.range * size,
      beam: light.beam && { ...light.beam, towards: way(light.beam.towards) },
    })),
    motion: scene.motion && movedMotion(scene.motion, matrix, back),
    bend: scene.bend && movedBend(scene.bend, matrix, place),
  }
}

const movedMotion = (motion: Motion, matrix: readonly number[], back: readonly number[]): Motion => ({
  ...motion,
  parts: motion.parts.map((part) => ({
    ...part,
    matrices: eachMatrix(part.matrices, (own) => multiplyMatrices(matrix, own)),
  })),
  bones: motion.bones.map((bone) => ({
    ...bone,
    matrices: eachMatrix(bone.matrices, (own) => multiplyMatrices(multiplyMatrices(matrix, own), back)),
  })),
})

const movedBend = (bend: Bend, matrix: readonly number[], place: (at: Triple) => Triple): Bend => ({
  ...bend,
  bones: bend.bones.map((bone) => ({ ...bone, at: place(bone.at) })),
  held: bend.held.map((held) => ({
    ...held,
    rest: eachMatrix(held.rest, (own) => multiplyMatrices(matrix, own)),
  })),
})

/** Every 16 numbers changed. */
function eachMatrix(
  matrices: Float32Array,
  change: (matrix: number[]) => readonly number[],
): Float32Array<ArrayBuffer> {
  const made = new Float32Array(matrices.length)
  for (let at = 0; at < matrices.length; at += 16) made.set(change(Array.from(matrices.subarray(at, at + 16))), at)
  return made
}
