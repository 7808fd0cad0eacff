import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import { joinedName, uniqueName } from '../../game/clean-name.ts'
import { bakedMaterial } from '../../operations/maps/baked-material.ts'
import type { Document, Material, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras } from '../../item/extras.ts'
import { isGameMapRole } from '../../item/map-roles.ts'
import { rolesOf, type MapPlace } from '../../item/material-meaning.ts'
import { mergedTriangles } from '../../item/measure.ts'
import { listAllParts, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { materialMap } from '../../item/source-maps.ts'
import type { Rulebook } from '../../game/schema.ts'
import { surfaceArea } from '../../geometry/surface/sample-surface.ts'
import {
  bakeSurface,
  newCanvas,
  oldSet,
  picturesOf,
  type MaterialPictures,
} from '../../operations/maps/bake-surface.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import type { Proposal, StepContext } from '../../operations/context.ts'
import { materialsToJoin } from '../../operations/maps/materials-to-join.ts'
import { materialsInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { listShownMaps, texelsPerUnit } from '../../operations/maps/shown-maps.ts'
import { textureFacts } from '../../operations/maps/texture-pixels.ts'
import { leadingPlace, liesApart, needsPainting, surfacesOfMaterial } from '../../operations/maps/unsettled.ts'
import { guessSurface } from './tag-materials.ts'
import { marginFor, unwrapPrimitives } from './unwrap.ts'

const parameters = z.object({
  /** Materials by their names without tags. */
  materials: materialsInItem,
  name: z.string().min(1).max(40),
  sidePixels: z.number().int().min(16).max(4096),
  smallestMipPixels: z.number().int().min(4).max(512),
  /** Each pixel is worked out so many times across and down, and averaged. */
  supersampling: z.union([z.literal(1), z.literal(2), z.literal(4)]),
  /** `own`: painted on the UVs that are there, each place of which is shown once. */
  layout: z.enum(['new', 'own']).default('new'),
})
type Parameters = z.infer<typeof parameters>

/** Share of a square that islands cover, in practice. */
const EXPECTED_USE = 0.55
/** How much of the finest map's texels a unit has to be left. */
const FINE_ENOUGH = 0.7

/** Makes one set of maps of several materials. */
export const bakeMaps = defineStep<Parameters>({
  id: 'bake-maps',
  version: 5,
  stage: 'surface',
  ofMaps: true,
  title: 'Bake into one set',
  purpose:
    'Unwraps the surfaces of several materials together and paints their maps, tiled maps and plain colours ' +
    'into one set, so that they are one material.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'layers',
      key: 'materials',
      label: 'Materials',
      options: listUsedMaterials(document)
        .map((material) => baseNameOf(material, rulebook))
        .map((value) => ({ value, label: value })),
    },
    { type: 'text', key: 'name', label: 'Becomes' },
    {
      type: 'choice',
      key: 'sidePixels',
      label: 'Texture',
      options: [64, 128, 256, 512, 1024, 2048]
        .filter((side) => side <= rulebook.maps.largestPixels)
        .map((side) => ({ value: side, label: `${side} × ${side} pixels` })),
    },
    {
      type: 'choice',
      key: 'smallestMipPixels',
      label: 'Apart down to',
      options: [16, 32, 64, 128].map((side) => ({ value: side, label: `a mipmap of ${side} pixels` })),
    },
    {
      type: 'choice',
      key: 'layout',
      label: 'On',
      options: [
        { value: 'new', label: 'new islands' },
        { value: 'own', label: 'the UVs that are there' },
      ],
    },
    {
      type: 'choice',
      key: 'supersampling',
      label: 'Each pixel',
      options: [1, 2, 4].map((times) => ({
        value: times,
        label: times === 1 ? 'once' : `${times} × ${times} times, averaged`,
      })),
    },
  ],
  defaults: ({ document, rulebook }) => ({
    materials: listUsedMaterials(document).map((material) => baseNameOf(material, rulebook)),
    name: joinedName(rulebook, largestSurfaceKind(document, rulebook), 'set'),
    sidePixels: Math.min(512, rulebook.maps.largestPixels),
    smallestMipPixels: 32,
    supersampling: 2,
    layout: 'new',
  }),
  propose(context) {
    const defaults = (): Parameters => this.defaults(context) as Parameters
    const within = proposeWithin(context, defaults)
    if (within.length > 0) return within
    const together = proposeTogether(context, defaults)
    return together.length > 0 ? together : proposePainting(context)
  },
  async run({ document, rulebook, parameters: how, progress }) {
    const materials = listUsedMaterials(document).filter((material) =>
      how.materials.includes(baseNameOf(material, rulebook)),
    )
    const surfaces = surfacesOf(document, materials)
    if (surfaces.length === 0) return { headline: 'none', details: ['No material is chosen.'], changed: false }
    keepOldUvs(surfaces)
    const islands =
      how.layout === 'own'
        ? null
        : await unwrapPrimitives(
            document,
            surfaces,
            how.sidePixels,
            marginFor(how.sidePixels, how.smallestMipPixels),
            (fraction, doing) => progress(fraction * 0.3, doing),
          )
    const side = how.sidePixels * how.supersampling
    const canvas = newCanvas(side)
    const pictures = new Map<Material, MaterialPictures>()
    for (const material of materials) pictures.set(material, await picturesOf(material, rulebook))
    for (const [number, surface] of surfaces.entries()) {
      await progress(0.3 + (0.6 * number) / surfaces.length, `surface ${number + 1} of ${surfaces.length}`)
      const of = pictures.get(surface.getMaterial() as Material)
      if (of) bakeSurface(surface, of, canvas)
      for (const semantic of surface.listSemantics())
        if (semantic.startsWith('_OLD_UV_') || semantic === 'COLOR_0') surface.setAttribute(semantic, null)
    }
    const made = bakedMaterial(document, rulebook, how, materials, canvas)
    for (const surface of surfaces) surface.setMaterial(made.material)
    for (const mesh of document.getRoot().listMeshes()) gatherSurfaces(document, mesh)
    for (const material of materials)
      if (material.listParents().every((parent) => parent.propertyType === 'Root')) material.dispose()
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
    return {
      headline: `${materials.length} → 1`,
      details: [
        `${plural(materials.length, 'material')} became ${how.name}, with ${made.maps.join(', ')} of ` +
          `${how.sidePixels} × ${how.sidePixels} pixels.`,
        islands
          ? `${formatCount(islands.islands)} islands use ${Math.round(islands.used * 100)} % of it.`
          : 'They lie on the UVs that were there.',
      ],
      changed: true,
    }
  },
})

/** One set for an item of plain colours and maps, where it shows them as finely. */
function proposeTogether(context: StepContext, defaults: () => Parameters): Proposal<Parameters>[] {
  const { document, kind } = context
  if (kind.mesh === null || kind.mesh.losesUVs) return []
  const used = listUsedMaterials(document)
  const lacking = used.filter((material) => material.getBaseColorTexture() === null)
  const beyondReach = used.some(isBeyondReach)
  if (used.length < 3 || lacking.length === 0 || lacking.length === used.length || beyondReach) return []
  // One set pays where it shows what has a map nearly as finely as before; on larger things a palette does.
  const parameters = defaults()
  const finest = Math.max(
    0,
    ...listShownMaps(document, context.rulebook).map(
      ({ texture }) => texelsPerUnit(document, texture, textureFacts(texture).width, textureFacts(texture).height) ?? 0,
    ),
  )
  const { positions, indices } = mergedTriangles(listViewParts(document))
  const texelsAt = (side: number): number =>
    side * Math.sqrt(EXPECTED_USE / Math.max(1e-9, surfaceArea(positions, indices)))
  const sidePixels = [256, 512, 1024].find(
    (side) => side <= context.rulebook.maps.largestPixels && texelsAt(side) >= finest * FINE_ENOUGH,
  )
  if (sidePixels === undefined) return []
  const baked = texelsAt(sidePixels)
  return [
    {
      // So fine that each pixel shows about one of what was there.
      parameters: { ...parameters, sidePixels, supersampling: 1 },
      reason:
        `${lacking.length} of ${plural(used.length, 'material')} have a plain colour and no map. Baked together ` +
        `they are one material, with about ${Math.round(baked)} texels a ${context.rulebook.space.unit.name} where ` +
        `there were ${Math.round(finest)}.`,
    },
  ]
}

/** Where there are more materials than the game reads: those that are drawn alike become one. */
function proposeWithin(context: StepContext, defaults: () => Parameters): Proposal<Parameters>[] {
  const { document, rulebook, kind } = context
  if (kind.mesh === null || kind.mesh.losesUVs) return []
  const used = listUsedMaterials(document).length
  const taken = new Set<string>()
  return materialsToJoin(document, rulebook, isBeyondReach).map((group) => {
    const parameters = defaults()
    const name = uniqueName(rulebook, parameters.name, taken)
    taken.add(name)
    return {
      parameters: {
        ...parameters,
        name,
        materials: group.map((material) => baseNameOf(material, rulebook)),
        sidePixels: Math.min(1024, rulebook.maps.largestPixels),
        supersampling: 1 as const,
      },
      reason:
        `${plural(used, 'material')}, and the game reads ${rulebook.materials.largestCount} an item: ` +
        `${plural(group.length, 'material')} that are drawn alike become one.`,
    }
  })
}

/** Each material that shows something no game map can say beside it is painted into maps of its own. */
function proposePainting({ document, rulebook, kind }: StepContext): Proposal<Parameters>[] {
  if (kind.mesh === null || kind.mesh.losesUVs) return []
  return listUsedMaterials(document).flatMap((material): Proposal<Parameters>[] => {
    const reasons = needsPainting(document, material)
    if (reasons.length === 0 || isBeyondReach(material)) return []
    const surfaces = surfacesOfMaterial(document, material)
    const lead = leadingPlace(material) ?? firstSet
    const own = lead.set === 0 && liesApart(surfaces, lead)
    const name = baseNameOf(material, rulebook)
    const sidePixels = Math.min(rulebook.maps.largestPixels, paintedSide(material, surfaces))
    return [
      {
        parameters: {
          materials: [name],
          name: name.slice(0, 40) || 'painted',
          sidePixels,
          smallestMipPixels: 32,
          // Pixel for pixel on its own UVs; colours of corners have nothing finer than a pixel.
          supersampling: own || !showsPictures(material) ? 1 : 2,
          layout: own ? 'own' : 'new',
        },
        reason:
          `${name} shows ${reasons.join(', ')}; the game reads one set of UVs and multiplies nothing, so it is ` +
          'painted into maps.',
      },
    ]
  })
}

const showsPictures = (material: Material): boolean =>
  rolesOf(material).some((role) => materialMap(material, role) !== null)

const firstSet: MapPlace = { set: 0, transform: [1, 0, 0, 1, 0, 0], wrap: ['repeat', 'repeat'] }
/** Pixels for each corner, so that a colour between two corners is seen. */
const PIXELS_A_CORNER = 24

/** As fine as the material's largest picture, and as its corners where they carry colours. */
function paintedSide(material: Material, surfaces: readonly Primitive[]): number {
  const corners = surfaces.reduce((sum, surface) => sum + (surface.getAttribute('COLOR_0')?.getCount() ?? 0), 0)
  const largest = Math.max(
    0,
    ...rolesOf(material)
      .map((role) => materialMap(material, role))
      .map((texture) => (texture ? Math.max(textureFacts(texture).width, textureFacts(texture).height) : 0)),
  )
  const wanted = Math.max(largest, Math.sqrt(corners * PIXELS_A_CORNER))
  return Math.min(2048, Math.max(64, 2 ** Math.ceil(Math.log2(Math.max(1, wanted)))))
}

/** What lies in the game's stock, or was not found, cannot be painted. */
const isBeyondReach = (material: Material): boolean =>
  getMaterialExtras(material).references.some(
    (reference) => isGameMapRole(reference.role) && (reference.stock !== undefined || reference.found === null),
  )

/** What most of the item is made of, by its materials' names: one material has one surface kind. */
function largestSurfaceKind(document: Document, rulebook: Rulebook): string {
  const triangles = new Map<string, number>()
  for (const part of listViewParts(document)) {
    for (const surface of part.mesh.listPrimitives()) {
      const kind = guessSurface(surface.getMaterial()?.getName() ?? '', rulebook)
      triangles.set(kind, (triangles.get(kind) ?? 0) + (surface.getIndices()?.getCount() ?? 0))
    }
  }
  return [...triangles].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'baked'
}

const surfacesOf = (document: Document, materials: readonly Material[]): Primitive[] => [
  ...new Set(
    listAllParts(document)
      .filter((part) => part.extras.role !== 'solid')
      .flatMap((part) => part.mesh.listPrimitives())
      .filter((surface) => materials.includes(surface.getMaterial() as Material)),
  ),
]

/** Old UVs are kept under names of their own while the first set is made new. */
function keepOldUvs(surfaces: readonly Primitive[]): void {
  for (const surface of surfaces) {
    for (const semantic of surface.listSemantics()) {
      const set = /^TEXCOORD_(\d+)$/.exec(semantic)?.[1]
      if (set === undefined) continue
      surface.setAttribute(oldSet(Number(set)), surface.getAttribute(semantic))
      if (set !== '0') surface.setAttribute(semantic, null)
    }
  }
}
