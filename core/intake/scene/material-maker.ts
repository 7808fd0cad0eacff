import type { Document, Material } from '@gltf-transform/core'
import { setMaterialExtras, type TextureReference } from '../../document/extras.ts'
import { isIngredientRole } from '../../document/map-roles.ts'
import { PlainError } from '../../document/plain-error.ts'
import { materialMap, setMaterialMap } from '../../document/source-maps.ts'
import { isImageFile, readImage, type ReadImage } from '../images.ts'
import type { ReadOptions } from '../reader.ts'
import { fileName, type SourceFile } from '../source-file.ts'
import { findTexture, stockOfLink } from '../texture-search.ts'
import type { SourceMap, SourceMaterial } from './source-scene.ts'

const MOST_MAPS = 64

/** Makes materials, with the textures that could be found; an image that several ask for is read once. */
export class MaterialMaker {
  private readonly images = new Map<string, Promise<ReadImage | PlainError>>()
  private readonly imageFiles: SourceFile[]

  constructor(
    private readonly document: Document,
    files: readonly SourceFile[],
    private readonly options: ReadOptions,
    private readonly used: Set<string>,
  ) {
    this.imageFiles = files.filter((file) => isImageFile(file.path))
  }

  async make(source: SourceMaterial): Promise<Material> {
    const [red, green, blue, alpha] = source.colour.map((value) => Math.min(1, Math.max(0, Number.isFinite(value) ? value : 1)))
    const material = this.document
      .createMaterial(source.name)
      .setBaseColorFactor([red, green, blue, alpha])
      .setMetallicFactor(bounded(source.metalness))
      .setRoughnessFactor(bounded(source.roughness))
      .setDoubleSided(source.twoSided === true)
    if (alpha < 1) material.setAlphaMode('BLEND')
    if (source.emissive) material.setEmissiveFactor(source.emissive.map(bounded) as [number, number, number])
    const references: TextureReference[] = []
    for (const map of source.maps.slice(0, MOST_MAPS)) references.push(await this.addMap(material, map, alpha))
    setMaterialExtras(material, { references })
    return material
  }

  private async addMap(material: Material, map: SourceMap, alpha: number): Promise<TextureReference> {
    const linked = this.options.links?.[map.path]
    const stock = stockOfLink(linked)
    if (stock !== null) return { role: map.role, path: map.path, found: null, stock }
    const embedded = map.embedded && linked === undefined ? { path: fileName(map.path) || 'picture', bytes: map.embedded } : null
    const file = embedded ?? findTexture(map.path, this.imageFiles, this.options.links)
    const reference: TextureReference = { role: map.role, path: map.path, found: embedded ? 'inside the file' : (file?.path ?? null) }
    if (!file) return reference
    if (!embedded) this.used.add(file.path)
    const key = `${embedded ? 'inside ' : ''}${file.path}`
    const reading = this.images.get(key) ?? openOrSay(file)
    this.images.set(key, reading)
    const image = await reading
    if (image instanceof PlainError) return { ...reference, problem: image.message.slice(0, 1000) }
    const { width, height } = image.image.facts
    const found: TextureReference = { ...reference, pixels: { width, height } }
    if (map.role === 'other') return found
    const texture = image.texture(this.document, map.role, map.path)
    if (isIngredientRole(map.role)) {
      if (!materialMap(material, map.role)) setMaterialMap(this.document, material, map.role, texture)
      return found
    }
    const set = Math.min(3, Math.max(0, map.uvSet ?? 0))
    if (map.role === 'colour' && !material.getBaseColorTexture()) {
      material.setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, alpha])
      material.getBaseColorTextureInfo()?.setTexCoord(set)
    } else if (map.role === 'normal' && !material.getNormalTexture()) {
      material.setNormalTexture(texture)
      material.getNormalTextureInfo()?.setTexCoord(set)
    } else if (map.role === 'mixed' && !material.getMetallicRoughnessTexture()) {
      material.setMetallicRoughnessTexture(texture)
      material.getMetallicRoughnessTextureInfo()?.setTexCoord(set)
    }
    return found
  }
}

/** A picture that cannot be read is told in the report; the model comes in without it. */
async function openOrSay(file: SourceFile): Promise<ReadImage | PlainError> {
  try {
    return await readImage(file)
  } catch (error) {
    if (error instanceof PlainError) return error
    throw error
  }
}

const bounded = (value: number): number => Math.min(1, Math.max(0, Number.isFinite(value) ? value : 0))
