import type { Document, Mesh, Node } from '@gltf-transform/core'
import type { AxisName } from '../../maths/axes.ts'
import type { PictureFile } from '../export-pictures.ts'
import { notExported } from '../export-left-out.ts'
import { itemScene, listSceneNodes } from '../parts.ts'
import { fbxBytes, line, properties, real, record, text, whole, type FbxRecord, type Value } from './binary-tree.ts'
import { drawnSurfaces, geometryRecords, materialsOf } from './geometry.ts'
import { FbxMaterials } from './materials.ts'
import { addClips } from './motion.ts'
import { FbxObjects, type ObjectId } from './objects.ts'
import { placeRecord } from './places.ts'
import { addSkin } from './skins.ts'

export interface FbxOptions {
  /** What the file's numbers are, in metres. */
  metresPerUnit: number
  up: AxisName
  forward: AxisName
  /** Name of the file without ending: pictures beside it begin with it. */
  stem: string
}

export interface FbxExport {
  fbx: Uint8Array
  /** Pictures that it names. */
  pictures: PictureFile[]
  /** What the format cannot hold and the item has, in sentences. */
  leftOut: string[]
}

/**
 * An item as binary FBX 7.4: its tree with the names that nodes have, triangles with normals, every set of UVs and
 * colours of corners, materials with pictures, bones with weights, and every clip.
 *
 * @example const { fbx } = exportFbx(document, { metresPerUnit: 0.01, up: '+y', forward: '+z', stem: 'gate' })
 */
export function exportFbx(document: Document, options: FbxOptions): FbxExport {
  const objects = new FbxObjects()
  const materials = new FbxMaterials(objects, options.stem)
  const modelOf = addModels(document, objects)
  addMeshes(document, objects, materials, modelOf)
  addClips(document, objects, modelOf)
  const counts = objects.counts()
  const fbx = fbxBytes([
    record(
      'FBXHeaderExtension',
      [],
      line('FBXHeaderVersion', whole(1003)),
      line('FBXVersion', whole(7400)),
      line('Creator', text('Gentle Crate')),
    ),
    // A fixed day: the same item gives the same bytes.
    line('CreationTime', text('1980-01-01 00:00:00:000')),
    line('Creator', text('Gentle Crate')),
    settings(options),
    record('Documents', [], line('Count', whole(0))),
    record('References'),
    record(
      'Definitions',
      [],
      line('Version', whole(100)),
      line('Count', whole(objects.objects.length + 1)),
      objectType('GlobalSettings', 1),
      ...[...counts].map(([type, count]) => objectType(type, count)),
    ),
    record('Objects', [], ...objects.objects),
    record('Connections', [], ...objects.connections),
  ])
  return { fbx, pictures: materials.pictures.list(), leftOut: [...materials.leftOut, ...notExported(document)] }
}

const objectType = (type: string, count: number): FbxRecord =>
  record('ObjectType', [text(type)], line('Count', whole(count)))

function settings({ metresPerUnit, up, forward }: FbxOptions): FbxRecord {
  const side = [0, 1, 2].find((axis) => !up.endsWith('xyz'[axis]) && !forward.endsWith('xyz'[axis])) ?? 0
  const number = (name: string, value: number): readonly [string, string, string, string, Value] => [
    name,
    'int',
    'Integer',
    '',
    whole(value),
  ]
  const axis = (name: string, of: AxisName) => [
    number(`${name}Axis`, 'xyz'.indexOf(of[1])),
    number(`${name}AxisSign`, of.startsWith('-') ? -1 : 1),
  ]
  return record(
    'GlobalSettings',
    [],
    line('Version', whole(1000)),
    properties(
      ...axis('Up', up),
      ...axis('Front', forward),
      number('CoordAxis', side),
      number('CoordAxisSign', 1),
      ['UnitScaleFactor', 'double', 'Number', '', real(metresPerUnit * 100)],
      ['OriginalUnitScaleFactor', 'double', 'Number', '', real(metresPerUnit * 100)],
    ),
  )
}

/** A model for each node: one with a mesh, a bone, or a place alone. */
function addModels(document: Document, objects: FbxObjects): Map<Node, ObjectId> {
  const bones = new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((skin) => skin.listJoints()),
  )
  const modelOf = new Map<Node, ObjectId>()
  for (const node of listSceneNodes(document)) {
    const mesh = node.getMesh()
    const kind = mesh && drawnSurfaces(mesh).length > 0 ? 'Mesh' : bones.has(node) ? 'LimbNode' : 'Null'
    const model = objects.add('Model', node.getName(), kind, [line('Version', whole(232)), placeRecord(node)])
    modelOf.set(node, model)
  }
  for (const root of itemScene(document).listChildren()) objects.connect(modelOf.get(root) ?? 0, 0)
  for (const [node, model] of modelOf) {
    const parent = node.getParentNode()
    if (parent) objects.connect(model, modelOf.get(parent) ?? 0)
  }
  return modelOf
}

function addMeshes(
  document: Document,
  objects: FbxObjects,
  materials: FbxMaterials,
  modelOf: ReadonlyMap<Node, ObjectId>,
): void {
  const geometries = new Map<Mesh, ObjectId>()
  for (const [node, model] of modelOf) {
    const mesh = node.getMesh()
    if (!mesh || drawnSurfaces(mesh).length === 0) continue
    const skin = node.getSkin()
    // What bones hold has a geometry of its own: the same mesh may be held by others elsewhere.
    const known = skin ? undefined : geometries.get(mesh)
    const geometry = known ?? objects.add('Geometry', mesh.getName() || node.getName(), 'Mesh', geometryRecords(mesh))
    if (!skin) geometries.set(mesh, geometry)
    objects.connect(geometry, model)
    for (const material of materialsOf(mesh)) objects.connect(materials.for(material), model)
    if (skin) addSkin(objects, node, mesh, skin, geometry, modelOf)
  }
  for (const material of document.getRoot().listMaterials()) materials.for(material)
}
