import type { Document, Material, TextureInfo } from '@gltf-transform/core'
import { KHRTextureTransform } from '@gltf-transform/extensions'
import { setMaterialExtras, type TextureReference } from '../../item/extras.ts'
import { isIngredientRole } from '../../item/map-roles.ts'
import { PlainError } from '../../support/plain-error.ts'
import { materialMap, setMaterialMap } from '../../item/source-maps.ts'
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
    const [red, green, blue, alpha] = source.colour.map((value) =>
      Math.min(1, Math.max(0, Number.isFinite(value) ? value : 1)),
    )
    const material = this.document
      .createMaterial(source.name)
      .setBaseColorFactor([red, green, blue, alpha])
      .setMetallicFactor(bounded(source.metalness))
      .setRoughnessFactor(bounded(source.roughness))
      .setDoubleSided(source.twoSided === true)
    if (alpha < 1) material.setAlphaMode('BLEND')
    if (source.emissive) material.setEmissiveFactor(source.emissive.map(bounded) as [number, number, number])
    const references: TextureReference[] = []
    for (const map of source.maps.slice(0, MOST_MAPS))
      references.push(await this.addMap(material, map, alpha, source.tintsMap === true))
    setMaterialExtras(material, { references, ...(source.physical ? {} : { shineIsGuessed: true }) })
    return material
  }

  private async addMap(material: Material, map: SourceMap, alpha: number, tinted: boolean): Promise<TextureReference> {
    const linked = this.options.links?.[map.path]
    const stock = stockOfLink(linked)
    if (stock !== null) return { role: map.role, path: map.path, found: null, stock }
    const embedded =
      map.embedded && linked === undefined ? { path: fileName(map.path) || 'picture', bytes: map.embedded } : null
    const file = embedded ?? findTexture(map.path, this.imageFiles, this.options.links)
    const reference: TextureReference = {
      role: map.role,
      path: map.path,
      found: embedded ? 'inside the file' : (file?.path ?? null),
    }
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
      material.setBaseColorTexture(texture)
      // A black tint under a picture is how many programs write “see the picture”.
      if (
        !tinted ||
        material
          .getBaseColorFactor()
          .slice(0, 3)
          .every((value) => value === 0)
      )
        material.setBaseColorFactor([1, 1, 1, alpha])
      this.place(material.getBaseColorTextureInfo(), map, set)
    } else if (map.role === 'normal' && !material.getNormalTexture()) {
      material.setNormalTexture(texture)
      this.place(material.getNormalTextureInfo(), map, set)
    }
    return found
  }

  private place(info: TextureInfo | null, { offset, scale, wrap }: SourceMap, set: number): void {
    info?.setTexCoord(set)
    if (wrap) info?.setWrapS(wraps[wrap]).setWrapT(wraps[wrap])
    if (!offset && !scale) return
    const moved = this.document.createExtension(KHRTextureTransform).createTransform()
    info?.setExtension('KHR_texture_transform', moved.setOffset(offset ?? [0, 0]).setScale(scale ?? [1, 1]))
  }
}

const wraps = { repeat: 10497, mirror: 33648, clamp: 33071 } as const

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
