import type { Document, Material } from '@gltf-transform/core'
import { setMaterialExtras, setRootExtras, type TextureReference } from '../document/extras.ts'
import { createDocument } from '../document/io.ts'
import { itemScene } from '../document/parts.ts'
import { POLYGON_ATTRIBUTE } from '../document/polygons.ts'
import { writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { readImage, type ReadImage } from './images.ts'
import { parseMtl, type MtlMaterial } from './mtl.ts'
import { parseObj, type ObjGroup } from './obj-parse.ts'
import { fileEnding, fileName, fileStem, type SourceFile } from './source-file.ts'
import { findTexture } from './texture-search.ts'
import type { MeshReading, ReadOptions } from './reader.ts'

/** Reads OBJ with its MTL and the textures it asks for. Neither unit nor axes are declared by the format. */
export async function readObj(main: SourceFile, files: readonly SourceFile[], options: ReadOptions): Promise<MeshReading> {
  const obj = parseObj(main)
  const used = new Set<string>([main.path])
  const document = createDocument(fileStem(main.path))
  const scene = itemScene(document)
  const materials = new ObjMaterials(document, files, options, readLibraries(obj.libraries, files, used), used)
  for (const object of obj.objects) {
    const mesh = document.createMesh(object.name)
    for (const group of object.groups.values()) {
      const primitive = groupToPrimitive(document, group)
      if (group.material !== null) primitive.setMaterial(await materials.get(group.material))
      mesh.addPrimitive(primitive)
    }
    scene.addChild(document.createNode(object.name).setMesh(mesh))
  }
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: null, from: 'unknown' },
    axes: { up: '+y', forward: '+z', from: 'customary' },
  })
  return { document, usedPaths: used }
}

function readLibraries(names: string[], files: readonly SourceFile[], used: Set<string>): Map<string, MtlMaterial> {
  const libraries = files.filter((file) => fileEnding(file.path) === 'mtl')
  const wanted = names.map((name) => findTexture(name, libraries)).filter((file) => file !== null)
  const chosen = wanted.length > 0 || libraries.length !== 1 ? wanted : libraries
  const materials = new Map<string, MtlMaterial>()
  for (const file of chosen) {
    used.add(file.path)
    for (const [name, material] of parseMtl(file)) materials.set(name, material)
  }
  return materials
}

/** Makes each material once, with the textures that could be found. */
class ObjMaterials {
  private readonly made = new Map<string, Material>()
  private readonly images = new Map<string, ReadImage>()

  constructor(
    private readonly document: Document,
    private readonly files: readonly SourceFile[],
    private readonly options: ReadOptions,
    private readonly library: Map<string, MtlMaterial>,
    private readonly used: Set<string>,
  ) {}

  async get(name: string): Promise<Material> {
    const known = this.made.get(name)
    if (known) return known
    const material = this.document.createMaterial(name).setMetallicFactor(0).setRoughnessFactor(0.9)
    this.made.set(name, material)
    const mtl = this.library.get(name)
    if (mtl) await this.fill(material, mtl)
    return material
  }

  private async fill(material: Material, mtl: MtlMaterial): Promise<void> {
    const [red, green, blue] = mtl.colour.map((value) => Math.min(1, Math.max(0, value)) ** 2.2)
    material.setBaseColorFactor([red, green, blue, Math.min(1, Math.max(0, mtl.opacity))])
    if (mtl.opacity < 1) material.setAlphaMode('BLEND')
    // A usual reading of the Phong exponent as roughness: sqrt(2 / (n + 2)).
    material.setRoughnessFactor(Math.min(1, Math.sqrt(2 / (Math.max(0, mtl.shininess) + 2))))
    const references: TextureReference[] = []
    for (const { role, path } of mtl.maps) {
      const file = findTexture(path, this.files.filter(isImageFile), this.options.links)
      references.push({ role, path, found: file?.path ?? null })
      if (!file || role === 'other') continue
      this.used.add(file.path)
      const image = this.images.get(file.path) ?? readImage(file)
      this.images.set(file.path, image)
      const texture = await image.texture(this.document, role, path)
      if (role === 'colour') material.setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, mtl.opacity])
      else material.setNormalTexture(texture)
    }
    setMaterialExtras(material, { references })
  }
}

const isImageFile = (file: SourceFile): boolean => !['obj', 'mtl', 'glb', 'gltf', 'bin'].includes(fileEnding(fileName(file.path)))

function groupToPrimitive(document: Document, group: ObjGroup) {
  const cornerCount = group.positions.length / 3
  const polygonOfCorner = new Float32Array(cornerCount)
  const triangleCount = group.polygonSizes.reduce((sum, size) => sum + size - 2, 0)
  const indices = new Uint32Array(triangleCount * 3)
  let corner = 0
  let index = 0
  group.polygonSizes.forEach((size, polygon) => {
    for (let each = 0; each < size; each++) polygonOfCorner[corner + each] = polygon
    for (let each = 1; each + 1 < size; each++) {
      indices[index++] = corner
      indices[index++] = corner + each
      indices[index++] = corner + each + 1
    }
    corner += size
  })
  const primitive = document.createPrimitive()
  writeAttribute(document, primitive, 'POSITION', Float32Array.from(group.positions), 3)
  writeIndices(document, primitive, indices, cornerCount)
  if (group.uvs.length === cornerCount * 2) {
    writeAttribute(document, primitive, 'TEXCOORD_0', Float32Array.from(group.uvs, (value, at) => (at % 2 === 1 ? 1 - value : value)), 2)
  }
  if (group.normals.length === cornerCount * 3) writeAttribute(document, primitive, 'NORMAL', Float32Array.from(group.normals), 3)
  if (group.polygonSizes.some((size) => size > 3)) writeAttribute(document, primitive, POLYGON_ATTRIBUTE, polygonOfCorner, 1)
  return primitive
}
