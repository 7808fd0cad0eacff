import type { Document } from '@gltf-transform/core'
import { documentFromGlb } from '../item/io.ts'
import { getRootExtras, setMaterialExtras, setRootExtras } from '../item/extras.ts'
import { nameApart } from '../item/name-apart.ts'
import { customaryForward } from '../maths/axes.ts'
import { countTriangles, listAllParts, listSceneNodes, listViewParts } from '../item/parts.ts'
import { PlainError } from '../support/plain-error.ts'
import { read3ds } from './3ds/3ds.ts'
import { readCollada } from './collada/collada.ts'
import { readFbx } from './fbx/fbx.ts'
import { readGltf } from './gltf/gltf.ts'
import { isImageFile } from './images.ts'
import { readObj } from './obj/obj.ts'
import { readPicture } from './picture.ts'
import { readPly } from './ply/ply.ts'
import type { MeshReader, MeshReading, ReadOptions } from './reader.ts'
import { assertReadableSize, fileEnding, fileName, type SourceFile } from './source-file.ts'
import { readStl } from './stl.ts'

/** File ending → reader. Adding a format adds a file and a line here. */
const meshReaders: Readonly<Record<string, MeshReader>> = {
  glb: readGltf,
  gltf: readGltf,
  obj: readObj,
  fbx: readFbx,
  dae: readCollada,
  '3ds': read3ds,
  stl: readStl,
  ply: readPly,
}
export const meshEndings: readonly string[] = Object.keys(meshReaders)

/** Endings of files, besides images, that may go with a mesh. */
const companionEndings = new Set(['mtl', 'bin'])

/**
 * Whether a file is a mesh that is read, by its ending.
 *
 * @example isMeshFile('gate.v2.OBJ') // true
 */
export const isMeshFile = (path: string): boolean => Object.hasOwn(meshReaders, fileEnding(path))
/**
 * Whether a file may go with a mesh: a picture, a material file, a buffer.
 * @example isCompanionFile('gate.mtl') // true
 */
export const isCompanionFile = (path: string): boolean => companionEndings.has(fileEnding(path)) || isImageFile(path)

/**
 * Reads one mesh file with what goes with it into an item document.
 * @param files every file that was brought; the mesh takes from them what it asks for
 * @throws PlainError for anything that is not a whole, bounded, readable mesh
 *
 * @example const { document } = await readItem('gate.obj', files, { up: '+z' })
 */
export async function readItem(
  mainPath: string,
  files: readonly SourceFile[],
  options: ReadOptions = {},
): Promise<MeshReading> {
  const main = files.find((file) => file.path === mainPath)
  if (!main) throw new PlainError('the source is missing', fileName(mainPath), 'Bring it again.')
  const ending = fileEnding(main.path)
  const reader = Object.hasOwn(meshReaders, ending)
    ? meshReaders[ending]
    : isImageFile(main.path)
      ? readPicture
      : undefined
  if (!reader)
    throw new PlainError(
      'this kind of file is not read as a mesh',
      fileName(main.path),
      `Bring ${meshEndings.join(', ').toUpperCase()}.`,
    )
  assertReadableSize(main)
  if (options.asState) return readState(main, options)
  const reading = await reader(main, files, options)
  const isBones = options.bonesAlone === true && listSceneNodes(reading.document).length > 0
  if (!isBones && countTriangles(listViewParts(reading.document)) === 0)
    throw new PlainError(
      'it holds no triangles',
      fileName(main.path),
      'Export the model with its faces, not as points or lines.',
    )
  nameApart(reading.document)
  giveColouredMaterials(reading.document)
  namePicturesApart(reading.document)
  applyChosen(reading, options)
  return reading
}

/** @throws PlainError when it is no state of an item */
async function readState(main: SourceFile, options: ReadOptions): Promise<MeshReading> {
  let document: Document
  try {
    document = await documentFromGlb(main.bytes)
  } catch (error) {
    // What is said of a file that claims too much is said of this one.
    if (error instanceof PlainError) throw error
    throw new PlainError(
      'it cannot be read as an item that was packed',
      fileName(main.path),
      'Take it out of its pack again.',
    )
  }
  const reading = { document, usedPaths: new Set([main.path]) }
  applyChosen(reading, options)
  return reading
}

/**
 * Colours at corners are a surface's look, with or without a material: what has them and no material gets a plain white
 * one to show them on.
 */
function giveColouredMaterials(document: Document): void {
  for (const { name, mesh } of listAllParts(document)) {
    for (const primitive of mesh.listPrimitives()) {
      if (primitive.getMaterial() || !primitive.getAttribute('COLOR_0')) continue
      const material = document.createMaterial(name).setRoughnessFactor(1).setMetallicFactor(0)
      setMaterialExtras(material, { references: [], shineIsGuessed: true })
      primitive.setMaterial(material)
    }
  }
}

/** Steps know pictures by their names: two of one name would be taken for each other. */
function namePicturesApart(document: Document): void {
  const taken = new Set<string>()
  for (const texture of document.getRoot().listTextures()) {
    const wanted = texture.getName() || 'picture'
    let name = wanted
    for (let number = 2; taken.has(name); number++) name = `${wanted}_${number}`
    taken.add(name)
    texture.setName(name)
  }
}

/** What the modder said about unit and axes goes before what the file or its format says. */
function applyChosen({ document }: MeshReading, options: ReadOptions): void {
  const root = document.getRoot()
  const extras = getRootExtras(root)
  if (options.metresPerUnit !== undefined) extras.units = { metresPerUnit: options.metresPerUnit, from: 'chosen' }
  if (options.up !== undefined || options.forward !== undefined) {
    const up = options.up ?? extras.axes.up
    extras.axes = { up, forward: options.forward ?? customaryForward(up), from: 'chosen' }
    if (up[1] === extras.axes.forward[1])
      throw new PlainError(
        `up (${up}) and forward (${extras.axes.forward}) lie on the same axis`,
        'axes',
        'Choose two different axes.',
      )
  }
  setRootExtras(root, extras)
}
