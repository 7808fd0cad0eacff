import { materialTag } from '../../game/material-tag.ts'
import { listSceneNodes, listUsedMaterials } from '../../item/parts.ts'
import { isGameName } from '../../game/names.ts'
import { listShownMaps } from '../../operations/maps/shown-maps.ts'
import { itemPaths } from '../../game/item-paths.ts'
import { pathName } from '../../game/packed-name.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Names of parts, materials and textures. */
export const nameRules: RuleFamily = {
  id: 'names',
  check(context) {
    const { document, rulebook } = context
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
    const { naming } = rulebook.materials
    // Where a material is named by the path of what it shows, its own name reaches no file.
    if (naming.form === 'path') findings.push(...pathFindings(context, naming))
    for (const material of naming.form === 'path' ? [] : listUsedMaterials(document)) {
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

/**
 * In a game that finds what a material shows by its name: whether it shows such a map, and whether the game reads so
 * long a path.
 */
function pathFindings(
  { document, rulebook, kind, itemName, slot }: RuleContext,
  { ofRole, longest }: { ofRole: string; longest: number },
): Finding[] {
  const paths = itemPaths(rulebook, kind, itemName, slot)
  const role = rulebook.maps.roles.find((each) => each.role === ofRole)
  const title = role?.title.toLowerCase() ?? ofRole
  const common = { severity: 'blocks' as const, stage: 'surface' as const, place: nowhere }
  return listUsedMaterials(document).flatMap((material): Finding[] => {
    const name = material.getName()
    const path = pathName(material, rulebook, paths)
    if (path === null)
      return [
        {
          ...common,
          rule: 'material-path-map',
          title: 'Nothing to be named after',
          where: name,
          value: 'none',
          limit: `one ${title} map`,
          message:
            `${name} shows no ${title} map, and the game finds what a material shows by a name that is the map’s ` +
            'path',
          why: 'The loader takes the material’s name for the path of a file.',
          mend: { step: 'plain-colours', label: 'Make a palette', parameters: {} },
        },
      ]
    if (path.length <= longest) return []
    return [
      {
        ...common,
        rule: 'material-path-long',
        title: 'Path too long',
        where: name,
        value: `${path.length} signs`,
        limit: `${longest} signs`,
        message:
          `${name} is written as “${path}”, ${path.length} signs long; the game reads ${longest}. Give the item ` +
          'or the map a shorter name',
        why: 'The loader keeps the name in a field of fixed length and would look for a file of another name.',
        mend: null,
      },
    ]
  })
}
