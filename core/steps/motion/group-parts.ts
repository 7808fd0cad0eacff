import { z } from 'zod'
import { uniqueName } from '../../game/clean-name.ts'
import { groupName } from '../../game/group-names.ts'
import { groupSchema } from '../../item/annotations/group/facts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { partsBounds } from '../../item/measure.ts'
import { itemScene, listMovingNodes, listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'
import { partsOutsideGroups } from '../../operations/motion/groups.ts'
import { hangUnder } from '../../operations/motion/hang.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'

const parameters = z.object({
  name: z.string().max(200),
  is: groupSchema,
  /** Names of the parts; empty for all that stand in no group yet. */
  parts: namesInItem,
  /** About which place it turns, in the scene; the middle of its foot where none is said. */
  pivot: z.array(z.array(z.number()).length(3)).max(1),
})

/** Puts parts into one group, which moves, stands still or is kept out of collision. */
export const groupParts = defineStep<z.infer<typeof parameters>>({
  id: 'group-parts',
  version: 1,
  stage: 'motion',
  title: 'Group parts',
  purpose: 'Puts parts into one group that moves, stands still, or is a backdrop that nothing bumps into.',
  parameters,
  fields: ({ rulebook }) => [
    { type: 'text', key: 'name', label: 'Name' },
    {
      type: 'choice',
      key: 'is',
      label: 'The group',
      options: [
        { value: 'moves', label: 'moves' },
        { value: 'stays', label: 'stands still' },
        { value: 'backdrop', label: 'is a backdrop' },
      ],
    },
    { type: 'parts', key: 'parts', label: 'Parts; none for all without a group' },
    {
      type: 'points',
      key: 'pivot',
      label: 'Turns about',
      count: 1,
      unit: rulebook.space.unit.plural,
      when: { key: 'is', is: ['moves'] },
    },
  ],
  defaults: () => ({ name: 'rest', is: 'stays', parts: [], pivot: [] }),
  propose(context) {
    const { document, kind, rulebook } = context
    if (!kind.groupsAsked || !rulebook.motion.groups) return []
    const moving = listMovingNodes(document)
    const outside = partsOutsideGroups(document, rulebook).filter(({ node }) => !moving.has(node))
    if (outside.length === 0) return []
    return [
      {
        parameters: { name: 'rest', is: 'stays', parts: [], pivot: [] },
        reason:
          `${plural(outside.length, 'part')} that ${outside.length === 1 ? 'stands still is' : 'stand still are'} ` +
          'in no group.',
      },
    ]
  },
  async run({ document, rulebook, parameters: { name, is, parts: names, pivot } }) {
    const moving = listMovingNodes(document)
    const all = listViewParts(document)
    const chosen =
      names.length > 0
        ? all.filter((part) => names.includes(part.name))
        : partsOutsideGroups(document, rulebook).filter(({ node }) => !moving.has(node))
    const gone = names.find((each) => !all.some((part) => part.name === each))
    if (chosen.length === 0 && gone !== undefined) return gonePart(gone)
    if (chosen.length === 0) return { headline: 'none', details: ['Every part is in a group already.'], changed: false }
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    const group = document.createNode(uniqueName(rulebook, groupName(rulebook, is, name), taken))
    setNodeExtras(group, { role: 'part', group: is })
    const place = is === 'moves' ? ((pivot[0] as [number, number, number] | undefined) ?? footOf(chosen)) : [0, 0, 0]
    group.setTranslation(place as [number, number, number])
    itemScene(document).addChild(group)
    for (const { node } of chosen) hangUnder(node, group)
    const solids = is === 'backdrop' ? dropSolidsOf(document, chosen) : 0
    return {
      headline: group.getName(),
      details: [
        `${group.getName()} holds ${plural(chosen.length, 'part')}.`,
        ...(solids > 0 ? [`${plural(solids, 'solid')} left out: nothing bumps into a backdrop.`] : []),
        ...(gone === undefined ? [] : [`There is no part “${gone}” any more.`]),
      ],
      changed: true,
    }
  },
})

/** The middle of the underside of some parts. */
function footOf(parts: readonly Part[]): [number, number, number] {
  const { min, max } = partsBounds(parts)
  return [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2]
}

function dropSolidsOf(document: Parameters<typeof listSolids>[0], parts: readonly Part[]): number {
  const own = listSolids(document).filter(({ node }) => parts.some((part) => part.node === node.getParentNode()))
  for (const { node } of own) node.dispose()
  return own.length
}
