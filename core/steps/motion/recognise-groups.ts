import { z } from 'zod'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { listSceneNodes } from '../../item/parts.ts'
import { likelyMovers } from '../../operations/motion/groups.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Names of the nodes that are moving groups. */
  names: namesInItem,
})

/** Says which nodes move as a group, so that they keep their own place; also those whose motion was forgotten. */
export const recogniseGroups = defineStep<z.infer<typeof parameters>>({
  id: 'recognise-groups',
  version: 1,
  stage: 'motion',
  title: 'Recognise groups',
  purpose: 'Tells the game which nodes move as a group: those that clips move, and those that are called like them.',
  parameters,
  fields: ({ document }) => [
    {
      type: 'layers',
      key: 'names',
      label: 'Move',
      options: likelyMovers(document).map(({ node, like }) => ({
        value: node.getName(),
        label: like ? `${node.getName()} (called like ${like.getName()})` : node.getName(),
      })),
    },
  ],
  defaults: ({ document }) => ({ names: likelyMovers(document).map(({ node }) => node.getName()) }),
  propose({ document, kind, rulebook }) {
    if (!kind.groupsAsked || !rulebook.motion.groups) return []
    const found = likelyMovers(document)
    if (found.length === 0) return []
    const forgotten = found.filter(({ like }) => like !== null)
    const names = found.map(({ node }) => node.getName())
    const reasons = [
      `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''} ` +
        `${names.length === 1 ? 'is a group that moves' : 'are groups that move'}`,
      ...forgotten
        .slice(0, 2)
        .map(
          ({ node, like }) => `${node.getName()} has no motion and is called like ${like?.getName()}, which has one`,
        ),
    ]
    return [{ parameters: { names }, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, parameters: { names } }) {
    const wanted = new Set(names)
    const nodes = listSceneNodes(document).filter((node) => wanted.has(node.getName()))
    for (const node of nodes) setNodeExtras(node, { ...getNodeExtras(node), group: 'moves' })
    const missing = names.filter((name) => !nodes.some((node) => node.getName() === name))
    return {
      headline: plural(nodes.length, 'group'),
      details: [
        ...nodes.map((node) => `${node.getName()} is a group that moves.`),
        ...(missing.length > 0 ? [`Not there any more: ${missing.slice(0, 4).join(', ')}.`] : []),
      ],
      changed: nodes.length > 0,
    }
  },
})
