import { z } from 'zod'
import { compose, inverse, multiply, turnsOrScales } from '../../matrices.ts'
import { markMoving, type LoadedChannel, type LoadedNode, type MeshLoader } from './loaded-mesh.ts'
import { ObjLines } from './obj-lines.ts'
import { checkTimes, checkValues } from './read-clips.ts'

const triple = z.array(z.number()).length(3)
const numbers = z.array(z.number()).max(1_000_000)

/** What an entry says of nodes and clips, which the format has no word for. */
const besideSchema = z.object({
  nodes: z
    .array(
      z.object({
        name: z.string(),
        object: z.string().optional(),
        parent: z.number().int().nonnegative().optional(),
        translation: triple,
        rotation: z.array(z.number()).length(4),
        scale: triple,
        extras: z.record(z.string(), z.unknown()).default({}),
      }),
    )
    .max(100_000),
  clips: z
    .array(
      z.object({
        name: z.string().default(''),
        channels: z
          .array(
            z.object({
              node: z.number().int().nonnegative(),
              path: z.enum(['translation', 'rotation', 'scale']),
              interpolation: z.string(),
              times: numbers,
              values: numbers,
            }),
          )
          .max(10_000),
      }),
    )
    .max(1000)
    .default([]),
})

/**
 * Wavefront OBJ: objects with their triangles where they stand at rest; which of them hang on which, and how they move,
 * the entry says.
 *
 * @example const { nodes, clips } = loadObj({ ...files, rulebook })
 */
export const loadObj: MeshLoader = ({ bytes, beside }) => {
  const parsed = besideSchema.safeParse(beside)
  if (!parsed.success) throw new Error(`its entry is wrong at ${parsed.error.issues[0].path.join('.') || 'its nodes'}`)
  const objects = new ObjLines(bytes).read()
  const nodes: LoadedNode[] = []
  for (const { name, object, parent: number, translation, rotation, scale, extras } of parsed.data.nodes) {
    // Parents come first in an entry: one that does not hangs on nothing that is known yet.
    const parent = number === undefined ? null : nodes[number]
    if (parent === undefined) throw new Error(`${name} hangs on what is not there`)
    if (Math.abs(Math.hypot(...rotation) - 1) > 1e-3) throw new Error('a turn that is none')
    const local = compose(translation, rotation, scale)
    const world = parent ? multiply(parent.world, local) : local
    const primitives = (objects.get(object ?? '') ?? []).map((primitive) => toNode(primitive, inverse(world)))
    objects.delete(object ?? '')
    nodes.push({
      name,
      world,
      translation,
      turned: turnsOrScales(local),
      parent,
      extras,
      primitives,
      extensions: [],
      bones: [],
      skeleton: [],
      light: null,
      moves: false,
    })
  }
  const [stray] = objects.keys()
  if (stray !== undefined) throw new Error(`its entry knows nothing of ${stray}`)
  const clips = parsed.data.clips.map(({ name, channels }) => ({
    name,
    channels: channels.map(({ node, path, interpolation, times, values }): LoadedChannel => {
      if (!nodes[node]) throw new Error('a clip that moves what is not there')
      const channel = { path, interpolation, times: Float32Array.from(times), values: Float32Array.from(values) }
      checkTimes(channel.times)
      checkValues(channel)
      return { ...channel, node: nodes[node] }
    }),
  }))
  markMoving(
    nodes,
    clips.flatMap(({ channels }) => channels.map(({ node }) => node)),
  )
  return { nodes, images: 0, clips }
}

/** What a file gives in the scene, as its node holds it. */
function toNode(
  primitive: LoadedNode['primitives'][number],
  matrix: readonly number[],
): LoadedNode['primitives'][number] {
  const m = matrix
  const moved = (values: Float32Array, point: number): Float32Array => {
    const made = values.slice()
    for (let at = 0; at < values.length; at += 3)
      for (let axis = 0; axis < 3; axis++)
        made[at + axis] =
          m[axis] * values[at] + m[axis + 4] * values[at + 1] + m[axis + 8] * values[at + 2] + m[axis + 12] * point
    return made
  }
  return { ...primitive, positions: moved(primitive.positions, 1) }
}
