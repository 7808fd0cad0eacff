import type { ItemPaths } from '../game/item-paths.ts'
import { packedName } from '../game/packed-name.ts'
import type { Document, Node, Primitive } from '@gltf-transform/core'
import { prune, unpartition } from '@gltf-transform/functions'
import { foreignExtras, getNodeExtras } from '../item/extras.ts'
import { annotationKind } from '../item/annotations/index.ts'
import { LIGHTS_EXTENSION } from '../item/annotations/light/light.ts'
import { copyDocument } from '../item/io.ts'
import { countPrimitiveTriangles, descendants, itemScene, listSceneNodes } from '../item/parts.ts'
import { SourceMapsExtension } from '../item/source-maps.ts'
import { cutIntoSections } from '../operations/meshes/sections.ts'
import { tidyWeights } from '../operations/motion/tidy-weights.ts'
import { orderAccessors } from './accessor-order.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { leaveWorkingSpace } from './space-door.ts'

const ofLooks = new Set(['KHR_materials_variants', SourceMapsExtension.EXTENSION_NAME])

/**
 * Which model a branch of the scene belongs to: the first of its parts that says so; the first model when none does.
 */
function modelOf(branch: Node, kind: Kind): string {
  const named = [branch, ...descendants(branch)]
    .map((node) => getNodeExtras(node).model)
    .find((model) => model !== undefined)
  return named ?? kind.models[0]
}

/** A surface with what the game reads: one set of UVs, no corner colours, nothing of ours. */
function leaveGameAttributes(primitive: Primitive): void {
  primitive.setExtras({})
  for (const semantic of primitive.listSemantics())
    if (!/^(POSITION|NORMAL|TANGENT|TEXCOORD_0|JOINTS_\d|WEIGHTS_\d)$/.test(semantic))
      primitive.setAttribute(semantic, null)
  for (const target of primitive.listTargets()) primitive.removeTarget(target)
}

function disposeBranch(branch: Node): void {
  for (const node of [...descendants(branch), branch]) node.dispose()
}

/**
 * The item as the game's mesh file holds it, still as a document: in the game's axes, one root node at the origin named
 * after the item, materials named as the game names them, no images, nothing of ours in `extras`; a solid carries its
 * surface, layers and mass there.
 * @param model for kinds with several: only what belongs to this one
 *
 * @example const mesh = await gameMesh(document, 'boathouse_gate', kind, rulebook, itemPaths)
 */
export async function gameMesh(
  document: Document,
  itemName: string,
  kind: Kind,
  rulebook: Rulebook,
  paths: ItemPaths,
  model?: string,
): Promise<Document> {
  const copy = copyDocument(document)
  const root = copy.getRoot()
  const scene = itemScene(copy).setName(itemName)
  for (const other of root.listScenes()) if (other !== scene) other.dispose()
  if (model !== undefined)
    for (const child of scene.listChildren()) if (modelOf(child, kind) !== model) disposeBranch(child)
  for (const node of listSceneNodes(copy)) {
    const said = getNodeExtras(node)
    node.setCamera(null)
    if (kind.mostLights === 0) node.setExtension(LIGHTS_EXTENSION, null)
    node.setExtras(annotationKind(said.role)?.packedExtras(said) ?? foreignExtras(node))
    node.getMesh()?.setExtras({})
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (countPrimitiveTriangles(primitive) === 0) primitive.dispose()
      else leaveGameAttributes(primitive)
      if (node.getSkin()) tidyWeights(copy, primitive)
    }
    if (node.getMesh()?.listPrimitives().length === 0) node.setMesh(null)
  }
  for (const camera of root.listCameras()) camera.dispose()
  for (const material of root.listMaterials()) material.setName(packedName(material, rulebook, paths)).setExtras({})
  // Looks and unpacked maps are in files of their own.
  for (const extension of root.listExtensionsUsed()) if (ofLooks.has(extension.extensionName)) extension.dispose()
  for (const texture of root.listTextures()) texture.dispose()
  if (kind.mostLights === 0)
    root
      .listExtensionsUsed()
      .find((extension) => extension.extensionName === LIGHTS_EXTENSION)
      ?.dispose()
  root.setExtras({})
  root.getAsset().generator = 'Gentle Crate'
  const itemNode = copy.createNode(itemName)
  for (const child of scene.listChildren()) {
    scene.removeChild(child)
    itemNode.addChild(child)
  }
  scene.addChild(itemNode)
  // In the working space, where check counts them: another axis first would cut otherwise.
  if (kind.mesh?.sections) cutIntoSections(copy, kind.mesh.sections.corners)
  leaveWorkingSpace(copy, rulebook)
  orderAccessors(copy)
  await copy.transform(
    prune({ keepAttributes: true, keepLeaves: true, keepExtras: true, keepSolidTextures: true }),
    unpartition(),
  )
  return copy
}
