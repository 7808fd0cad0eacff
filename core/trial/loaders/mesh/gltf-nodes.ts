import type { LoadedGltf } from './gltf-schema.ts'
import { compose, multiply, turnsOrScales } from '../../matrices.ts'
import { readNumbers } from './read-accessor.ts'
import { readClips } from './read-clips.ts'
import type { LoadedMesh, LoadedNode } from './loaded-mesh.ts'
import { readLights } from './read-lights.ts'
import { readPrimitive } from './read-primitive.ts'

const MOST_TRIANGLES = 8_000_000

/**
 * What a glTF holds that this game reads: triangle meshes in a tree of nodes, and clips that move them. It trusts
 * nothing: every number of something and every range is checked.
 * @throws Error with a short reason
 *
 * @example const { nodes, clips } = readGltfNodes(gltf, binary)
 */
export function readGltfNodes(gltf: LoadedGltf, binary: Uint8Array): LoadedMesh {
  const [needed] = gltf.extensionsRequired
  if (needed !== undefined) throw new Error(`it needs ${needed.slice(0, 60)}, which the game does not know`)
  const loaded = readNodes(gltf, binary)
  readLights(gltf, loaded)
  return { nodes: [...loaded.values()], images: gltf.images.length, clips: readClips(gltf, binary, loaded) }
}

function readNodes(gltf: LoadedGltf, binary: Uint8Array): Map<number, LoadedNode> {
  const scene = gltf.scenes[gltf.scene ?? 0]
  if (!scene) throw new Error('its scene is not there')
  const loaded = new Map<number, LoadedNode>()
  const bones = new Set(gltf.skins.flatMap((skin) => skin.joints))
  const animated = new Set(
    gltf.animations.flatMap((animation) =>
      animation.channels.filter((channel) => channel.target.path !== 'weights').map((channel) => channel.target.node),
    ),
  )
  let drawn = 0
  const pending: [number, LoadedNode | null][] = (scene.nodes ?? []).map((root) => [root, null])
  // Depth first, without calling itself: a chain of nodes may be longer than the stack.
  pending.reverse()
  while (pending.length > 0) {
    const [number, parent] = pending.pop() as [number, LoadedNode | null]
    if (!gltf.nodes[number] || loaded.has(number)) throw new Error('node tree is broken')
    const node = readNode(gltf, binary, number, parent)
    drawn += node.primitives.reduce((sum, { indices }) => sum + indices.length / 3, 0)
    if (drawn > MOST_TRIANGLES) throw new Error('more triangles than the game draws, each copy counted')
    node.moves = animated.has(number) || bones.has(number)
    loaded.set(number, node)
    for (const child of [...(gltf.nodes[number].children ?? [])].reverse()) pending.push([child, node])
  }
  const nodes = [...loaded.values()]
  const movers = nodes.filter((node) => node.moves)
  for (const mover of movers)
    for (let above = mover.parent; above && !above.moves; above = above.parent) above.moves = true
  // Parents come first, so that what a mover carries is known when its own children are reached.
  const carried = new Set(movers)
  for (const node of nodes) if (node.parent && carried.has(node.parent)) carried.add(node)
  for (const node of carried) node.moves = true
  for (const [number, node] of loaded) holdByBones(gltf, binary, number, node, loaded)
  return loaded
}

function readNode(gltf: LoadedGltf, binary: Uint8Array, number: number, parent: LoadedNode | null): LoadedNode {
  const node = gltf.nodes[number]
  const translation = node.translation ?? node.matrix?.slice(12, 15) ?? [0, 0, 0]
  const rotation = node.rotation ?? [0, 0, 0, 1]
  if (node.matrix && (node.translation ?? node.rotation ?? node.scale)) throw new Error('a node placed twice')
  if (Math.abs(Math.hypot(...rotation) - 1) > 1e-3) throw new Error('a turn that is none')
  const local = node.matrix ?? compose(translation, rotation, node.scale ?? [1, 1, 1])
  const mesh = node.mesh === undefined ? undefined : gltf.meshes[node.mesh]
  if (node.mesh !== undefined && !mesh) throw new Error('a mesh that is not there')
  return {
    name: node.name ?? '',
    world: parent ? multiply(parent.world, local) : local,
    translation,
    turned: turnsOrScales(local),
    parent,
    extras: node.extras ?? {},
    extensions: [
      ...Object.keys(node.extensions ?? {}),
      ...(mesh?.primitives.flatMap((primitive) => Object.keys(primitive.extensions ?? {})) ?? []),
    ],
    primitives: mesh ? mesh.primitives.map((primitive) => readPrimitive(gltf, binary, primitive)) : [],
    bones: [],
    skeleton: [],
    light: null,
    moves: false,
  }
}

/** A mesh with bones stands where they hold it, not where its node is (glTF 2.0, section 3.7.3.3). */
function holdByBones(
  gltf: LoadedGltf,
  binary: Uint8Array,
  number: number,
  node: LoadedNode,
  loaded: ReadonlyMap<number, LoadedNode>,
): void {
  const { skin: skinNumber } = gltf.nodes[number]
  if (skinNumber === undefined || node.primitives.length === 0) return
  const skin = gltf.skins[skinNumber]
  const joints = skin?.joints.map((joint) => loaded.get(joint)) ?? []
  if (!skin || joints.some((joint) => joint === undefined)) throw new Error('a bone that is not there')
  const binds =
    skin.inverseBindMatrices === undefined
      ? null
      : readNumbers(gltf, binary, skin.inverseBindMatrices, 'MAT4', 'floats')
  if (binds && binds.length < joints.length * 16) throw new Error('a bone without its rest')
  if (
    node.primitives.some(
      (primitive) =>
        primitive.influences.length === 0 ||
        primitive.influences.some(({ bones }) => bones.some((bone) => bone >= joints.length)),
    )
  )
    throw new Error('a corner held by a bone that is not there')
  node.bones = joints.map((joint) => joint?.name ?? '')
  node.skeleton = joints.flatMap((bone, at) =>
    bone
      ? [
          {
            bone,
            bind: binds ? [...binds.subarray(at * 16, at * 16 + 16)] : compose([0, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
          },
        ]
      : [],
  )
  node.world = binds
    ? multiply(joints[0]?.world ?? node.world, [...binds.subarray(0, 16)])
    : (joints[0]?.world ?? node.world)
}
