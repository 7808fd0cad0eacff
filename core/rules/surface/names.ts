import { materialTag } from '../../game/material-tag.ts'
import { listSceneNodes, listUsedMaterials } from '../../item/parts.ts'
import { isGameName } from '../../game/names.ts'
import { listShownMaps } from '../../operations/maps/shown-maps.ts'
import type { Finding, RuleFamily } from '../rule.ts'

/** Names of parts, materials and textures. */
export const nameRules: RuleFamily = {
  id: 'names',
  check({ document, rulebook }) {
    const findings: Finding[] = []
    const mend = { step: 'clean-names', label: 'Clean names', parameters: {} }
    const allowed = `${rulebook.names.described}, up to ${rulebook.names.longest}`
    const badName = (what: string, name: string, part: string | null): void => {
      findings.push({
        rule: 'name-form',
        severity: 'blocks',
        stage: 'surface',
        title: 'Name not accepted',
        where: name,
        place: {
          parts: part === null ? [] : [part],
          bounds: null,
          spots: [],
          texture: what === 'texture' ? name : null,
        },
        value: name,
        limit: allowed,
        message: `The ${what} name “${name}” is not one the game reads: ${allowed}`,
        why: 'The loader looks things up by name and splits names at other signs.',
        mend,
      })
    }
    const seen = new Set<string>()
    for (const node of listSceneNodes(document)) {
      const name = node.getName()
      if (!isGameName(rulebook, name)) badName('part', name, name)
      if (seen.has(name)) {
        findings.push({
          rule: 'name-repeats',
          severity: 'blocks',
          stage: 'surface',
          title: 'Name repeats',
          where: name,
          place: { parts: [name], bounds: null, spots: [], texture: null },
          value: name,
          limit: 'once',
          message: `Two parts are called “${name}”`,
          why: 'The loader finds parts by name and would take the wrong one.',
          mend,
        })
      }
      seen.add(name)
    }
    // Where a material is named by the path of what it shows, its own name reaches no file.
    const named = rulebook.materials.naming.form === 'path' ? [] : listUsedMaterials(document)
    for (const material of named) {
      const { base } = materialTag(material, rulebook)
      if (!isGameName(rulebook, base)) badName('material', base, null)
    }
    for (const { texture, role } of listShownMaps(document, rulebook)) {
      const name = texture.getName()
      if (!isGameName(rulebook, name)) badName('texture', name, null)
      else if (!name.endsWith(role.ending)) {
        findings.push({
          rule: 'texture-ending',
          severity: 'blocks',
          stage: 'surface',
          title: 'Wrong name ending',
          where: name,
          place: { parts: [], bounds: null, spots: [], texture: name },
          value: name,
          limit: `…${role.ending}`,
          message: `${name} is a ${role.title.toLowerCase()} map; its name has to end in ${role.ending}`,
          why: 'The loader knows a map by the end of its name.',
          mend,
        })
      }
    }
    return findings
  },
}
