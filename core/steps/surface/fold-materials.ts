import { isPackedRole } from '../../item/map-roles.ts'
import type { Document, Material, Primitive, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras, getTextureExtras, setTextureExtras, type TextureRole } from '../../item/extras.ts'
import { noteGivenUp } from '../../item/given-up.ts'
import { listShownMaterials } from '../../item/looks.ts'
import { glowFactor, isUnlit, rolesOf, settlePlaces, type MapPlace, type MapRole } from '../../item/material-meaning.ts'
import { dropUnusedAccessors, writeAttribute } from '../../item/primitive-arrays.ts'
import { materialMap, setMaterialMap } from '../../item/source-maps.ts'
import { layOut, type LayOut } from '../../pictures/lay-out.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { meaningOfRole } from '../../pictures/meaning.ts'
import { resizePixels } from '../../pictures/resize.ts'
import {
  foldColour,
  foldData,
  foldGlow,
  glowGivenUp,
  foldRelief,
  type OpacityFold,
} from '../../operations/maps/folded-pixels.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'
import {
  beyondEdges,
  cornerColour,
  leadingPlace,
  MOST_LAID_OUT,
  needsFolding,
  needsPainting,
  placedUvs,
  reachOf,
  surfacesOfMaterial,
} from '../../operations/maps/unsettled.ts'

const parameters = z.object({})

/** Puts what a source's materials say beside their pictures into the pictures. */
export const foldMaterials = defineStep<z.infer<typeof parameters>>({
  id: 'fold-materials',
  version: 1,
  stage: 'surface',
  ofMaps: true,
  title: 'Fold into maps',
  purpose:
    'Puts tints, moved or mirrored pictures, thresholds, glow and factors of metal and gloss into pictures and ' +
    'UVs: a game reads those and nothing beside them.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, rulebook, kind }) {
    if (kind.mesh?.losesUVs === true) return []
    const open = foldable(document)
    if (open.length === 0) return []
    return [
      {
        parameters: {},
        reason: `The game multiplies nothing: ${open
          .slice(0, 4)
          .map(({ material, reasons }) => `${baseNameOf(material, rulebook)} has ${reasons.join(', ')}`)
          .join('; ')}${open.length > 4 ? `; and ${open.length - 4} more` : ''}.`,
      },
    ]
  },
  async run({ document, rulebook, progress }) {
    const open = foldable(document)
    const folder = new Folder(document)
    const details: string[] = []
    for (const [number, { material, reasons }] of open.entries()) {
      const name = baseNameOf(material, rulebook)
      await progress(number / open.length, name)
      await folder.fold(material, name)
      details.push(`${name}: ${reasons.join(', ')}.`)
    }
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
    dropUnusedAccessors(document)
    return {
      headline: plural(open.length, 'material'),
      details: details.length > 0 ? details : ['Every material says all it has to say by its pictures.'],
      changed: open.length > 0,
    }
  },
})

/** Materials that can be folded as they lie, with what of them. */
function foldable(document: Document): { material: Material; reasons: string[] }[] {
  return listShownMaterials(document).flatMap((material) => {
    const reasons = [...needsFolding(document, material), ...(lacksColour(material) ? ['no colour map'] : [])]
    return reasons.length === 0 || needsPainting(document, material).length > 0 ? [] : [{ material, reasons }]
  })
}

/** A material with maps, and none of colour, found or awaited. */
const lacksColour = (material: Material): boolean =>
  rolesOf(material).length > 0 &&
  !material.getBaseColorTexture() &&
  !getMaterialExtras(material).references.some(
    (reference) => reference.role === 'colour' && (reference.found === null || reference.stock !== undefined),
  )

/** Larger pictures are not laid out at full size. */
const LARGEST_SIDE = 4096

class Folder {
  /** Pictures that were made already, by what went into them. */
  private readonly made = new Map<string, Texture>()
  private readonly moved = new Map<Primitive, string>()

  constructor(private readonly document: Document) {}

  async fold(material: Material, name: string): Promise<void> {
    const surfaces = surfacesOfMaterial(this.document, material)
    const lead = leadingPlace(material)
    const layouts = lead && beyondEdges(surfaces, lead) ? layoutsFor(surfaces, lead) : null
    const corner = cornerColour(surfaces)
    const tint = material
      .getBaseColorFactor()
      .map((value, channel) => value * (Array.isArray(corner) ? (corner[channel] as number) : 1))
    if (lead) this.moveUvs(surfaces, lead, layouts, name)
    for (const surface of surfaces) surface.setAttribute('COLOR_0', null)
    await this.foldMaps(material, name, tint, layouts)
    settlePlaces(material)
  }

  private async foldMaps(
    material: Material,
    name: string,
    tint: readonly number[],
    layouts: [LayOut, LayOut] | null,
  ): Promise<void> {
    const laid = async (role: MapRole): Promise<Pixels | null> => {
      const texture = materialMap(material, role)
      return texture ? laidOut(await texturePixels(texture), layouts) : null
    }
    const layoutKey = JSON.stringify(layouts)
    const replace = async (role: MapRole, key: string, change: (pixels: Pixels) => Pixels): Promise<void> => {
      const old = materialMap(material, role)
      const pixels = await laid(role)
      if (old && pixels)
        this.put(material, name, role, `${numberOf(this.document, old)} ${layoutKey} ${key}`, old, () => change(pixels))
    }
    const opacity = opacityFold(material, tint[3])
    const glows = !isUnlit(material) && Math.max(...glowFactor(material)) > 0
    const glowMap = glows ? await laid('glow') : null
    let colour =
      (await laid('colour')) ??
      (rolesOf(material).length > 0 || glows ? { width: 4, height: 4, data: new Uint8Array(64).fill(255) } : null)
    const old = materialMap(material, 'colour')
    if (colour) {
      if (glowMap && glowMap.width * glowMap.height > colour.width * colour.height)
        colour = resizePixels(colour, glowMap.width, glowMap.height, 'colour')
      const folded = foldColour(colour, tint, opacity)
      const glow = glows
        ? foldGlow(
            folded,
            glowMap && resizePixels(glowMap, folded.width, folded.height, 'colour'),
            glowFactor(material),
          )
        : null
      const key = JSON.stringify([
        old ? numberOf(this.document, old) : null,
        layoutKey,
        tint,
        opacity,
        glows ? [glowFactor(material), numberOf(this.document, materialMap(material, 'glow'))] : null,
      ])
      this.put(material, name, 'colour', key, old, () => glow?.colour ?? folded)
      if (glow) {
        material
          .setEmissiveTexture(null)
          .setEmissiveFactor([0, 0, 0])
          .setExtension('KHR_materials_emissive_strength', null)
        this.put(material, name, 'glow', `mask ${key}`, null, () => glow.mask)
        if (glow.otherHue > 0.02) noteGivenUp(this.document, glowGivenUp(name, glow.otherHue))
      }
    }
    if (!glows && material.getEmissiveTexture()) material.setEmissiveTexture(null)
    const [rough, metal, strength, relief] = [
      material.getRoughnessFactor(),
      material.getMetallicFactor(),
      material.getOcclusionStrength(),
      material.getNormalScale(),
    ]
    if (materialMap(material, 'metal-rough')) {
      await replace('metal-rough', `${rough} ${metal}`, (pixels) => foldData(pixels, [1, rough, metal]))
      material.setRoughnessFactor(1).setMetallicFactor(1)
    }
    if (materialMap(material, 'occlusion')) {
      await replace('occlusion', `${strength}`, (pixels) =>
        foldData(pixels, [strength, strength, strength], [1 - strength, 1 - strength, 1 - strength]),
      )
      material.setOcclusionStrength(1)
    }
    await replace('normal', `${relief}`, (pixels) => (relief === 1 ? pixels : foldRelief(pixels, relief)))
    material.setNormalScale(1)
    const others = rolesOf(material).filter((role) => isPackedRole(role) || onlyMoved.includes(role))
    for (const role of others) if (layouts) await replace(role, '', (pixels) => pixels)
    material.setBaseColorFactor(colour ? [1, 1, 1, 1] : (tint as [number, number, number, number])).setAlphaCutoff(0.5)
  }

  /** Puts a picture into a role; one that was made of the same things is used again. */
  private put(
    material: Material,
    name: string,
    role: MapRole,
    key: string,
    old: Texture | null,
    make: () => Pixels,
  ): void {
    const known = this.made.get(`${role} ${key}`)
    const texture =
      known ??
      addTexture(
        this.document,
        this.freeName(old?.getName() || `${name}_${role}`, name, old),
        role as TextureRole,
        make(),
        'folded from the source’s material',
      )
    if (!known && old)
      setTextureExtras(texture, { ...getTextureExtras(texture), written: getTextureExtras(old).written })
    this.made.set(`${role} ${key}`, texture)
    setMaterialMap(this.document, material, role, texture)
  }

  /** The old picture's name, with the material's where another picture of that name is made or stays. */
  private freeName(wanted: string, material: string, old: Texture | null): string {
    const taken = new Set(
      this.document
        .getRoot()
        .listTextures()
        .filter((texture) => texture !== old || texture.listParents().length > 2)
        .map((texture) => texture.getName()),
    )
    if (!taken.has(wanted)) return wanted
    let name = `${wanted}_${material}`
    for (let number = 2; taken.has(name); number++) name = `${wanted}_${material}_${number}`
    return name
  }

  private moveUvs(
    surfaces: readonly Primitive[],
    lead: MapPlace,
    layouts: [LayOut, LayOut] | null,
    name: string,
  ): void {
    const key = JSON.stringify([lead.set, lead.transform, layouts])
    for (const surface of surfaces) {
      const before = this.moved.get(surface)
      if (before !== undefined && before !== key)
        noteGivenUp(this.document, {
          what: 'Looks that lie otherwise',
          where: name,
          message: `Two looks lay their pictures on one surface in different places; ${name} lies as the first does`,
          why: 'The game has one set of UVs for all looks.',
        })
      if (before !== undefined) continue
      this.moved.set(surface, key)
      const uvs = placedUvs(surface, lead)
      if (!uvs) continue
      const laid = layouts ? uvs.map((value, at) => (value - layouts[at % 2].first) / layouts[at % 2].tiles) : uvs
      writeAttribute(this.document, surface, 'TEXCOORD_0', laid, 2)
    }
  }
}

const numberOf = (document: Document, texture: Texture | null): number =>
  texture ? document.getRoot().listTextures().indexOf(texture) : -1

function opacityFold(material: Material, factor: number): OpacityFold {
  if (material.getAlphaMode() === 'MASK') return { kind: 'cut', factor, threshold: material.getAlphaCutoff() }
  return material.getAlphaMode() === 'BLEND' ? { kind: 'blended', factor } : { kind: 'opaque' }
}

/**
 * A mirrored picture shows all there is of it in two; one that ends at its edges is laid out as far as surfaces reach.
 */
function layoutsFor(surfaces: readonly Primitive[], { wrap, ...place }: MapPlace): [LayOut, LayOut] {
  const { least, most } = reachOf(surfaces, { ...place, wrap })
  return [0, 1].map((axis): LayOut => {
    const [low, high] = [Math.floor(least[axis] + 1e-4), Math.ceil(most[axis] - 1e-4)]
    if (wrap[axis] === 'mirror' && (low < 0 || high > 1)) return { tiles: 2, first: 0, mode: 'mirror' }
    if (wrap[axis] === 'clamp' && (low < 0 || high > 1))
      return { tiles: Math.min(MOST_LAID_OUT, Math.max(1, high - low)), first: low, mode: 'clamp' }
    return { tiles: 1, first: 0, mode: 'repeat' }
  }) as [LayOut, LayOut]
}

function laidOut(pixels: Pixels, layouts: [LayOut, LayOut] | null): Pixels {
  if (!layouts) return pixels
  const [width, height] = [
    Math.min(pixels.width, LARGEST_SIDE / layouts[0].tiles),
    Math.min(pixels.height, LARGEST_SIDE / layouts[1].tiles),
  ]
  const fitting =
    width < pixels.width || height < pixels.height
      ? resizePixels(pixels, Math.floor(width), Math.floor(height), meaningOfRole('colour'))
      : pixels
  return layOut(fitting, ...layouts)
}

/** Maps that are only laid out anew with the rest. */
const onlyMoved: readonly MapRole[] = ['orm', 'roughness', 'gloss', 'metalness', 'height', 'opacity', 'specular']
