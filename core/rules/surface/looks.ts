import { roleWordsOf } from '../../game/clean-name.ts'
import { listMaterialMaps } from '../../item/source-maps.ts'
import { isGameMapRole } from '../../item/map-roles.ts'
import { flagFor, hasFlag, materialTag } from '../../game/material-tag.ts'
import type { Document, Material } from '@gltf-transform/core'
import { getTextureExtras } from '../../item/extras.ts'
import { FIRST_LOOK, listLooks, materialsInLook, partsWithoutLook } from '../../item/looks.ts'
import { roleFromName, subjectOfName } from '../../item/map-roles.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import type { Rulebook } from '../../game/schema.ts'
import { unlikeModels } from '../../operations/maps/unlike-models.ts'
import { placeOfParts, placeOfTexture } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

const common = { severity: 'note' as const, stage: 'surface' as const }

/** What materials show together: flag and picture, colour and normal, every model and level in every look. */
export const lookRules: RuleFamily = {
  id: 'looks',
  check({ document, rulebook, kind }) {
    const findings: Finding[] = []
    for (const material of listUsedMaterials(document)) {
      findings.push(...checkFlag(material, rulebook), ...checkSubjects(material, rulebook))
    }
    for (const look of listLooks(document)) {
      if (look === FIRST_LOOK) continue
      for (const part of partsWithoutLook(document, look)) {
        findings.push({
          ...common,
          rule: 'look-part-missing',
          title: 'Left out of a look',
          where: part.name,
          place: placeOfParts([part]),
          value: look,
          limit: 'all parts',
          message: `In the look “${look}” ${part.name} still shows the first look’s material`,
          why: 'Only one of an item’s models with the new texture looks like a fault.',
          mend: { step: 'recolour-looks', label: 'Recolour', parameters: {} },
        })
      }
      findings.push(...checkLookMaps(document, look, rulebook))
    }
    for (const { from, to } of unlikeModels(document, rulebook, kind)) {
      findings.push({
        ...common,
        rule: 'models-unlike',
        title: 'Models differ',
        where: from,
        place: placeOfParts(listViewParts(document)),
        value: `${from}, ${to}`,
        limit: 'one material',
        message: `One model shows ${from}, another ${to}; a new look would change only one of them`,
        why: 'Every model of an item shows the same looks.',
        mend: { step: 'share-material', label: 'Show the same', parameters: { from, to } },
      })
    }
    return findings
  },
}

/** Whether what a flag says of a colour map's opacity is what the map has; known once it was compressed. */
function checkFlag(material: Material, rulebook: Rulebook): Finding[] {
  const texture = material.getBaseColorTexture()
  const opacity = texture ? getTextureExtras(texture).opacity : undefined
  if (!texture || opacity === undefined) return []
  const { flags } = materialTag(material, rulebook)
  const drawn = hasFlag(flags, 'blended', rulebook) ? 'blended' : hasFlag(flags, 'cut-out', rulebook) ? 'cut' : 'opaque'
  if (opacity === drawn) return []
  const messages: Record<string, string> = {
    'opaque cut':
      'has clear places, which the game draws solid without the flag ' +
      `“${flagFor(rulebook, 'cut-out') ?? 'cut out'}”`,
    'opaque blended': `is half clear, which the game draws solid without the flag “${flagFor(rulebook, 'blended') ?? 'blended'}”`,
    'cut opaque': 'is cut, but no place of its picture is clear',
    'cut blended': 'is cut at one half, but its picture is half clear in many places',
    'blended opaque': 'is blended, but no place of its picture is clear',
    'blended cut': 'is blended, though its picture is either clear or not; cutting is cheaper and sorts right',
  }
  return [
    {
      ...common,
      rule: 'flag-and-image',
      title: 'Flag and picture differ',
      where: material.getName(),
      place: placeOfTexture(texture),
      value: `picture ${opacity}`,
      limit: `drawn ${drawn}`,
      message: `${material.getName()} ${messages[`${drawn} ${opacity}`] ?? 'is drawn otherwise than its picture is'}`,
      why: 'The loader draws by the flag and does not look at the picture.',
      mend: { step: 'tag-materials', label: 'Tag materials', parameters: {} },
    },
  ]
}

/** A new colour map under an older body's normals: its file names another thing. */
function checkSubjects(material: Material, rulebook: Rulebook): Finding[] {
  const saysRole = roleWordsOf(rulebook)
  const colour = subjectOf(material.getBaseColorTexture(), saysRole)
  const others = listMaterialMaps(material)
    .filter(({ role }) => role !== 'colour' && isGameMapRole(role))
    .map(({ texture }) => texture)
    .map((texture) => subjectOf(texture, saysRole))
    .filter((subject) => subject !== null)
  const unlike = others.find((subject) => colour !== null && subject !== colour)
  if (unlike === undefined) return []
  return [
    {
      ...common,
      rule: 'older-map-under',
      title: 'Maps of two things',
      where: material.getName(),
      place: nowhere,
      value: `${colour} over ${unlike}`,
      limit: 'maps of one thing',
      message: `${material.getName()} shows the colours of “${colour}” over the relief of “${unlike}”`,
      why: 'A new colour map over an old normal map shows seams and folds that are not there.',
      mend: null,
    },
  ]
}

/** What a picture's file, as written, is of; null where its name does not say what it is for. */
function subjectOf(
  texture: ReturnType<Material['getBaseColorTexture']>,
  saysRole: (word: string) => boolean,
): string | null {
  const written = texture ? getTextureExtras(texture).written : undefined
  const stem = (written?.split(/[\\/]/).pop() ?? '').replace(/\.[^.]*$/, '')
  return stem !== '' && roleFromName(stem) !== null ? subjectOfName(stem, saysRole) : null
}

/** In another look the colour may be another picture's, of another size and shape, while the relief stays. */
function checkLookMaps(document: Document, look: string, rulebook: Rulebook): Finding[] {
  return [...materialsInLook(document, look)].flatMap(([own, shown]) =>
    own === shown ? [] : checkSubjects(shown, rulebook),
  )
}
