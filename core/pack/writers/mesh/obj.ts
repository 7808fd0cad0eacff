import type { Animation, Document, Material, Node } from '@gltf-transform/core'
import { listSceneNodes } from '../../../item/parts.ts'
import { accessorToFloats, readPrimitive } from '../../../item/primitive-arrays.ts'
import { determinantOf, transformedNormals, transformedPoints } from '../../../maths/matrices.ts'
import { withEnding, type MeshWriter } from './mesh-writer.ts'

/**
 * Wavefront OBJ with a material file (version 3.0): places and normals where things stand at rest, wound as they are drawn, UVs with V
 * upward. What the format has no word for, which node hangs on which, what a node says of itself and how it moves, goes into the entry.
 */
export const writeObj: MeshWriter = async ({ document, path }) => {
  const materialPath = withEnding(path, '.mtl')
  const text = (lines: readonly string[]): Uint8Array => new TextEncoder().encode(`${lines.join('\n')}\n`)
  const nodes = listSceneNodes(document)
  return {
    files: [
      { path, bytes: text([`mtllib ${materialPath.split('/').pop()}`, ...nodes.flatMap(objectOf(counting()))]) },
      { path: materialPath, bytes: text(document.getRoot().listMaterials().flatMap(materialOf)) },
    ],
    entry: { nodes: nodes.map((node) => nodeOf(node, nodes)), ...motionOf(document, nodes) },
  }
}

/** How many places, UVs and normals were written: OBJ counts them through the whole file, from one. */
const counting = () => ({ places: 0, uvs: 0, normals: 0 })

/** Nine digits bring every 32-bit float back as it was. */
const shown = (value: number): string => String(Number(value.toPrecision(9)))

const objectOf =
  (count: ReturnType<typeof counting>) =>
  (node: Node): string[] => {
    const primitives = node.getMesh()?.listPrimitives() ?? []
    if (primitives.length === 0) return []
    const lines = [`o ${node.getName()}`]
    const matrix = node.getWorldMatrix()
    const mirrored = determinantOf(matrix) < 0
    for (const primitive of primitives) {
      const { positions, indices, normals } = readPrimitive(primitive)
      const accessor = primitive.getAttribute('TEXCOORD_0')
      const uvs = accessor ? accessorToFloats(accessor) : null
      push(lines, 'v', transformedPoints(positions, matrix), 3)
      if (uvs)
        push(
          lines,
          'vt',
          uvs.map((value, at) => (at % 2 === 1 ? 1 - value : value)),
          2,
        )
      if (normals) push(lines, 'vn', transformedNormals(normals, matrix), 3)
      const material = primitive.getMaterial()
      if (material) lines.push(`usemtl ${material.getName()}`)
      const corner = (index: number): string => {
        const uv = uvs ? String(index + 1 + count.uvs) : ''
        const place = String(index + 1 + count.places)
        return normals ? `${place}/${uv}/${index + 1 + count.normals}` : uvs ? `${place}/${uv}` : place
      }
      for (let at = 0; at < indices.length; at += 3)
        lines.push(`f ${(mirrored ? [0, 2, 1] : [0, 1, 2]).map((each) => corner(indices[at + each])).join(' ')}`)
      count.places += positions.length / 3
      if (uvs) count.uvs += uvs.length / 2
      if (normals) count.normals += normals.length / 3
    }
    return lines
  }

function push(lines: string[], word: string, values: Float32Array, size: number): void {
  for (let at = 0; at < values.length; at += size)
    lines.push(`${word} ${Array.from(values.subarray(at, at + size), shown).join(' ')}`)
}

/** A material's name; what it shows stands in its look. */
const materialOf = (material: Material): string[] => [`newmtl ${material.getName()}`, 'Kd 1 1 1']

function nodeOf(node: Node, nodes: readonly Node[]): Record<string, unknown> {
  const parent = node.getParentNode()
  const extras = node.getExtras()
  return {
    name: node.getName(),
    // An item's root often has the name of its only part: the object that is a node's own is said, not guessed.
    ...(node.getMesh()?.listPrimitives().length ? { object: node.getName() } : {}),
    ...(parent ? { parent: nodes.indexOf(parent) } : {}),
    translation: node.getTranslation(),
    rotation: node.getRotation(),
    scale: node.getScale(),
    ...(Object.keys(extras).length > 0 ? { extras } : {}),
  }
}

function motionOf(document: Document, nodes: readonly Node[]): { clips?: unknown[] } {
  const clips = document
    .getRoot()
    .listAnimations()
    .map((clip) => clipOf(clip, nodes))
  return clips.length > 0 ? { clips } : {}
}

function clipOf(clip: Animation, nodes: readonly Node[]): Record<string, unknown> {
  return {
    name: clip.getName(),
    channels: clip.listChannels().flatMap((channel) => {
      const [sampler, node] = [channel.getSampler(), channel.getTargetNode()]
      const [times, values] = [sampler?.getInput(), sampler?.getOutput()]
      if (!sampler || !node || !times || !values) return []
      return [
        {
          node: nodes.indexOf(node),
          path: channel.getTargetPath(),
          interpolation: sampler.getInterpolation(),
          times: [...accessorToFloats(times)],
          values: [...accessorToFloats(values)],
        },
      ]
    }),
  }
}
