import type { Document, Material, Node } from '@gltf-transform/core'
import { readWrittenTags } from '../game/material-tag.ts'
import { addScene } from '../item/add-scene.ts'
import { getNodeExtras, setNodeExtras, setRootExtras } from '../item/extras.ts'
import { createDocument, documentToGlb } from '../item/io.ts'
import { itemScene, listSceneNodes } from '../item/parts.ts'
import { writeAttribute, writeIndices } from '../item/primitive-arrays.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'
import { recogniseRoles } from './node-roles.ts'
import { parseRecord, type OpenedPack, type PackedItem, type PackedModel } from './open-pack.ts'
import { openMesh } from './openers/open-mesh.ts'
import { PackedLooks, packedLookSchema, type ReadLook } from './packed-look.ts'
import { enterWorkingSpace } from './space-door.ts'

/**
 * An item of a pack as the state it was packed from, in a GLB: every model and look, in the working space and the
 * game's unit, maps in the blocks that they were packed in; solids, levels, shadow meshes and places are known as such
 * again. Packed once more, it gives the same files.
 * @throws PlainError when the pack has no such item, or a file of it is missing or broken
 *
 * @example const glb = await takeItem(pack, 'boathouse_gate')
 */
export async function takeItem(pack: OpenedPack, itemName: string): Promise<Uint8Array> {
  return documentToGlb(await openItem(pack, itemName))
}

/**
 * The same as a document.
 * @example const document = await openItem(pack, 'boathouse_gate')
 */
export async function openItem(pack: OpenedPack, itemName: string): Promise<Document> {
  const { rulebook, files, title } = pack
  const item = pack.items.find((each) => each.name === itemName)
  if (!item)
    throw new PlainError(
      `it has no item “${itemName}”`,
      title,
      `Its items: ${pack.items.map((each) => each.name).join(', ')}.`,
    )
  const looks = item.looks.map((path) => parseRecord('look', files, path, packedLookSchema, title, rulebook))
  const document = item.meshes.length > 0 ? await openModels(pack, item) : boardFor(item, looks)
  await new PackedLooks(document, files, rulebook).putOn(looks)
  readWrittenTags(document, rulebook)
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: rulebook.space.unit.metres, from: 'chosen' },
    axes: { up: '+y', forward: '+z', from: 'chosen' },
    changes: item.changes,
    turns: item.turns,
    entry: item.said ?? undefined,
  })
  return document
}

/** Every model of an item in one document; each node says which model it belongs to, where there are several. */
async function openModels(pack: OpenedPack, item: PackedItem): Promise<Document> {
  let whole: Document | null = null
  for (const mesh of item.meshes) {
    const model = await openModel(pack, item, mesh)
    if (whole) addScene(whole, model)
    else whole = model
  }
  if (!whole) throw new Error('an item with meshes has at least one')
  shareMaterials(whole)
  return whole
}

async function openModel(
  { files, rulebook, title }: OpenedPack,
  item: PackedItem,
  mesh: PackedModel,
): Promise<Document> {
  const bytes = files.get(mesh.path)
  if (!bytes) throw new PlainError(`the mesh of ${item.name} is missing`, title, 'Copy the pack again.')
  let document: Document
  try {
    document = await openMesh({ path: mesh.path, bytes, files, beside: mesh.beside }, rulebook)
  } catch (error) {
    throw new PlainError(
      `the mesh of ${item.name} cannot be read (${plainMessage(error)})`,
      title,
      'Copy the pack again.',
    )
  }
  takeOffRoot(document, item.name)
  enterWorkingSpace(document, rulebook)
  recogniseRoles(document, rulebook)
  if (mesh.model !== null)
    for (const node of listSceneNodes(document)) setNodeExtras(node, { ...getNodeExtras(node), model: mesh.model })
  return document
}

/**
 * Packing puts everything under one node that is named after the item; what hung under it stands in the scene again.
 */
function takeOffRoot(document: Document, itemName: string): void {
  const scene = itemScene(document)
  const [root, ...others] = scene.listChildren()
  if (!root || others.length > 0 || root.getName() !== itemName || root.getMesh() || !standsStill(root)) return
  for (const child of root.listChildren()) {
    root.removeChild(child)
    scene.addChild(child)
  }
  root.dispose()
}

const standsStill = (node: Node): boolean =>
  [...node.getTranslation(), ...node.getRotation().slice(0, 3), ...node.getScale().map((value) => value - 1)].every(
    (value) => value === 0,
  )

/** Models of one item show the same materials: those of one name are one. */
function shareMaterials(document: Document): void {
  const byName = new Map<string, Material>()
  for (const material of document.getRoot().listMaterials()) {
    const first = byName.get(material.getName())
    if (!first) byName.set(material.getName(), material)
    else {
      for (const parent of material.listParents()) if (parent.propertyType !== 'Root') parent.swap(material, first)
      material.dispose()
    }
  }
}

/** A board for an item without a mesh to show its looks on: a unit high, one surface for each material. */
function boardFor(item: PackedItem, looks: readonly ReadLook[]): Document {
  const document = createDocument(item.name)
  const mesh = document.createMesh(item.name)
  for (const name of Object.keys(looks[0]?.materials ?? {})) {
    const surface = document.createPrimitive().setMaterial(document.createMaterial(name))
    writeAttribute(document, surface, 'POSITION', Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]), 3)
    writeAttribute(document, surface, 'TEXCOORD_0', Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0]), 2)
    writeIndices(document, surface, Uint32Array.from([0, 1, 2, 0, 2, 3]), 4)
    mesh.addPrimitive(surface)
  }
  itemScene(document).addChild(document.createNode(item.name).setMesh(mesh))
  return document
}
