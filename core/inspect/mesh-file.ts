import type { Document, Material, Node, Skin } from '@gltf-transform/core'
import { decomposeMatrix } from '../maths/matrices.ts'
import { itemScene } from '../item/parts.ts'
import { bindShape, clipShapes, readTriangles, readValues, timeShape, type ReadPrimitive } from './glb-values.ts'
import { openGlbFile, type GlbFile, type GltfNode } from './glb-file.ts'

/** What a mesh file holds beside what becomes part of the document. */
export interface MeshFile {
  /** The nodes that nothing carries, as they stood before their children were hung into the scene. */
  roots: { name: string; isPlain: boolean }[]
  images: number
  clips: number
  lights: number
  morphing: string | null
  /** An extension of a node or a surface that the game does not know. */
  unknownExtension: string | null
}

const LIGHTS = 'KHR_lights_punctual'
const SMALL = 1e-5

/**
 * Adds a packed mesh file to a document. Its root node goes: what hangs under it stands in the scene, as in an item
 * before packing.
 * @param materials by name, shared between the files of an item
 * @throws Error with the reason when the file is not one that a game's loader reads
 *
 * @example const { roots } = addMeshFile(document, bytes, new Map())
 */
export function addMeshFile(document: Document, bytes: Uint8Array, materials: Map<string, Material>): MeshFile {
  const file = openGlbFile(bytes)
  const { gltf } = file
  const parents = parentsInScene(file)
  const read = new Map(
    [...parents.keys()].flatMap((number) => gltf.nodes[number].mesh ?? []).map((mesh) => [mesh, meshOf(file, mesh)]),
  )
  const nodes = new Map<number, Node>()
  for (const number of parents.keys()) nodes.set(number, makeNode(document, file, number, read, materials))
  for (const [number, parent] of parents) if (parent !== null) nodes.get(parent)?.addChild(nodes.get(number) as Node)
  for (const number of parents.keys()) hangOnBones(document, file, number, nodes)
  addClips(document, file, nodes)
  const roots = [...parents].filter(([, parent]) => parent === null).map(([number]) => number)
  const facts = roots.map((number) => ({
    name: gltf.nodes[number].name,
    isPlain: isPlainRoot(gltf.nodes[number], nodes.get(number) as Node),
  }))
  roots.forEach((number) => unpackRoot(document, nodes.get(number) as Node))
  const reached = [...parents.keys()].map((number) => gltf.nodes[number])
  const extensions = reached.flatMap((node) => [
    ...Object.keys(node.extensions),
    ...(node.mesh === undefined
      ? []
      : gltf.meshes[node.mesh].primitives.flatMap((primitive) => Object.keys(primitive.extensions))),
  ])
  return {
    roots: facts,
    images: gltf.images.length,
    clips: gltf.animations.length,
    lights: reached.filter((node) => LIGHTS in node.extensions).length,
    morphing:
      reached.find(
        (node) =>
          node.mesh !== undefined &&
          gltf.meshes[node.mesh].primitives.some((primitive) => primitive.targets.length > 0),
      )?.name ?? null,
    unknownExtension: extensions.find((extension) => extension !== LIGHTS) ?? null,
  }
}

/** Every node of the scene with the node that carries it, carriers first. */
function parentsInScene({ gltf }: GlbFile): Map<number, number | null> {
  const scene = gltf.scenes[gltf.scene]
  if (!scene) throw new Error('its scene is not there')
  const parents = new Map<number, number | null>()
  const waiting: [number, number | null][] = scene.nodes.map((root) => [root, null])
  for (let at = 0; at < waiting.length; at++) {
    const [number, parent] = waiting[at]
    if (number >= gltf.nodes.length || parents.has(number)) throw new Error('its nodes are no tree')
    parents.set(number, parent)
    for (const child of gltf.nodes[number].children) waiting.push([child, number])
  }
  return parents
}

function meshOf(file: GlbFile, mesh: number): { primitives: ReadPrimitive[]; materials: (string | null)[] } {
  const definition = file.gltf.meshes[mesh]
  if (!definition) throw new Error('a mesh is not there')
  return {
    primitives: definition.primitives.map((primitive) => readTriangles(file, primitive)),
    materials: definition.primitives.map(({ material }) =>
      material === undefined ? null : file.gltf.materials[material].name,
    ),
  }
}

function makeNode(
  document: Document,
  { gltf }: GlbFile,
  number: number,
  meshes: ReadonlyMap<number, ReturnType<typeof meshOf>>,
  materials: Map<string, Material>,
): Node {
  const definition = gltf.nodes[number]
  if (definition.matrix && (definition.translation ?? definition.rotation ?? definition.scale))
    throw new Error(`${definition.name} is placed twice`)
  const rotation = definition.rotation ?? [0, 0, 0, 1]
  if (Math.abs(Math.hypot(...rotation) - 1) > 1e-3) throw new Error(`${definition.name} has a turn that is none`)
  const placed = definition.matrix
    ? decomposeMatrix(definition.matrix)
    : { translation: definition.translation ?? [0, 0, 0], rotation, scale: definition.scale ?? [1, 1, 1] }
  const node = document.createNode(definition.name).setExtras(definition.extras)
  node
    .setTranslation(placed.translation as [number, number, number])
    .setRotation(placed.rotation as [number, number, number, number])
    .setScale(placed.scale as [number, number, number])
  const read = definition.mesh === undefined ? undefined : meshes.get(definition.mesh)
  if (!read) return node
  const mesh = document.createMesh(definition.name)
  const [buffer] = document.getRoot().listBuffers()
  read.primitives.forEach(({ indices, attributes }, at) => {
    const primitive = document.createPrimitive().setIndices(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(indices as Uint32Array<ArrayBuffer>)
        .setBuffer(buffer),
    )
    for (const [semantic, { values, type }] of attributes)
      primitive.setAttribute(
        semantic,
        document
          .createAccessor()
          .setType(type)
          .setArray(values as Float32Array<ArrayBuffer>)
          .setBuffer(buffer),
      )
    const name = read.materials[at]
    if (name !== null) primitive.setMaterial(materialNamed(document, name, materials))
    mesh.addPrimitive(primitive)
  })
  return node.setMesh(mesh)
}

/** The game knows materials by their names alone: those of one name are one. */
function materialNamed(document: Document, name: string, materials: Map<string, Material>): Material {
  const known = materials.get(name) ?? document.createMaterial(name)
  materials.set(name, known)
  return known
}

function hangOnBones(document: Document, file: GlbFile, number: number, nodes: ReadonlyMap<number, Node>): void {
  const { skin: skinNumber, mesh } = file.gltf.nodes[number]
  const node = nodes.get(number)
  if (skinNumber === undefined || mesh === undefined || !node) return
  const definition = file.gltf.skins[skinNumber]
  if (!definition) throw new Error('its bones are not there')
  const skin: Skin = document.createSkin()
  for (const joint of definition.joints) {
    const bone = nodes.get(joint)
    if (!bone) throw new Error('a bone is not there')
    skin.addJoint(bone)
  }
  if (definition.inverseBindMatrices !== undefined) {
    const binds = readValues(file, definition.inverseBindMatrices, bindShape)
    if (binds.length < definition.joints.length * 16) throw new Error('a bone has no rest')
    skin.setInverseBindMatrices(
      document
        .createAccessor()
        .setType('MAT4')
        .setArray(binds as Float32Array<ArrayBuffer>)
        .setBuffer(document.getRoot().listBuffers()[0]),
    )
  }
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    const sets = primitive.listSemantics().filter((semantic) => semantic.startsWith('JOINTS_'))
    if (
      sets.length === 0 ||
      sets.some((semantic) =>
        primitive
          .getAttribute(semantic)
          ?.getArray()
          ?.some((bone: number) => bone >= definition.joints.length),
      )
    )
      throw new Error(`${node.getName()} is held by a bone that is not there`)
  }
  node.setSkin(skin)
}

/** Clips are kept as what they move; their keys are only looked at. */
function addClips(document: Document, file: GlbFile, nodes: ReadonlyMap<number, Node>): void {
  for (const { name = '', channels, samplers } of file.gltf.animations) {
    const clip = document.createAnimation(name)
    for (const { sampler: number, target } of channels) {
      const sampler = samplers[number]
      if (!sampler || (target.node !== undefined && target.node >= file.gltf.nodes.length))
        throw new Error('a clip moves what is not there')
      const times = readValues(file, sampler.input, timeShape)
      for (let key = 0; key < times.length; key++)
        if (times[key] < (key === 0 ? 0 : times[key - 1]) || (key > 0 && times[key] === times[key - 1]))
          throw new Error('the keys of a clip are not in order')
      const shape = clipShapes[target.path]
      if (!shape) continue
      const values = readValues(file, sampler.output, shape)
      if (values.length !== times.length * shape.size * (sampler.interpolation === 'CUBICSPLINE' ? 3 : 1))
        throw new Error('a clip has more or fewer values than keys')
      clip.addChannel(
        document
          .createAnimationChannel()
          .setTargetPath(target.path as 'translation')
          .setTargetNode(target.node === undefined ? null : (nodes.get(target.node) ?? null)),
      )
    }
  }
}

const isPlainRoot = ({ mesh }: GltfNode, node: Node): boolean =>
  mesh === undefined &&
  Math.hypot(...node.getTranslation()) <= SMALL &&
  Math.hypot(...node.getRotation().slice(0, 3)) <= 1e-6 &&
  node.getScale().every((value) => Math.abs(value - 1) <= 1e-6)

/** Hangs what a plain root carries into the scene; one with a mesh stays a part, one that is a bone stays a bone. */
function unpackRoot(document: Document, root: Node): void {
  const scene = itemScene(document)
  const isUsed = root
    .listParents()
    .some((parent) => parent.propertyType === 'Skin' || parent.propertyType === 'AnimationChannel')
  if (root.getMesh() || isUsed) scene.addChild(root)
  else {
    for (const child of root.listChildren()) {
      root.removeChild(child)
      scene.addChild(child)
    }
    root.dispose()
  }
}
