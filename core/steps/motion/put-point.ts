import type { Node } from '@gltf-transform/core'
import { z } from 'zod'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import { joinByName } from '../../game/joins.ts'
import { gameAxes } from '../../game/space.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'
import { attachPoint } from '../../item/annotations/attach-point/attach-point.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { mergedTriangles } from '../../item/measure.ts'
import { itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import type { Vector3 } from '../../maths/vectors.ts'
import { lookingAlong, outwardAt } from '../../operations/motion/attach-points.ts'
import { formatLength } from '../../support/wording.ts'
import { defineStep, type StepSummary } from '../step.ts'

const ways = ['outward', '+x', '-x', '+y', '-y', '+z', '-z'] as const

const parameters = z.object({
  name: z.string().max(200),
  /** Where it stands: one place in the scene. */
  at: z.array(z.array(z.number()).length(3)).max(1),
  /** Which way it looks: straight off the surface, or along an axis of the working space. */
  looks: z.enum(ways),
})

const axisWays: Record<Exclude<(typeof ways)[number], 'outward'>, Vector3> = {
  '+x': [1, 0, 0],
  '-x': [-1, 0, 0],
  '+y': [0, 1, 0],
  '-y': [0, -1, 0],
  '+z': [0, 0, 1],
  '-z': [0, 0, -1],
}

/** A place with a direction where other things join, put on the surface. */
export const putPoint = defineStep<z.infer<typeof parameters>>({
  id: 'put-point',
  version: 1,
  stage: 'motion',
  title: 'Put an attach point',
  purpose: 'Puts a place where other things join on the surface, looking straight off it or along an axis.',
  parameters,
  fields: ({ rulebook: { space } }) => [
    { type: 'text', key: 'name', label: 'Name' },
    { type: 'points', key: 'at', label: 'Place', count: 1, unit: space.unit.plural },
    {
      type: 'choice',
      key: 'looks',
      label: 'Looks',
      options: [
        { value: 'outward', label: 'straight off the surface' },
        ...gameAxes(space).flatMap(({ letter, working, sign }) =>
          ([1, -1] as const).map((way) => ({
            value: ways[1 + working * 2 + (way * sign > 0 ? 0 : 1)],
            label: `along ${way > 0 ? '+' : '−'}${letter}`,
          })),
        ),
      ],
    },
  ],
  defaults: () => ({ name: 'joint', at: [], looks: 'outward' }),
  propose: () => [],
  async run({ document, rulebook, kind, parameters: { name, at, looks } }): Promise<StepSummary> {
    const [place] = at as Vector3[]
    if (!kind.attachPoints) return nothing(`${kind.title} has no attach points.`)
    if (!place) return nothing('Click where it stands.')
    const { positions, indices } = mergedTriangles(listViewParts(document))
    const found = createSurfaceFinder({ positions, indices }).nearest(...place)
    const outward = found ? outwardAt(positions, indices, found.triangle) : axisWays['+y']
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    // Called at once as the game wants it: a part of the same name does not stand in its way.
    const ownName = cleanName(rulebook, name, 'point')
    const called = attachPoint.packedName(rulebook, {}, { parentName: '', ownName, before: 0 })
    const node = document
      .createNode(uniqueName(rulebook, cleanName(rulebook, called, 'point'), taken))
      .setMatrix(
        lookingAlong(place, looks === 'outward' ? outward : axisWays[looks]) as Parameters<Node['setMatrix']>[0],
      )
    const join = joinByName(rulebook, name)
    setNodeExtras(node, { role: 'attach-point', ...(join ? { joint: { joins: join.name, width: null } } : {}) })
    itemScene(document).addChild(node)
    const off = found ? `, ${formatLength(found.distance)} ${rulebook.space.unit.plural} off the surface` : ''
    return {
      headline: node.getName(),
      details: [
        `${node.getName()} stands there${off}.`,
        ...(join ? [`It takes ${join.name}, by its name: ${join.meaning}.`] : []),
      ],
      changed: true,
    }
  },
})

const nothing = (reason: string): StepSummary => ({ headline: 'no point', details: [reason], changed: false })
