import { identityMatrix } from '../../core/maths/axes'
import type { Rulebook } from '../../core/game/schema'
import type { ScenePart } from './scene-data'

/**
 * What a finish is tried on: a wall at the game's scale, four cells wide and two high, with the picture once a cell, so
 * that repeats and seams show beside the figure.
 * @param material number of the material in each look, the first look's first
 */
export function testWall(name: string, looks: number[], { gridCell }: Rulebook['space']): ScenePart {
  const [width, height] = [gridCell * 4, gridCell * 2]
  return {
    name,
    role: 'part',
    level: 0,
    triangles: 2,
    matrix: identityMatrix(),
    bounds: { min: [-width / 2, 0, 0], max: [width / 2, height, 0] },
    primitives: [
      {
        positions: Float32Array.from([-width / 2, 0, 0, width / 2, 0, 0, width / 2, height, 0, -width / 2, height, 0]),
        normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
        uvs: Float32Array.from([0, 2, 4, 2, 4, 0, 0, 0]),
        indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
        material: looks[0],
        looks,
      },
    ],
  }
}
