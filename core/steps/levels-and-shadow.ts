import { z } from 'zod'
import { countMeshTriangles, countTriangles, listLevelParts, listShadowParts, listViewParts } from '../document/parts.ts'
import { dropUnusedAccessors } from '../document/primitive-arrays.ts'
import { levelSuffix } from '../rulebook/names.ts'
import { addDerivedNode, proportionalShares, reducedCopy, reducedShape, soupMesh } from './derived-meshes.ts'
import { defineStep, formatCount, type StepContext } from './step.ts'

const parameters = z.object({
  /** Share of the first level's triangles for each further level, 0 to 1. */
  levelOne: z.number().positive().max(1),
  levelTwo: z.number().positive().max(1),
  shadow: z.number().positive().max(1),
})
type Parameters = z.infer<typeof parameters>

/** Levels stay this much under what is allowed, since a reduction may land a little above. */
const MARGIN = 0.9

/** Makes the coarser levels and the shadow mesh from the present parts. */
export const levelsAndShadow = defineStep<Parameters>({
  id: 'levels-and-shadow',
  version: 1,
  stage: 'mesh',
  title: 'Levels',
  purpose: 'Makes the coarser levels that the game draws from further off, and the mesh that throws the shadow.',
  parameters,
  fields: ({ rulebook }) => [
    ...rulebook.levels.chain.map((each, index) => ({
      type: 'number' as const,
      key: index === 0 ? 'levelOne' : 'levelTwo',
      label: `Level ${each.level}, from ${each.fromDistance} ${rulebook.space.unit.plural}`,
      unit: `of 1 (≤ ${each.mostShare})`,
      least: 0.02,
      most: each.mostShare,
      step: 0.01,
      slider: true,
    })),
    { type: 'number', key: 'shadow', label: 'Shadow mesh', unit: `of 1 (≤ ${rulebook.levels.shadow.mostShare})`, least: 0.02, most: rulebook.levels.shadow.mostShare, step: 0.01, slider: true },
  ],
  defaults: ({ rulebook }) => ({
    levelOne: (rulebook.levels.chain[0]?.mostShare ?? 0.5) * MARGIN,
    levelTwo: (rulebook.levels.chain[1]?.mostShare ?? 0.2) * MARGIN,
    shadow: rulebook.levels.shadow.mostShare * MARGIN,
  }),
  propose(context) {
    const triangles = countTriangles(listViewParts(context.document))
    const { neededAboveTriangles } = context.rulebook.levels
    if (!context.kind.levelsAsked || triangles <= neededAboveTriangles || hasLevels(context)) return []
    return [{ parameters: this.defaults(context) as Parameters, reason: `${formatCount(triangles)} triangles; above ${formatCount(neededAboveTriangles)} the game wants coarser levels and a shadow mesh.` }]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    for (const part of [...rulebook.levels.chain.flatMap((each) => listLevelParts(document, each.level)), ...listShadowParts(document)]) part.node.dispose()
    const parts = listViewParts(document)
    const total = countTriangles(parts)
    const details: string[] = []
    const shares = [chosen.levelOne, chosen.levelTwo]
    for (const [index, each] of rulebook.levels.chain.entries()) {
      const wanted = proportionalShares(parts, total * shares[index])
      for (const [number, part] of parts.entries()) {
        await progress((index + number / parts.length) / 3, `level ${each.level} of ${part.name}`)
        const name = part.name + levelSuffix(rulebook, each.level)
        addDerivedNode(document, part, name, await reducedCopy(document, part, name, wanted[number]), { role: 'level', level: each.level })
      }
      const made = countTriangles(listLevelParts(document, each.level))
      details.push(`Level ${each.level} has ${formatCount(made)} triangles, ${((made / total) * 100).toFixed(0)} % of ${formatCount(total)}.`)
    }
    const wanted = proportionalShares(parts, total * chosen.shadow)
    for (const [number, part] of parts.entries()) {
      await progress((2 + number / parts.length) / 3, `shadow of ${part.name}`)
      const name = part.name + rulebook.levels.shadow.nameSuffix
      addDerivedNode(document, part, name, soupMesh(document, name, await reducedShape(part, wanted[number])), { role: 'shadow' })
    }
    const shadow = listShadowParts(document).reduce((sum, part) => sum + countMeshTriangles(part.mesh), 0)
    details.push(`The shadow mesh has ${formatCount(shadow)} triangles.`)
    dropUnusedAccessors(document)
    return { headline: `${rulebook.levels.chain.length + 1} made`, details, changed: true }
  },
})

const hasLevels = ({ document }: StepContext): boolean => listLevelParts(document, 1).length > 0 && listShadowParts(document).length > 0
