import { listViewParts } from '../document/parts.ts'
import { measurePartFacing } from '../steps/measure-part-facing.ts'
import { placeOfParts } from './places.ts'
import type { Finding, RuleFamily } from './rule.ts'

/** Up to this share of backs may be seen: edges of leaves and cloth do no harm. */
const TOLERATED_SHARE = 0.01

/** Which way faces look, and what they need to be lit and textured. */
export const faceRules: RuleFamily = {
  id: 'faces',
  check({ document }) {
    const findings: Finding[] = []
    const parts = listViewParts(document)
    const facing = measurePartFacing(document)
    if (facing.share > TOLERATED_SHARE) {
      const worst = facing.parts.filter((part) => part.share > TOLERATED_SHARE / 4)
      const names = worst.map((part) => part.name)
      findings.push({
        rule: 'inward-faces', severity: 'risky', stage: 'mesh', title: 'Faces inside out', where: names.join(', '), place: placeOfParts(parts.filter((part) => names.includes(part.name))),
        value: `${(facing.share * 100).toFixed(1)} %`, limit: `${TOLERATED_SHARE * 100} %`,
        message: `From outside ${(facing.share * 100).toFixed(1)} % of what one sees are backs of faces, on ${names.join(', ')}`,
        why: 'Backs are not drawn: one sees through the thing.', mend: { step: 'turn-outward', label: 'Turn outward', parameters: {} },
      })
    }
    for (const part of parts) {
      const primitives = part.mesh.listPrimitives()
      const place = placeOfParts([part])
      const common = { stage: 'mesh' as const, where: part.name, place, limit: 'present', value: 'missing' }
      if (primitives.some((primitive) => !primitive.getAttribute('NORMAL'))) {
        findings.push({ ...common, rule: 'normals-missing', severity: 'risky', title: 'Normals missing', message: `${part.name} has no normals and would look flat or black`, why: 'Light is computed from normals.', mend: { step: 'even-normals', label: 'Even normals', parameters: {} } })
      }
      if (primitives.some((primitive) => primitive.getMaterial()?.getNormalTexture() && !primitive.getAttribute('TANGENT'))) {
        findings.push({ ...common, rule: 'tangents-missing', severity: 'risky', title: 'Tangents missing', message: `${part.name} has a normal map but no tangents to lay it on`, why: 'Without tangents the normal map lights from the wrong side.', mend: { step: 'even-normals', label: 'Make tangents', parameters: { tangents: true } } })
      }
      if (primitives.some((primitive) => primitive.getMaterial()?.getBaseColorTexture() && !primitive.getAttribute('TEXCOORD_0'))) {
        findings.push({ ...common, rule: 'uvs-missing', severity: 'blocks', title: 'UVs missing', stage: 'surface', message: `${part.name} has a texture but no UVs to lay it on`, why: 'The loader cannot place a texture without UVs.', mend: null })
      }
    }
    return findings
  },
}
