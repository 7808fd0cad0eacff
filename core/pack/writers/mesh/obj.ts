import type { Animation, Document, Material, Node, Primitive } from '@gltf-transform/core'
import { listSceneNodes } from '../../../item/parts.ts'
import { accessorToFloats, readPrimitive } from '../../../item/primitive-arrays.ts'
import { determinantOf, transformedNormals, transformedPoints } from '../../../maths/matrices.ts'
import { withEnding, type MeshWriter } from './mesh-writer.ts'

/**
 * Wavefront OBJ with a material file (version 3.0): places and normals where things stand at rest, wound as they are
 * drawn, UVs with V upward. What the format has no word for, which node hangs on which, what a node says of itself and
 * how it moves, goes into the entry.
 *
 * @example const written = await writeObj({ document, path: 'gate.obj', rulebook })
 */
export const writeObj: MeshWriter = async ({ document, path }) => {
  const materialPath = withEnding(path, '.mtl')
  const text = (lines: readonly string[]): Uint8Array => new TextEncoder().encode(`${lines.join('\n')}\n`)
  const nodes = listSceneNodes(document)
  return {
    files: [
      {
        path,
        bytes: text([`mtllib ${materialPath.split('/').pop()}`, ...inFileOrder(nodes).flatMap(objectOf(counting()))]),
      },
      { path: materialPath, bytes: text(orderedMaterials(document, nodes).flatMap(materialOf)) },
    ],
    entry: { nodes: nodes.map((node) => nodeOf(node, nodes)), ...motionOf(document, nodes) },
  }
}

/** A file has no word for “no material from here on”: what has none comes first. */
const inFileOrder = (nodes: readonly Node[]): Node[] => {
  const hasMaterial = (node: Node): boolean =>
    (node.getMesh()?.listPrimitives() ?? []).some((surface) => surface.getMaterial() !== null)
  return [...nodes.filter((node) => !hasMaterial(node)), ...nodes.filter(hasMaterial)]
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
      const { places, uvs, normals, corners } = writtenCorners(primitive, matrix)
      lines.push(...places, ...uvs, ...normals)
      const material = primitive.getMaterial()
      if (material) lines.push(`usemtl ${material.getName()}`)
      const corner = (index: number): string => {
        const uv = uvs.length > 0 ? String(index + 1 + count.uvs) : ''
        const place = String(index + 1 + count.places)
        return normals.length > 0 ? `${place}/${uv}/${index + 1 + count.normals}` : uv !== '' ? `${place}/${uv}` : place
      }
      for (let at = 0; at < corners.length; at += 3)
        lines.push(`f ${(mirrored ? [0, 2, 1] : [0, 1, 2]).map((each) => corner(corners[at + each])).join(' ')}`)
      count.places += places.length
      count.uvs += uvs.length
      count.normals += normals.length
    }
    return lines
  }

/**
 * The lines of a surface's corners, each once and in the order in which triangles use them, so that a file that was
 * read and is written again is the same; and for each corner of a triangle which one it is.
 */
function writtenCorners(
  primitive: Primitive,
  matrix: number[],
): { places: string[]; uvs: string[]; normals: string[]; corners: number[] } {
  const { positions, indices, normals } = readPrimitive(primitive)
  const accessor = primitive.getAttribute('TEXCOORD_0')
  const uvs = accessor && accessorToFloats(accessor).map((value, at) => (at % 2 === 1 ? 1 - value : value))
  const given = [
    linesOf('v', transformedPoints(positions, matrix), 3),
    uvs ? linesOf('vt', uvs, 2) : null,
    normals ? linesOf('vn', inSteps(transformedNormals(normals, matrix)), 3) : null,
  ]
  const written: string[][] = [[], [], []]
  const known = new Map<string, number>()
  const corners = [...indices].map((index) => {
    const lines = given.map((each) => each?.[index] ?? '')
    const key = lines.join()
    const number = known.get(key) ?? known.size
    if (number === known.size) {
      known.set(key, number)
      lines.forEach((line, which) => line !== '' && written[which].push(line))
    }
    return number
  })
  return { places: written[0], uvs: written[1], normals: written[2], corners }
}

/** Directions are written in steps of a millionth: turning them back and forth loses less than half of one. */
const DIRECTION_STEPS = 1e6

const inSteps = (directions: Float32Array): Float64Array =>
  Float64Array.from(directions, (value) => Math.round(value * DIRECTION_STEPS) / DIRECTION_STEPS)

const linesOf = (word: string, values: Float32Array | Float64Array, size: number): string[] =>
  Array.from(
    { length: values.length / size },
    (_, at) => `${word} ${Array.from(values.subarray(at * size, (at + 1) * size), shown).join(' ')}`,
  )

/** The materials in the order in which surfaces show them, then those that none does. */
function orderedMaterials(document: Document, nodes: readonly Node[]): Material[] {
  const shown = nodes.flatMap((node) => node.getMesh()?.listPrimitives() ?? []).map((surface) => surface.getMaterial())
  return [...new Set([...shown.filter((material) => material !== null), ...document.getRoot().listMaterials()])]
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
