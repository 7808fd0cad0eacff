import type { Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../../item/extras.ts'
import { listShownMaterials } from '../../item/looks.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { needsFolding, needsPainting } from '../../operations/maps/unsettled.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** What a material shows beside its maps, which the game does not read: it would be gone without a word. */
export const notCarriedRules: RuleFamily = {
  id: 'not-carried',
  check: (context) =>
    context.kind.mesh?.losesUVs === true
      ? []
      : listShownMaterials(context.document).flatMap((material) => findingFor(material, context)),
}

function findingFor(material: Material, { document, rulebook, kind }: RuleContext): Finding[] {
  const painting = kind.mesh === null ? [] : needsPainting(document, material)
  const reasons = [...painting, ...needsFolding(document, material)]
  if (reasons.length === 0) return []
  const name = baseNameOf(material, rulebook)
  const lost = getMaterialExtras(material).references.some((reference) => reference.found === null)
  return [
    {
      rule: 'not-carried',
      severity: 'note',
      stage: 'surface',
      title: 'Shown beside its maps',
      where: name,
      place: nowhere,
      value: reasons.join(', '),
      limit: 'maps on one set of UVs',
      message: `${name} has ${reasons.join(', ')}, which the game does not read`,
      why:
        'The game multiplies nothing with its maps and knows one set of UVs: it would look otherwise than in the ' +
        'source.',
      mend: lost
        ? null
        : painting.length > 0
          ? { step: 'bake-maps', label: 'Paint into maps', parameters: { materials: [name], name: name.slice(0, 40) } }
          : { step: 'fold-materials', label: 'Fold into maps', parameters: {} },
    },
  ]
}
