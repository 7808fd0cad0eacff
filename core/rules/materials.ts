import { listUsedMaterials, listViewParts } from '../document/parts.ts'
import { getMaterialExtras } from '../document/extras.ts'
import { parseMaterialTag } from '../rulebook/names.ts'
import { presentMaps, shadingModelFor } from '../rulebook/shading.ts'
import { placeOfParts } from './places.ts'
import { nowhere, type Finding, type RuleFamily } from './rule.ts'

/** Tags, flags, shading models and the number of materials. */
export const materialRules: RuleFamily = {
  id: 'materials',
  check({ document, rulebook }) {
    const findings: Finding[] = []
    const { materials } = rulebook
    const used = listUsedMaterials(document)
    const parts = listViewParts(document)
    const tagMend = { step: 'tag-materials', label: 'Tag materials', parameters: {} }
    const common = { severity: 'blocks' as const, stage: 'surface' as const }
    if (used.length > materials.largestCount) {
      findings.push({ ...common, rule: 'material-count', title: 'Too many materials', where: 'item', place: nowhere, value: String(used.length), limit: String(materials.largestCount), message: `${used.length} materials; ${materials.largestCount} an item are read`, why: 'Each material is a draw call of its own.', mend: null })
    }
    for (const part of parts) {
      if (part.mesh.listPrimitives().some((primitive) => !primitive.getMaterial())) {
        findings.push({ ...common, rule: 'material-missing', title: 'Material missing', where: part.name, place: placeOfParts([part]), value: 'none', limit: 'one', message: `${part.name} has faces without a material`, why: 'The loader has nothing to draw them with.', mend: null })
      }
    }
    for (const material of used) {
      const name = material.getName()
      const tag = parseMaterialTag(rulebook, name)
      const place = placeOfParts(parts.filter((part) => part.mesh.listPrimitives().some((primitive) => primitive.getMaterial() === material)))
      if (tag.surface === null) {
        findings.push({ ...common, rule: 'material-tag', title: 'Material not tagged', where: name, place, value: name, limit: `name${materials.tag.surfaceMark}surface`, message: `${name} does not say what it is made of`, why: 'Sound, friction and footsteps come from the surface kind.', mend: tagMend })
      } else if (!materials.surfaces.some((surface) => surface.name === tag.surface)) {
        findings.push({ ...common, rule: 'material-surface', title: 'Surface not known', where: name, place, value: tag.surface, limit: materials.surfaces.map((surface) => surface.name).join(' '), message: `The game knows no surface “${tag.surface}”`, why: 'Sound, friction and footsteps come from the surface kind.', mend: tagMend })
      }
      const unknownFlag = tag.flags.find((flag) => !materials.flags.some((known) => known.name === flag))
      if (unknownFlag !== undefined) {
        findings.push({ ...common, rule: 'material-flag', title: 'Flag not known', where: name, place, value: unknownFlag, limit: materials.flags.map((flag) => flag.name).join(' '), message: `The game knows no flag “${unknownFlag}”`, why: 'A flag that is one letter off does nothing, so the loader refuses it.', mend: tagMend })
      }
      const present = presentMaps(material)
      const model = getMaterialExtras(material).shadingModel ?? shadingModelFor(rulebook, present, tag.flags)
      const rule = materials.shadingModels.find((each) => each.name === model)
      const missing = rule?.requires.filter((role) => !present.includes(role)) ?? []
      const unfound = getMaterialExtras(material).references.filter((reference) => reference.found === null && missing.some((role) => role === reference.role))
      if (missing.length > 0 && unfound.length === 0) {
        findings.push({ ...common, rule: 'map-missing', title: 'Map missing', where: name, place, value: present.join(', ') || 'none', limit: rule?.requires.join(', ') ?? '', message: `${name} has no ${missing.join(' or ')} map; the shading “${model}” needs it`, why: 'The shader would read from nowhere.', mend: null })
      }
      const forbidden = rule?.forbids.filter((role) => present.includes(role)) ?? []
      if (forbidden.length > 0) {
        findings.push({ ...common, rule: 'map-forbidden', title: 'Map not read', where: name, place, value: forbidden.join(', '), limit: `not with “${model}”`, message: `${name} has a ${forbidden.join(' and ')} map that the shading “${model}” forbids`, why: 'The shader has no place for it.', mend: null })
      }
    }
    return findings
  },
  gauges: ({ document, rulebook }) => [{ id: 'materials', label: 'Materials', stage: 'surface', value: listUsedMaterials(document).length, limit: rulebook.materials.largestCount, least: 0, unit: 'count' }],
}
