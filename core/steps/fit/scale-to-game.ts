import { z } from 'zod'
import { identityMatrix, multiplyMatrices, scaleMatrix } from '../../maths/axes.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { lengthUnits, metresOrLikely, unitName } from '../../item/units.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import type { StepContext } from '../../operations/context.ts'
import { defineStep } from '../step.ts'
import { formatLength } from '../../support/wording.ts'

const parameters = z.object({ metresPerUnit: z.number().positive().max(10_000) })

/** Scales the item from the source's unit to the game's. */
export const scaleToGame = defineStep<z.infer<typeof parameters>>({
  id: 'scale-to-game',
  version: 1,
  stage: 'fit',
  title: 'Scale to game',
  purpose: 'Brings the model from its own unit to the game’s.',
  parameters,
  fields: ({ document }) => [
    {
      type: 'choice',
      key: 'metresPerUnit',
      label: 'One unit of the source is',
      options: [
        ...lengthUnits.map((unit) => ({ value: unit.metres, label: `1 ${unit.id} (${unit.title})` })),
        ...unitOfItsOwn(getRootExtras(document.getRoot()).units.metresPerUnit),
      ],
    },
  ],
  defaults: (context) => ({
    metresPerUnit: metresOrLikely(getRootExtras(context.document.getRoot()).units, largestExtent(context)),
  }),
  propose(context) {
    const { units } = getRootExtras(context.document.getRoot())
    const { unit } = context.rulebook.space
    const metresPerUnit = metresOrLikely(units, largestExtent(context))
    if (metresPerUnit === unit.metres && units.metresPerUnit === metresPerUnit) return []
    const height = (largestExtent(context) * metresPerUnit) / unit.metres
    const reason =
      units.metresPerUnit !== metresPerUnit
        ? `No unit is declared. As ${unitName(metresPerUnit)} its longest side is ${formatLength(height)} ` +
          `${unit.plural}: look at it beside the figure.`
        : `The source is in ${unitName(metresPerUnit)} (${units.from}); one ${unit.name} is ${unit.metres} m, so ` +
          `its longest side becomes ${formatLength(height)} ${unit.plural}.`
    return [{ parameters: { metresPerUnit }, reason }]
  },
  async run({ document, parameters: { metresPerUnit }, rulebook }) {
    const { unit } = rulebook.space
    const factor = metresPerUnit / unit.metres
    changeBasis(document, identityMatrix(), factor)
    const extras = getRootExtras(document.getRoot())
    setRootExtras(document.getRoot(), {
      ...extras,
      units: { metresPerUnit: unit.metres, from: 'chosen' },
      fit: multiplyMatrices(scaleMatrix(factor), extras.fit ?? identityMatrix()),
    })
    const [width, height, depth] = boundsSize(partsBounds(listViewParts(document))).map(formatLength)
    return {
      headline: `${unitName(metresPerUnit)} → ${unit.plural}`,
      details: [
        `Everything was multiplied by ${Number(factor.toPrecision(6))}.`,
        `It is now ${width} wide, ${height} tall and ${depth} deep, in ${unit.plural}.`,
      ],
      changed: factor !== 1,
    }
  },
})

function largestExtent({ document }: StepContext): number {
  return Math.max(...boundsSize(partsBounds(listViewParts(document))))
}

/** What a source declares is a choice as well, whatever it is. */
const unitOfItsOwn = (metres: number | null): { value: number; label: string }[] =>
  metres === null || lengthUnits.some((unit) => unit.metres === metres)
    ? []
    : [{ value: metres, label: `${formatLength(metres)} m, as it says` }]
