import type { Document, Material, Mesh, Node } from '@gltf-transform/core'
import { notExported } from '../export-left-out.ts'
import { itemScene, listSceneNodes } from '../parts.ts'
import { primitiveIndices } from '../primitive-arrays.ts'
import { boneName, controllerOf } from './controllers.ts'
import { geometryOf, symbolOf } from './geometry.ts'
import type { PictureFile } from '../export-pictures.ts'
import { ColladaMaterials } from './materials.ts'
import { motionLibraries, PLACE } from './motion.ts'
import { rowsOf } from './sources.ts'
import { element, Ids, numbersText, xmlText, type Element } from './xml-text.ts'

export interface ColladaOptions {
  /** What the file's numbers are; the standard's own default is a metre. */
  unit: { name: string; metres: number }
  up: 'X_UP' | 'Y_UP' | 'Z_UP'
  /** Name of the file without ending: pictures beside it begin with it. */
  stem: string
}

export interface ColladaExport {
  dae: string
  /** Pictures that it names. */
  pictures: PictureFile[]
  /** What the format cannot hold and the item has, in sentences. */
  leftOut: string[]
}

/**
 * An item as COLLADA 1.4.1 (Khronos, 2008): its tree with the names that nodes have, triangles with normals, every set
 * of UVs and colours of corners, materials with pictures, bones with weights, and every clip.
 *
 * @example const { dae } = exportCollada(document, { unit: { name: 'inch', metres: 0.0254 }, up: 'Z_UP', stem: 'gate' })
 */
export function exportCollada(document: Document, { unit, up, stem }: ColladaOptions): ColladaExport {
  const ids = new Ids()
  const scene = itemScene(document)
  const nodes = listSceneNodes(document)
  // Nodes first: their ids are then their names, where XML takes those.
  for (const node of nodes) ids.for(node, node.getName() || 'node')
  const meshes = new Map<Mesh, string>()
  for (const node of nodes) {
    const mesh = node.getMesh()
    if (mesh && hasTriangles(mesh) && !meshes.has(mesh)) meshes.set(mesh, node.getName() || 'part')
  }
  const geometries = [...meshes].map(([mesh, name]) => geometryOf(mesh, ids, name))
  const controllers = new Map<Node, Element>()
  for (const node of nodes) {
    const [mesh, skin] = [node.getMesh(), node.getSkin()]
    if (mesh && skin && meshes.has(mesh))
      controllers.set(node, controllerOf(node, mesh, skin, ids.for(mesh, 'mesh'), ids))
  }
  const materials = new ColladaMaterials(ids, stem)
  const materialLibraries = materials.libraries(materialsByUse(document, meshes.keys()))
  const root = element(
    'COLLADA',
    { xmlns: 'http://www.collada.org/2005/11/COLLADASchema', version: '1.4.1' },
    element(
      'asset',
      {},
      element('contributor', {}, element('authoring_tool', {}, 'Gentle Crate')),
      // A fixed day: the same item gives the same bytes.
      element('created', {}, '1980-01-01T00:00:00Z'),
      element('modified', {}, '1980-01-01T00:00:00Z'),
      element('unit', { name: unit.name, meter: unit.metres }),
      element('up_axis', {}, up),
    ),
    ...motionLibraries(document, ids),
    ...materialLibraries,
    ...(geometries.length > 0 ? [element('library_geometries', {}, ...geometries)] : []),
    ...(controllers.size > 0 ? [element('library_controllers', {}, ...controllers.values())] : []),
    element(
      'library_visual_scenes',
      {},
      element(
        'visual_scene',
        { id: 'scene', name: scene.getName() || stem },
        ...scene.listChildren().map((node) => nodeOf(node, ids, meshes, controllers, bonesOf(document))),
      ),
    ),
    element('scene', {}, element('instance_visual_scene', { url: '#scene' })),
  )
  return {
    dae: xmlText(root),
    pictures: materials.pictures.list(),
    leftOut: [...materials.leftOut, ...notExported(document)],
  }
}

/** In the order in which they are met, as who reads the file has them. */
function materialsByUse(document: Document, meshes: Iterable<Mesh>): Material[] {
  const used = [...meshes].flatMap((mesh) => mesh.listPrimitives().flatMap((each) => each.getMaterial() ?? []))
  return [...new Set([...used, ...document.getRoot().listMaterials()])]
}

const hasTriangles = (mesh: Mesh): boolean =>
  mesh.listPrimitives().some((primitive) => primitiveIndices(primitive).length > 0)

const bonesOf = (document: Document): Set<Node> =>
  new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((skin) => skin.listJoints()),
  )

function nodeOf(
  node: Node,
  ids: Ids,
  meshes: ReadonlyMap<Mesh, string>,
  controllers: ReadonlyMap<Node, Element>,
  bones: ReadonlySet<Node>,
): Element {
  const isBone = bones.has(node)
  const id = ids.for(node, node.getName() || 'node')
  return element(
    'node',
    { id, name: node.getName(), ...(isBone ? { sid: boneName(ids, node), type: 'JOINT' } : { type: 'NODE' }) },
    element('matrix', { sid: PLACE }, numbersText(rowsOf(node.getMatrix()))),
    ...shownOf(node, ids, meshes, controllers),
    ...node.listChildren().map((child) => nodeOf(child, ids, meshes, controllers, bones)),
  )
}

function shownOf(
  node: Node,
  ids: Ids,
  meshes: ReadonlyMap<Mesh, string>,
  controllers: ReadonlyMap<Node, Element>,
): Element[] {
  const mesh = node.getMesh()
  if (!mesh || !meshes.has(mesh)) return []
  const shown = [...new Set(mesh.listPrimitives().flatMap((primitive) => primitive.getMaterial() ?? []))]
  const sets = new Set(
    mesh
      .listPrimitives()
      .flatMap((primitive) =>
        primitive.listSemantics().flatMap((semantic) => /^TEXCOORD_(\d+)$/.exec(semantic)?.[1] ?? []),
      ),
  )
  const bound = shown.map((material) =>
    element(
      'instance_material',
      { symbol: symbolOf(ids, material), target: `#${ids.for(material, material.getName())}` },
      ...[...sets].map((set) =>
        element('bind_vertex_input', { semantic: `UV${set}`, input_semantic: 'TEXCOORD', input_set: set }),
      ),
    ),
  )
  const binding = bound.length > 0 ? [element('bind_material', {}, element('technique_common', {}, ...bound))] : []
  const controller = controllers.get(node)
  if (!controller) return [element('instance_geometry', { url: `#${ids.for(mesh, 'mesh')}` }, ...binding)]
  const [first] = node.getSkin()?.listJoints() ?? []
  return [
    element(
      'instance_controller',
      { url: `#${controller.attributes['id']}` },
      ...(first ? [element('skeleton', {}, `#${ids.for(topBone(first, node), first.getName())}`)] : []),
      ...binding,
    ),
  ]
}

/** The highest bone above a bone of the same skin: the root of its skeleton. */
function topBone(bone: Node, holder: Node): Node {
  const bones = new Set(holder.getSkin()?.listJoints() ?? [])
  let top = bone
  for (let above = top.getParentNode(); above && bones.has(above); above = above.getParentNode()) top = above
  return top
}
