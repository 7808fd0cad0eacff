import type { mat4 } from '@gltf-transform/core'
import { z } from 'zod'
import { multiplyMatrices } from '../../maths/axes.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import { countMeshTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { levelSuffix } from '../../game/names.ts'
import { joinTogether } from '../../operations/meshes/join-together.ts'
import { nameInItem, namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({
  parts: namesInItem,
  /** The part that they stand for from further off. */
  of: nameInItem,
  level: z.number().int().min(1).max(8),
})
type Parameters = z.infer<typeof parameters>

/** How people write that a mesh is a level: “gate_lod1”, “gate L1”, “gate.low”. */
const levelName = /^(?<base>.+?)[ ._-]*(?:lod[ ._-]?|l|level[ ._-]?)(?<level>[1-8])$/i

/** Puts meshes made by hand in as a level. */
export const useAsLevel = defineStep<Parameters>({
  id: 'use-as-level',
  version: 1,
  stage: 'mesh',
  title: 'Use as a level',
  purpose: 'Takes parts that were made by hand as a coarser level of another part, instead of a reduced one.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'choice',
      key: 'level',
      label: 'Level',
      options: rulebook.levels.chain.map(({ level, fromDistance }) => ({
        value: level,
        label: `${level}, from ${fromDistance} ${rulebook.space.unit.plural}`,
      })),
    },
    { type: 'part', key: 'of', label: 'Stands for' },
    { type: 'parts', key: 'parts', label: 'Meshes' },
  ],
  defaults({ document, rulebook }) {
    const [found] = namedLevels(listViewParts(document))
    return (
      found ?? { parts: [], of: listViewParts(document)[0]?.name ?? '', level: rulebook.levels.chain[0]?.level ?? 1 }
    )
  },
  propose: ({ document, rulebook, kind }) =>
    kind.levelsAsked
      ? namedLevels(listViewParts(document))
          .filter(({ level }) => rulebook.levels.chain.some((each) => each.level === level))
          .map((found) => ({
            parameters: found,
            reason:
              `${found.parts.join(', ')} ${found.parts.length === 1 ? 'is' : 'are'} named as level ${found.level} ` +
              `of ${found.of}.`,
          }))
      : [],
  async run({ document, parameters: { parts: names, of, level }, rulebook }) {
    const parts = listViewParts(document)
    const first = parts.find((part) => part.name === of)
    const chosen = parts.filter((part) => names.includes(part.name) && part.name !== of)
    if (!first) return gonePart(of)
    if (chosen.length === 0 && names.length > 0) return gonePart(names[0])
    const toFirst = invertMatrix(first.node.getWorldMatrix())
    for (const part of chosen) {
      const matrix = toFirst ? multiplyMatrices(toFirst, part.node.getWorldMatrix()) : part.node.getWorldMatrix()
      part.node.setName(first.name + levelSuffix(rulebook, level)).setMatrix(matrix as mat4)
      setNodeExtras(part.node, { ...part.extras, role: 'level', level, byHand: true })
      first.node.addChild(part.node)
    }
    const triangles = chosen.reduce((sum, part) => sum + countMeshTriangles(part.mesh), 0)
    // The game looks for one mesh a level.
    if (chosen.length > 1) joinTogether(document, chosen)
    const share = countMeshTriangles(first.mesh) > 0 ? triangles / countMeshTriangles(first.mesh) : 0
    return {
      headline: chosen.length > 0 ? `level ${level}` : 'as it was',
      details: [
        chosen.length > 0
          ? `${plural(chosen.length, 'mesh', 'meshes')} with ${formatCount(triangles)} triangles, ` +
            `${(share * 100).toFixed(0)} % of ${first.name}, ${chosen.length === 1 ? 'is' : 'are'} its level ` +
            `${level} now.`
          : 'No mesh is chosen yet.',
      ],
      changed: chosen.length > 0,
    }
  },
})

/** Parts whose names say which level of which other part they are. */
function namedLevels(parts: readonly Part[]): Parameters[] {
  const named = parts.flatMap((part) => {
    const { base, level } = levelName.exec(part.name)?.groups ?? {}
    return level === undefined ? [] : [{ part, base, level: Number(level) }]
  })
  if (named.length === 0) return []
  const called = new Map<string, Part[]>()
  for (const part of parts) {
    const alike = called.get(same(part.name))
    if (alike) alike.push(part)
    else called.set(same(part.name), [part])
  }
  const found = new Map<string, Parameters>()
  for (const { part, base, level } of named) {
    const first = called.get(same(base))?.find((each) => each !== part)
    if (!first) continue
    const key = `${first.name} ${level}`
    const known = found.get(key) ?? { parts: [], of: first.name, level }
    known.parts.push(part.name)
    found.set(key, known)
  }
  return [...found.values()]
}

/** “Gate_LOD0” and “gate” are the same thing. */
const same = (name: string): string => name.toLowerCase().replace(/[ ._-]*(?:lod|l|level)[ ._-]?0$/, '')
