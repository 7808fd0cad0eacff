import type { Document, Material, Primitive } from '@gltf-transform/core'
import { KHRMaterialsVariants, type MappingList, type Variant } from '@gltf-transform/extensions'
import { listAllParts, type Part } from './parts.ts'
import { rememberUntilChanged } from './quiet-changes.ts'

/**
 * Looks of an item: the first is what its materials show; each further one is a variant of KHR_materials_variants,
 * which says for every surface which material it shows instead.
 */
const NAME = 'KHR_materials_variants'

/** The first look, which every item has. */
export const FIRST_LOOK = 'plain'

const drawnParts = (document: Document): Part[] => listAllParts(document).filter((part) => part.extras.role !== 'solid')

const drawnSurfaces: (document: Document) => readonly Primitive[] = rememberUntilChanged((document) => [
  ...new Set(drawnParts(document).flatMap((part) => part.mesh.listPrimitives())),
])

const variantsOf: (document: Document) => readonly Variant[] = rememberUntilChanged((document) => {
  const found = new Set<Variant>()
  for (const surface of drawnSurfaces(document)) {
    for (const mapping of surface.getExtension<MappingList>(NAME)?.listMappings() ?? [])
      for (const variant of mapping.listVariants()) found.add(variant)
  }
  return [...found]
})

/**
 * Names of all looks, the first one first.
 *
 * @example listLooks(document) // ['plain', 'dusk']
 */
export const listLooks = (document: Document): string[] => [
  FIRST_LOOK,
  ...new Set(variantsOf(document).map((variant) => variant.getName())),
]

/**
 * What a surface shows in a look; its own material where the look says nothing.
 * @example const shown = materialInLook(surface, 'dusk') ?? surface.getMaterial()
 */
export function materialInLook(surface: Primitive, look: string): Material | null {
  const mapping = surface
    .getExtension<MappingList>(NAME)
    ?.listMappings()
    .find((each) => each.listVariants().some((variant) => variant.getName() === look))
  return mapping?.getMaterial() ?? surface.getMaterial()
}

/** Whether a look says what a surface shows. */
export const lookCovers = (surface: Primitive, look: string): boolean =>
  look === FIRST_LOOK ||
  (surface
    .getExtension<MappingList>(NAME)
    ?.listMappings()
    .some((each) => each.listVariants().some((variant) => variant.getName() === look)) ??
    false)

/**
 * For each material of the first look, what stands in its place in another. Only surfaces that are drawn count.
 *
 * @example const shown = materialsInLook(document, 'Dusk').get(material) ?? material
 */
export function materialsInLook(document: Document, look: string): Map<Material, Material> {
  const shown = new Map<Material, Material>()
  for (const surface of drawnSurfaces(document)) {
    const own = surface.getMaterial()
    const instead = materialInLook(surface, look)
    // A surface that the look forgot must not hide what it says of the others.
    if (own && instead && (!shown.has(own) || instead !== own)) shown.set(own, instead)
  }
  return shown
}

/**
 * Adds a look, or adds to one: each surface that shows one of the materials shows the other instead. Levels and every
 * model of the item get it too.
 *
 * @example addLook(document, 'dusk', new Map([[oak, darkOak]]))
 */
export function addLook(document: Document, look: string, instead: ReadonlyMap<Material, Material>): void {
  const extension = document.createExtension(KHRMaterialsVariants)
  const variant = variantsOf(document).find((each) => each.getName() === look) ?? extension.createVariant(look)
  for (const surface of drawnSurfaces(document)) {
    const own = surface.getMaterial()
    const other = own ? instead.get(own) : undefined
    if (!other) continue
    const list = surface.getExtension<MappingList>(NAME) ?? extension.createMappingList()
    surface.setExtension(NAME, list.addMapping(extension.createMapping().setMaterial(other).addVariant(variant)))
  }
}

/**
 * Every material that some look shows, the first look's first.
 *
 * @example const maps = listShownMaterials(document).flatMap((material) => listMaterialMaps(material))
 */
export const listShownMaterials: (document: Document) => readonly Material[] = rememberUntilChanged((document) => {
  const shown = new Set<Material>()
  for (const look of listLooks(document))
    for (const surface of drawnSurfaces(document)) {
      const material = materialInLook(surface, look)
      if (material) shown.add(material)
    }
  return [...shown]
})

/**
 * Parts with a surface that a look leaves as in the first, although the look shows another material in its place
 * elsewhere.
 *
 * @example const missed = partsWithoutLook(document, 'dusk').map(({ name }) => name)
 */
export function partsWithoutLook(document: Document, look: string): Part[] {
  const instead = materialsInLook(document, look)
  return drawnParts(document).filter((part) =>
    part.mesh.listPrimitives().some((surface) => {
      const own = surface.getMaterial()
      return own !== null && instead.get(own) !== own && !lookCovers(surface, look)
    }),
  )
}
