import { countTriangles, listLevelParts, listShadowParts, listViewParts, type Part } from '../document/parts.ts'
import { formatCount } from '../steps/step.ts'
import { nowhere, type Finding, type RuleFamily } from './rule.ts'

const materialsOf = (parts: readonly Part[]): string =>
  [...new Set(parts.flatMap((part) => part.mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName() ?? '')))].sort().join(' ')

/** Levels of detail and the shadow mesh. */
export const levelRules: RuleFamily = {
  id: 'levels',
  check({ document, rulebook, kind }) {
    const parts = listViewParts(document)
    const triangles = countTriangles(parts)
    const { levels } = rulebook
    if (!kind.levelsAsked || triangles <= levels.neededAboveTriangles) return []
    const findings: Finding[] = []
    const mend = { step: 'levels-and-shadow', label: 'Make levels', parameters: {} }
    const common = { stage: 'mesh' as const, place: nowhere, mend, severity: 'risky' as const }
    const why = 'From far off the game draws fewer triangles, or the whole view slows down.'
    for (const { level, mostShare } of levels.chain) {
      const made = listLevelParts(document, level)
      const count = countTriangles(made)
      const limit = Math.floor(triangles * mostShare)
      if (made.length === 0) findings.push({ ...common, rule: 'level-missing', title: 'Level missing', where: `level ${level}`, value: 'none', limit: formatCount(limit), message: `Level ${level} is missing; it is wanted above ${formatCount(levels.neededAboveTriangles)} triangles`, why })
      else if (count > limit) findings.push({ ...common, rule: 'level-too-dense', title: 'Level too dense', where: `level ${level}`, value: formatCount(count), limit: formatCount(limit), message: `Level ${level} has ${formatCount(count)} triangles; at most ${mostShare * 100} % of ${formatCount(triangles)} are useful`, why })
      if (made.length > 0 && levels.sameMaterials && materialsOf(made) !== materialsOf(parts)) {
        findings.push({ ...common, rule: 'level-materials', title: 'Level with other materials', where: `level ${level}`, value: materialsOf(made), limit: materialsOf(parts), message: `Level ${level} does not have the materials of the first`, why: 'The thing would change its look when the game switches levels.' })
      }
    }
    const shadow = countTriangles(listShadowParts(document))
    const limit = Math.floor(triangles * levels.shadow.mostShare)
    if (shadow === 0) findings.push({ ...common, rule: 'shadow-missing', title: 'Shadow mesh missing', where: 'shadow', value: 'none', limit: formatCount(limit), message: 'There is no mesh to throw the shadow', why: 'Shadows are drawn from a simpler mesh of their own.' })
    else if (shadow > limit) findings.push({ ...common, rule: 'shadow-too-dense', title: 'Shadow mesh too dense', where: 'shadow', value: formatCount(shadow), limit: formatCount(limit), message: `The shadow mesh has ${formatCount(shadow)} triangles; ${formatCount(limit)} are allowed`, why: 'Shadows are drawn several times a frame.' })
    return findings
  },
}
