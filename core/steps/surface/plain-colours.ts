import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import type { Document, Material, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import type { TextureRole } from '../../item/extras.ts'
import { noteGivenUp } from '../../item/given-up.ts'
import { isUnlit } from '../../item/material-meaning.ts'
import { listAllParts, listUsedMaterials } from '../../item/parts.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import { cellCentre, filled, paintCells, plainLook, type PlainLook } from '../../operations/maps/plain-look.ts'
import { baseNameOf, flagFor } from '../../game/material-tag.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { gameLaysUvs, plainMaterials } from '../../operations/maps/plain-materials.ts'
import { defineStep, type StepSummary } from '../step.ts'
import { plural } from '../../support/wording.ts'
import { guessSurface } from './tag-materials.ts'
import { surfacesOfMaterial } from '../../operations/maps/unsettled.ts'
import { unpaintedMaterial } from '../../operations/maps/unpainted.ts'

const parameters = z.object({
  /** Surface kinds stay apart: each keeps a material of its own. */
  bySurface: z.boolean(),
  cellPixels: z.number().int().min(2).max(64),
})
type Parameters = z.infer<typeof parameters>

/** One small texture for everything that has only a plain colour. */
export const plainColours = defineStep<Parameters>({
  id: 'plain-colours',
  version: 5,
  stage: 'surface',
  ofMaps: true,
  title: 'Palette',
  purpose:
    'Gathers plain colours in one small texture, one cell each, so far apart that they do not mix in the ' +
    'mipmaps that are used; parts without a material get one. Where the game lays textures itself, each colour ' +
    'gets a texture of its own.',
  parameters,
  fields: () => [
    { type: 'toggle', key: 'bySurface', label: 'One material for each surface kind' },
    {
      type: 'choice',
      key: 'cellPixels',
      label: 'A cell',
      options: [4, 8, 16, 32].map((side) => ({ value: side, label: `${side} × ${side} pixels` })),
    },
  ],
  defaults: ({ document, rulebook, kind }) => ({ bySurface: fitsApart(document, rulebook, kind), cellPixels: 8 }),
  propose(context) {
    const { document, kind } = context
    const plain = plainMaterials(document, kind)
    const bare = partsWithoutMaterial(document)
    if (plain.length === 0 && bare.length === 0) return []
    const said = [
      plain.length > 0
        ? `${plural(plain.length, 'material')} ${plain.length === 1 ? 'has' : 'have'} a plain colour and no map`
        : '',
      bare.length > 0 ? `${bare.join(', ')} ${bare.length === 1 ? 'has' : 'have'} no material` : '',
    ].filter((each) => each !== '')
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason: `${said.join('; ')}. The game shows nothing without a colour map.`,
      },
    ]
  },
  async run({ document, rulebook, kind, parameters: { bySurface, cellPixels } }) {
    const given = giveMaterials(document)
    const plain = plainMaterials(document, kind)
    if (plain.length === 0)
      return {
        headline: 'none',
        details: [
          ...(given > 0 ? [`${plural(given, 'surface')} without a material got one.`] : []),
          'No material has to show a plain colour.',
        ],
        changed: given > 0,
      }
    const looks = new Map(plain.map((material) => [material, plainLook(document, material)]))
    if (gameLaysUvs(kind)) return paintEach(document, rulebook, looks)
    const groups = groupPlain(plain, rulebook, bySurface)
    // What is drawn clear has a picture of its own: beside it, solid colours would be in a picture that is half clear.
    const wayOf = ([first]: readonly Material[]): string => alphaDrawnAs(first, rulebook)
    const ways = [...new Set([...groups.values()].map(wayOf))]
    const details = ways.flatMap((way) => {
      const those = new Map([...groups].filter(([, members]) => wayOf(members) === way))
      return paintTogether(document, rulebook, { those, looks, cellPixels, name: nameOfAll('palette', way) })
    })
    for (const mesh of document.getRoot().listMeshes()) gatherSurfaces(document, mesh)
    return { headline: `${plain.length} → ${groups.size}`, details, changed: true }
  },
})

interface Palette {
  /** Materials that become one, by its name. */
  those: ReadonlyMap<string, readonly Material[]>
  looks: ReadonlyMap<Material, PlainLook>
  cellPixels: number
  /** What its pictures are called. */
  name: string
}

/** One picture with a cell for each colour of some materials; tells what came of them. */
function paintTogether(document: Document, rulebook: Rulebook, { those, looks, cellPixels, name }: Palette): string[] {
  const lookOf = (material: Material): PlainLook => looks.get(material) as PlainLook
  const keyOf = (material: Material): string => JSON.stringify(lookOf(material))
  const cells = new Map([...those.values()].flat().map((material) => [keyOf(material), lookOf(material)]))
  const keys = [...cells.keys()]
  const across = Math.max(1, Math.ceil(Math.sqrt(cells.size)))
  const side = Math.max(rulebook.maps.smallestPixels, 2 ** Math.ceil(Math.log2(across * cellPixels)))
  const picture = (ending: string, role: TextureRole, of: (look: PlainLook) => readonly number[]): Texture =>
    addTexture(
      document,
      nameOfAll(name, ending),
      role,
      paintCells([...cells.values()].map(of), across, side),
      'palette of plain colours',
    )
  const texture = picture('', 'colour', (look) => look.colour)
  const shine = lazily(() =>
    picture('metal_rough', 'metal-rough', (look) => [255, look.roughness, look.metalness, 255]),
  )
  const glow = lazily(() => picture('glow', 'glow', (look) => [look.glow, look.glow, look.glow, 255]))
  const details = [`${plural(cells.size, 'colour')} in one texture of ${side} × ${side} pixels.`]
  for (const [joined, members] of those) {
    const target = members[0]
    const shown = members.map(lookOf)
    members.forEach((material) => {
      placeOnCell(document, material, cellCentre(keys.indexOf(keyOf(material)), across))
      if (material !== target) replaceMaterial(document, material, target)
    })
    target
      .setName(joined)
      .setBaseColorTexture(texture)
      .setBaseColorFactor([1, 1, 1, 1])
      .setEmissiveFactor([0, 0, 0])
      .setExtension('KHR_materials_emissive_strength', null)
    if (!isUnlit(target) && shown.some((look) => look.metalness > 5 || look.roughness < 242)) {
      setMaterialMap(document, target, 'metal-rough', shine())
      target.setMetallicFactor(1).setRoughnessFactor(1)
    }
    if (shown.some((look) => look.glow > 0)) setMaterialMap(document, target, 'glow', glow())
    details.push(`${joined}: ${plural(members.length, 'material')}.`)
  }
  return details
}

const nameOfAll = (...words: string[]): string => words.filter((word) => word !== '').join('_')

/** One texture of one colour for each material, for kinds whose UVs are the game's own. */
function paintEach(document: Document, rulebook: Rulebook, looks: ReadonlyMap<Material, PlainLook>): StepSummary {
  const side = rulebook.maps.smallestPixels
  for (const [material, { colour }] of looks) {
    if (surfacesOfMaterial(document, material).some((surface) => surface.getAttribute('COLOR_0')))
      noteGivenUp(document, {
        what: 'Colours of corners',
        where: material.getName(),
        message:
          `${material.getName()} is painted at its corners; the game lays its textures itself, so it shows one ` +
          'plain colour',
        why: 'A thing whose UVs the game makes has no place for them.',
      })
    const texture = addTexture(
      document,
      `${material.getName()}_colour`,
      'colour',
      filled(side, colour),
      'a plain colour',
    )
    placeOnCell(document, material, [0.5, 0.5])
    material.setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, 1]).setEmissiveFactor([0, 0, 0])
  }
  return {
    headline: plural(looks.size, 'colour'),
    details: [...looks.keys()].map(
      (material) => `${material.getName()} shows its plain colour from a texture of ${side} × ${side} pixels.`,
    ),
    changed: true,
  }
}

function lazily<T>(make: () => T): () => T {
  let made: T | null = null
  return () => (made ??= make())
}

const partsWithoutMaterial = (document: Document): string[] =>
  listAllParts(document)
    .filter(
      (part) =>
        part.extras.role !== 'solid' && part.mesh.listPrimitives().some((primitive) => !primitive.getMaterial()),
    )
    .map((part) => part.name)

/** How many surfaces had no material. */
function giveMaterials(document: Document): number {
  let made: Material | null = null
  let given = 0
  for (const part of listAllParts(document)) {
    if (part.extras.role === 'solid') continue
    for (const primitive of part.mesh.listPrimitives())
      if (!primitive.getMaterial()) {
        primitive.setMaterial((made ??= unpaintedMaterial(document, part.name)))
        given++
      }
  }
  return given
}

/** All corners of a material's surfaces lie in the middle of its cell. */
function placeOnCell(document: Document, material: Material, [u, v]: [number, number]): void {
  for (const part of listAllParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      if (primitive.getMaterial() !== material) continue
      const corners = readPrimitive(primitive).positions.length / 3
      primitive.setAttribute('COLOR_0', null)
      writeAttribute(
        document,
        primitive,
        'TEXCOORD_0',
        Float32Array.from({ length: corners * 2 }, (_, at) => (at % 2 === 0 ? u : v)),
        2,
      )
    }
  }
}

function replaceMaterial(document: Document, from: Material, to: Material): void {
  for (const part of listAllParts(document))
    for (const primitive of part.mesh.listPrimitives()) if (primitive.getMaterial() === from) primitive.setMaterial(to)
  if (from.getDoubleSided()) to.setDoubleSided(true)
  from.dispose()
}

/**
 * What is drawn in another way cannot be one material: clear, cut and unlit ones stay apart. Drawing more from both
 * sides does no harm.
 */
const drawnAs = (material: Material, rulebook: Rulebook): string =>
  nameOfAll(alphaDrawnAs(material, rulebook), isUnlit(material) ? 'unlit' : '')

const alphaDrawnAs = (material: Material, rulebook: Rulebook): string =>
  material.getAlphaMode() === 'BLEND'
    ? (flagFor(rulebook, 'blended') ?? 'blended')
    : material.getAlphaMode() === 'MASK'
      ? (flagFor(rulebook, 'cut-out') ?? 'cut out')
      : ''

function groupPlain(plain: readonly Material[], rulebook: Rulebook, bySurface: boolean): Map<string, Material[]> {
  const groups = new Map<string, Material[]>()
  for (const material of plain) {
    const surface = bySurface ? guessSurface(baseNameOf(material, rulebook), rulebook) : ''
    const name = nameOfAll('palette', surface, drawnAs(material, rulebook))
    groups.set(name, [...(groups.get(name) ?? []), material])
  }
  return new Map([...groups].map(([name, members]) => [members.length === 1 ? members[0].getName() : name, members]))
}

/** Whether a material for each surface kind leaves the item within its number of materials. */
function fitsApart(document: Document, rulebook: Rulebook, kind: Kind): boolean {
  const plain = plainMaterials(document, kind)
  return (
    listUsedMaterials(document).length - plain.length + groupPlain(plain, rulebook, true).size <=
    rulebook.materials.largestCount
  )
}
