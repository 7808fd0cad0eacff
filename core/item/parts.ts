import type { Accessor, Document, Material, mat4, Mesh, Node, Primitive, Scene } from '@gltf-transform/core'
import { multiplyMatrices } from '../maths/axes.ts'
import { getNodeExtras, type NodeExtras } from './extras.ts'
import { rememberUntilChanged } from './quiet-changes.ts'

/** One node with geometry, with what it is for. */
export interface Part {
  readonly name: string
  readonly node: Node
  readonly mesh: Mesh
  readonly extras: Readonly<NodeExtras>
}

/**
 * Where a node's mesh stands at rest (column-major). A skinned mesh stands where its bones hold it, not where its node
 * is (glTF 2.0 specification, section 3.7.3.3); in the bind pose every bone holds it in the same place.
 *
 * @example const places = transformedPoints(readPrimitive(primitive).positions, restMatrix(part.node))
 */
export function restMatrix(node: Node): mat4 {
  const skin = node.getSkin()
  const [bone] = skin?.listJoints() ?? []
  if (!bone) return node.getWorldMatrix()
  const bind = skin?.getInverseBindMatrices()?.getElement(0, [])
  if (bind?.length !== 16) return bone.getWorldMatrix()
  return multiplyMatrices(bone.getWorldMatrix(), bind) as mat4
}

/**
 * The scene that is the item.
 *
 * @example itemScene(document).addChild(document.createNode('lid').setMesh(mesh))
 */
export function itemScene(document: Document): Scene {
  const root = document.getRoot()
  return root.getDefaultScene() ?? root.listScenes()[0] ?? document.createScene('item')
}

/**
 * Every node below the scene, parents first. Shared nodes are visited once.
 *
 * @example const moving = listSceneNodes(document).filter((node) => listMovingNodes(document).has(node))
 */
export const listSceneNodes: (document: Document) => readonly Node[] = rememberUntilChanged((document) => {
  const nodes = new Set<Node>()
  itemScene(document).traverse((node) => void nodes.add(node))
  return [...nodes]
})

/**
 * Every node with geometry, whatever its role.
 *
 * @example const solids = listAllParts(document).filter(({ extras }) => extras.role === 'solid')
 */
export const listAllParts: (document: Document) => readonly Part[] = rememberUntilChanged((document) => {
  const parts: Part[] = []
  for (const node of listSceneNodes(document)) {
    const mesh = node.getMesh()
    if (mesh) parts.push({ name: node.getName(), node, mesh, extras: getNodeExtras(node) })
  }
  return parts
})

/**
 * The parts that are drawn close by: neither levels, shadow mesh nor solids.
 *
 * @example const triangles = countTriangles(listViewParts(document))
 */
export const listViewParts: (document: Document) => readonly Part[] = rememberUntilChanged((document) =>
  listAllParts(document).filter((part) => part.extras.role === 'part'),
)

/**
 * The materials that any drawn part uses, in the order of first use.
 *
 * @example for (const material of listUsedMaterials(document)) material.setName(cleanName(rulebook, material.getName(), 'material'))
 */
export const listUsedMaterials: (document: Document) => readonly Material[] = rememberUntilChanged((document) => {
  const used = new Set<Material>()
  for (const part of listAllParts(document)) {
    if (part.extras.role === 'solid') continue
    for (const primitive of part.mesh.listPrimitives()) {
      const material = primitive.getMaterial()
      if (material) used.add(material)
    }
  }
  return [...used]
})

const TRIANGLES = 4

/**
 * Triangles of a primitive; strips and fans counted as what they become, points and lines as none.
 * @example const triangles = mesh.listPrimitives().reduce((sum, each) => sum + countPrimitiveTriangles(each), 0)
 */
export function countPrimitiveTriangles(primitive: Primitive): number {
  const corners = primitive.getIndices()?.getCount() ?? primitive.getAttribute('POSITION')?.getCount() ?? 0
  const mode = primitive.getMode()
  if (mode === TRIANGLES) return Math.floor(corners / 3)
  if (mode === 5 || mode === 6) return Math.max(0, corners - 2)
  return 0
}

/**
 * Triangles of all surfaces of a mesh.
 *
 * @example const triangles = countMeshTriangles(part.mesh)
 */
export function countMeshTriangles(mesh: Mesh): number {
  return mesh.listPrimitives().reduce((sum, primitive) => sum + countPrimitiveTriangles(primitive), 0)
}

/**
 * Triangles as drawn: a mesh that two nodes use counts twice.
 *
 * @example countTriangles(listViewParts(document)) // 10000
 */
export function countTriangles(parts: readonly Part[]): number {
  return parts.reduce((sum, part) => sum + countMeshTriangles(part.mesh), 0)
}

/**
 * Corners (stored vertices) of a mesh, shared accessors counted once.
 *
 * @example const corners = countMeshCorners(part.mesh)
 */
export function countMeshCorners(mesh: Mesh): number {
  const positions = new Set<Accessor>()
  for (const primitive of mesh.listPrimitives()) {
    const position = primitive.getAttribute('POSITION')
    if (position) positions.add(position)
  }
  return [...positions].reduce((sum, accessor) => sum + accessor.getCount(), 0)
}

/** Why a node's transform is not to be baked into vertices. */
export type MovingReason = 'moves' | 'is a bone' | 'carries what moves' | 'hangs on what moves'

/**
 * Nodes that a clip or a skin moves, and every node above or below one, with the reason: their transforms are not to be
 * baked.
 *
 * @example const why = movingReasons(document).get(node)
 */
export function movingReasons(document: Document): Map<Node, MovingReason> {
  const reasons = new Map<Node, MovingReason>()
  for (const skin of document.getRoot().listSkins())
    for (const joint of skin.listJoints()) reasons.set(joint, 'is a bone')
  for (const animation of document.getRoot().listAnimations()) {
    for (const channel of animation.listChannels()) {
      const target = channel.getTargetNode()
      if (target && channel.getTargetPath() !== 'weights') reasons.set(target, 'moves')
    }
  }
  // A group that is meant to move keeps its own place until it has its motion.
  for (const node of listSceneNodes(document))
    if (!reasons.has(node) && getNodeExtras(node).group === 'moves') reasons.set(node, 'moves')
  for (const node of [...reasons.keys()]) {
    for (const child of descendants(node)) if (!reasons.has(child)) reasons.set(child, 'hangs on what moves')
    for (let parent = node.getParentNode(); parent; parent = parent.getParentNode())
      if (!reasons.has(parent)) reasons.set(parent, 'carries what moves')
  }
  return reasons
}

/**
 * Nodes that a clip or a skin moves, and every node above or below one.
 *
 * @example const still = nodes.filter((node) => !listMovingNodes(document).has(node))
 */
export const listMovingNodes = (document: Document): Set<Node> => new Set(movingReasons(document).keys())

/**
 * Every node below this one.
 *
 * @example for (const below of descendants(node)) below.setSkin(null)
 */
export function descendants(node: Node): Node[] {
  const found: Node[] = []
  const queue = [...node.listChildren()]
  while (queue.length > 0) {
    const next = queue.pop() as Node
    found.push(next)
    queue.push(...next.listChildren())
  }
  return found
}

/**
 * Whether a node has a name, or hangs under one that has it.
 * @example const ofTheLid = listViewParts(document).filter(({ node }) => isUnder(node, 'lid'))
 */
export const isUnder = (node: Node | null, name: string): boolean =>
  node !== null && (node.getName() === name || isUnder(node.getParentNode(), name))
