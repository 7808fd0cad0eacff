import { materialTag } from '../../game/material-tag.ts'
import { FIRST_LOOK, listLooks, materialsInLook } from '../../item/looks.ts'
import { listAllParts, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import type { Document, Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../../item/extras.ts'
import type { Rulebook } from '../../game/schema.ts'
import { roleOfKey } from '../../game/map-roles.ts'
import { roleNames, shadingOf } from '../../game/shading.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** Tags, flags, shading models and the number of materials. */
export const materialRules: RuleFamily = {
  id: 'materials',
  check({ document, rulebook }) {
    const findings: Finding[] = []
    const { materials } = rulebook
    const used = listUsedMaterials(document)
    const parts = listViewParts(document)
    // What is drawn from far off needs a material as well.
    const drawn = listAllParts(document).filter(({ extras }) => extras.role === 'part' || extras.role === 'level')
    const tagMend = { step: 'tag-materials', label: 'Tag materials', parameters: {} }
    const common = { severity: 'blocks' as const, stage: 'surface' as const }
    const names = new Set(used.map((material) => material.getName())).size
    if (names > materials.largestCount) {
      findings.push({
        ...common,
        rule: 'material-count',
        title: 'Too many materials',
        where: 'item',
        place: nowhere,
        value: String(names),
        limit: String(materials.largestCount),
        message: `${names} materials; ${materials.largestCount} an item are read`,
        why: 'Each material is a draw call of its own.',
        mend: { step: 'bake-maps', label: 'Bake into one set', parameters: {} },
      })
    }
    for (const part of drawn) {
      if (part.mesh.listPrimitives().some((primitive) => !primitive.getMaterial())) {
        findings.push({
          ...common,
          rule: 'material-missing',
          title: 'Material missing',
          where: part.name,
          place: placeOfParts([part]),
          value: 'none',
          limit: 'one',
          message: `${part.name} has faces without a material`,
          why: 'The loader has nothing to draw them with.',
          mend: { step: 'plain-colours', label: 'Give it a plain colour', parameters: {} },
        })
      }
    }
    for (const material of used) {
      const name = material.getName()
      const tag = materialTag(material, rulebook)
      const place = placeOfParts(
        parts.filter((part) => part.mesh.listPrimitives().some((primitive) => primitive.getMaterial() === material)),
      )
      if (tag.surface === null) {
        findings.push({
          ...common,
          rule: 'material-tag',
          title: 'Material not tagged',
          where: name,
          place,
          value: name,
          limit: 'a surface kind',
          message: `${name} does not say what it is made of`,
          why: 'Sound, friction and footsteps come from the surface kind.',
          mend: tagMend,
        })
      } else if (!materials.surfaces.some((surface) => surface.name === tag.surface)) {
        findings.push({
          ...common,
          rule: 'material-surface',
          title: 'Surface not known',
          where: name,
          place,
          value: tag.surface,
          limit: materials.surfaces.map((surface) => surface.name).join(' '),
          message: `The game knows no surface “${tag.surface}”`,
          why: 'Sound, friction and footsteps come from the surface kind.',
          mend: tagMend,
        })
      }
      const unknownFlag = tag.flags.find((flag) => !materials.flags.some((known) => known.name === flag))
      if (unknownFlag !== undefined) {
        findings.push({
          ...common,
          rule: 'material-flag',
          title: 'Flag not known',
          where: name,
          place,
          value: unknownFlag,
          limit: materials.flags.map((flag) => flag.name).join(' '),
          message: `The game knows no flag “${unknownFlag}”`,
          why: 'A flag that is one letter off does nothing, so the loader refuses it.',
          mend: tagMend,
        })
      }
    }
    return [...findings, ...checkShading(document, rulebook)]
  },
  gauges: ({ document, rulebook }) => [
    {
      id: 'materials',
      label: 'Materials',
      stage: 'surface',
      value: listUsedMaterials(document).length,
      limit: rulebook.materials.largestCount,
      least: 0,
      unit: 'count',
    },
  ],
}

/** What the shading of each material asks for and forbids, in every look. */
function checkShading(document: Document, rulebook: Rulebook): Finding[] {
  return listLooks(document).flatMap((look) =>
    [...materialsInLook(document, look)].flatMap(([own, shown]) =>
      look !== FIRST_LOOK && own === shown ? [] : checkMaps(own, shown, look, rulebook),
    ),
  )
}

function checkMaps(own: Material, shown: Material, look: string, rulebook: Rulebook): Finding[] {
  const findings: Finding[] = []
  const name = own.getName()
  const common = {
    severity: 'blocks' as const,
    stage: 'surface' as const,
    where: look === FIRST_LOOK ? name : `${name} (${look})`,
    place: nowhere,
    mend: null,
  }
  const present = roleNames(shown, rulebook)
  const model = shadingOf(own, shown, rulebook)
  const rule = rulebook.materials.shadingModels.find((each) => each.name === model)
  if (!rule) {
    findings.push({
      ...common,
      rule: 'shading-unknown',
      title: 'Shading not known',
      value: model,
      limit: rulebook.materials.shadingModels.map((each) => each.name).join(', '),
      message: `${common.where} asks for the shading “${model}”, which the game does not know`,
      why: 'There is no shader of that name.',
      mend: { step: 'tag-materials', label: 'Tag materials', parameters: {} },
    })
  }
  const missing = rule?.requires.filter((role) => !present.includes(role)) ?? []
  const unfound = getMaterialExtras(shown).references.filter(
    (reference) =>
      reference.found === null && missing.some((role) => role === roleOfKey(reference.role, rulebook)?.role),
  )
  if (missing.length > 0 && unfound.length === 0) {
    findings.push({
      ...common,
      rule: 'map-missing',
      title: 'Map missing',
      value: present.join(', ') || 'none',
      limit: rule?.requires.join(', ') ?? '',
      message: `${common.where} has no ${missing.join(' or ')} map; the shading “${model}” needs it`,
      why: 'The shader would read from nowhere.',
      mend: present.length === 0 ? { step: 'plain-colours', label: 'Give it a plain colour', parameters: {} } : null,
    })
  }
  const forbidden = rule?.forbids.filter((role) => present.includes(role)) ?? []
  if (forbidden.length > 0) {
    findings.push({
      ...common,
      rule: 'map-forbidden',
      title: 'Map not read',
      value: forbidden.join(', '),
      limit: `not with “${model}”`,
      message: `${common.where} has a ${forbidden.join(' and ')} map that the shading “${model}” forbids`,
      why: 'The shader has no place for it.',
    })
  }
  return findings
}
