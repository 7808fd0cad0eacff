import type { Document, Material } from '@gltf-transform/core'
import { wordsOfName } from '../../item/map-roles.ts'
import { z } from 'zod'
import { getMaterialExtras, setMaterialExtras } from '../../item/extras.ts'
import { isUnlit } from '../../item/material-meaning.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { flagsFor, materialTag, setMaterialTag } from '../../game/material-tag.ts'
import type { FlagMeaning } from '../../game/schema-surface.ts'
import type { Rulebook } from '../../game/schema.ts'
import { roleNames, shadingModelFor } from '../../game/shading.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const tagSchema = z.object({
  /** The material's name without its tag. */
  material: materialInItem,
  surface: z.string().max(64),
  flags: z.array(z.string().max(64)).max(16),
  /** A shading model of the rulebook; empty for the one that fits its maps and flags. */
  shading: z.string().max(64).default(''),
})
const parameters = z.object({ tags: z.array(tagSchema).max(20_000) })
type Tag = z.infer<typeof tagSchema>

/** Says what each material is made of and how it is drawn. */
export const tagMaterials = defineStep<z.infer<typeof parameters>>({
  id: 'tag-materials',
  version: 3,
  stage: 'surface',
  title: 'Tag materials',
  purpose: 'Says what each material is made of and how it is drawn; the pack writes it as the game reads it.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'tags',
      key: 'tags',
      label: 'Made of',
      surfaces: rulebook.materials.surfaces.map((surface) => surface.name),
      flags: rulebook.materials.flags,
      shadings: rulebook.materials.shadingModels.map(({ name, title }) => ({ name, title })),
    },
  ],
  defaults: ({ document, rulebook }) => ({ tags: proposeTags(document, rulebook) }),
  propose({ document, rulebook }) {
    const tags = proposeTags(document, rulebook)
    const untagged = listUsedMaterials(document).filter(
      (material) => knownSurface(materialTag(material, rulebook).surface, rulebook) === null,
    )
    if (untagged.length === 0) return []
    return [
      {
        parameters: { tags },
        reason:
          `${plural(untagged.length, 'material')} ${untagged.length === 1 ? 'does' : 'do'} not say what ` +
          `${untagged.length === 1 ? 'it is' : 'they are'} made of: ` +
          `${tags.map((tag) => `${tag.material} is ${tag.surface}`).join(', ')}.`,
      },
    ]
  },
  async run({ document, parameters: { tags }, rulebook }) {
    const details: string[] = []
    let tagged = 0
    const used = listUsedMaterials(document)
    for (const material of used) {
      const { base, surface } = materialTag(material, rulebook)
      const tag = tags.find((each) => each.material === base)
      if (!tag) {
        // What a later step brought may be tagged already, as decals are.
        details.push(surface === null ? `${base} has no tag in this step.` : `${base} is tagged already.`)
        continue
      }
      setMaterialTag(document, material, { base, surface: tag.surface, flags: tag.flags }, rulebook)
      const shading = tag.shading || shadingModelFor(rulebook, roleNames(material, rulebook), tag.flags)
      setMaterialExtras(material, { ...getMaterialExtras(material), shadingModel: shading })
      details.push(`${base} is ${[tag.surface, ...tag.flags].join(', ')}, shaded ${shading}`)
      tagged++
    }
    return { headline: `${tagged} of ${used.length}`, details, changed: tagged > 0 }
  },
})

/** What a material says that it is made of, if the game knows it: what came out of another's pack may say anything. */
const knownSurface = (surface: string | null, { materials }: Rulebook): string | null =>
  materials.surfaces.find(({ name }) => name === surface)?.name ?? null

function proposeTags(document: Document, rulebook: Rulebook): Tag[] {
  return listUsedMaterials(document).map((material) => {
    const { base, surface, flags } = materialTag(material, rulebook)
    const drawn = flagsFor(rulebook, drawnMeanings(material))
    return {
      material: base,
      surface: knownSurface(surface, rulebook) ?? guessSurface(base, rulebook),
      flags: [...new Set([...flags, ...drawn])].filter((flag) =>
        rulebook.materials.flags.some((known) => known.name === flag),
      ),
      shading: '',
    }
  })
}

/** What a material's own settings say of how it is drawn. */
function drawnMeanings(material: Material): FlagMeaning[] {
  const mode = material.getAlphaMode()
  return [
    ...(mode === 'BLEND' ? (['blended'] as const) : mode === 'MASK' ? (['cut-out'] as const) : []),
    ...(material.getDoubleSided() ? (['two-sided'] as const) : []),
    ...(isUnlit(material) ? (['unlit'] as const) : []),
  ]
}

/** From so many letters on a hint is taken within a longer word as well, as “plank” in “oldplanks”. */
const CLEAR_WITHIN = 5

/**
 * The surface whose own name, or a word that suggests it, stands in the material's name; else the first. A short hint
 * counts as a word of its own: “line” is a rope, an outline is none.
 *
 * @example guessSurface('Mooring_Line2', rulebook)
 */
export function guessSurface(name: string, rulebook: Rulebook): string {
  const lower = name.toLowerCase()
  const { surfaces } = rulebook.materials
  const named = surfaces.find(
    (surface) =>
      lower.includes(surface.name) &&
      !(surface.weak && surfaces.some((other) => other !== surface && lower.includes(other.name))),
  )
  const words = wordsOfName(name).map((word) => word.replace(/\d+$/, ''))
  const isSaid = (hint: string): boolean =>
    words.includes(hint) || words.includes(`${hint}s`) || (hint.length >= CLEAR_WITHIN && lower.includes(hint))
  return (named ?? surfaces.find(({ hints }) => hints.some(isSaid)) ?? surfaces[0]).name
}
