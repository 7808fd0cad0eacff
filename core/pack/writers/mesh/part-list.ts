import type { Node } from '@gltf-transform/core'
import { decimalsFor, writtenHalfBlocks } from '../../../geometry/mesh/half-blocks.ts'
import { listSceneNodes } from '../../../item/parts.ts'
import { readPrimitive, reversedWinding } from '../../../item/primitive-arrays.ts'
import { determinantOf, transformedPoints } from '../../../maths/matrices.ts'
import { longestSide } from '../../../operations/meshes/half-blocks.ts'
import type { HalfBlockRules } from '../../../game/schema-half-blocks.ts'
import type { MeshWriter } from './mesh-writer.ts'

/**
 * A list of half-blocks in JSON (RFC 8259), in the words of the rulebook: trays, each with its finish and the
 * half-blocks of each triangle one behind the other. A line holds one half-block.
 *
 * @example const written = await writePartList({ document, path: 'parts.json', rulebook })
 */
export const writePartList: MeshWriter = async ({ document, path, rulebook }) => {
  const { words } = rulebook.halfBlocks as HalfBlockRules
  const surfaces = listSceneNodes(document).flatMap(surfacesOf)
  const decimals = decimalsFor(longestSide(surfaces.flatMap(({ positions }) => boxCorners(positions))))
  const trays = surfaces.map(({ tray, finish, positions, indices }) => {
    const blocks = writtenHalfBlocks(positions, indices, decimals).map(
      ({ at, turn, size }) => `   ${JSON.stringify({ [words.at]: at, [words.turn]: turn, [words.size]: size })}`,
    )
    const named = { [words.tray]: tray, ...(finish === null ? {} : { [words.finish]: finish }) }
    return ` ${JSON.stringify(named).slice(0, -1)}, ${JSON.stringify(words.blocks)}: [\n${blocks.join(',\n')}\n  ]}`
  })
  const text = `{${JSON.stringify(words.trays)}: [\n${trays.join(',\n')}\n]}\n`
  return { files: [{ path, bytes: new TextEncoder().encode(text) }], entry: {} }
}

function surfacesOf(
  node: Node,
): { tray: string; finish: string | null; positions: Float32Array; indices: Uint32Array }[] {
  const matrix = node.getWorldMatrix()
  return (node.getMesh()?.listPrimitives() ?? []).map((primitive) => {
    const { positions, indices } = readPrimitive(primitive)
    return {
      tray: node.getName(),
      finish: primitive.getMaterial()?.getName() ?? null,
      positions: transformedPoints(positions, matrix),
      indices: determinantOf(matrix) < 0 ? reversedWinding(indices) : indices,
    }
  })
}

/** The two ends of the box around some places, so that many of them need not be kept twice. */
function boxCorners(positions: Float32Array): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  positions.forEach((value, at) => {
    box[at % 3] = Math.min(box[at % 3], value)
    box[3 + (at % 3)] = Math.max(box[3 + (at % 3)], value)
  })
  return positions.length > 0 ? box : []
}
