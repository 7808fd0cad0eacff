import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { getNodeExtras } from '../../item/extras.ts'
import { listSceneNodes, listViewParts } from '../../item/parts.ts'
import { bonesOfNodes, followParts, hangOnNearest, stiffAndBent } from '../../operations/motion/make-bones.ts'
import { standSkeleton } from '../../operations/motion/skeletons.ts'
import { listHeldParts } from '../../operations/motion/skin.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, type StepSummary } from '../step.ts'

const parameters = z.object({
  /** Whether bones are made of parts and empties of the item, or taken from the game's stock. */
  from: z.enum(['parts', 'stock']),
  /** Names of parts that each get a bone, and of empties that are bones. */
  bones: namesInItem,
  /** Id of the game's skeleton. */
  skeleton: z.string().max(40),
  /** Names of parts that they bend. */
  bent: namesInItem,
})

/** Bones where there are none: of parts, or the game's own; what they bend hangs on the nearest. */
export const makeBones = defineStep<z.infer<typeof parameters>>({
  id: 'make-bones',
  version: 1,
  stage: 'motion',
  title: 'Make bones',
  purpose:
    'Puts a bone at the origin of each stiff part, or stands a skeleton of the game in the item, and hangs what ' +
    'bends on the nearest of them.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'choice',
      key: 'from',
      label: 'Bones',
      options: [
        { value: 'parts', label: 'one a stiff part' },
        {
          value: 'stock',
          label: 'the game’s own',
          ...(rulebook.stock.skeletons.length === 0 ? { refused: 'the game has none in stock' } : {}),
        },
      ],
    },
    {
      type: 'layers',
      key: 'bones',
      label: 'Stiff parts',
      options: possibleBones(document).map((name) => ({ value: name, label: '' })),
    },
    {
      type: 'choice',
      key: 'skeleton',
      label: 'Skeleton',
      options: rulebook.stock.skeletons.map(({ id, title, bones }) => ({
        value: id,
        label: `${title} (${plural(bones.length, 'bone')})`,
      })),
      when: { key: 'from', is: ['stock'] },
    },
    { type: 'parts', key: 'bent', label: 'What they bend' },
  ],
  defaults: ({ document, rulebook }) => {
    const guess = stiffAndBent(document)
    const [first] = rulebook.stock.skeletons
    return {
      from: guess || !first ? 'parts' : 'stock',
      bones: guess?.stiff.map(({ name }) => name) ?? [],
      skeleton: first?.id ?? '',
      bent: (guess?.bent ?? listViewParts(document)).map(({ name }) => name),
    }
  },
  propose({ document, kind }) {
    if (!kind.bones || listHeldParts(document).length > 0) return []
    const guess = stiffAndBent(document)
    if (!guess) return []
    const stiff = guess.stiff.slice(0, kind.bones.most)
    return [
      {
        parameters: {
          from: 'parts',
          bones: stiff.map(({ name }) => name),
          skeleton: '',
          bent: guess.bent.map(({ name }) => name),
        },
        reason:
          `Nothing says yet what bends it: ${guess.bent[0].name} is the largest part, the ` +
          `${plural(stiff.length, 'other')} ${stiff.length === 1 ? 'gets' : 'get'} a bone each.`,
      },
    ]
  },
  async run({ document, rulebook, parameters: { from, bones: named, skeleton, bent } }): Promise<StepSummary> {
    const parts = listViewParts(document).filter(({ name, node }) => bent.includes(name) && !node.getSkin())
    if (parts.length === 0) return goes('No part is chosen that they bend, or bones hold it already.')
    const inStock = rulebook.stock.skeletons.find(({ id }) => id === skeleton)
    if (from === 'stock' && !inStock) return goes(`${rulebook.title} has no skeleton “${skeleton}” in stock.`)
    const stiff = listSceneNodes(document).filter(
      (node) => named.includes(node.getName()) && !parts.some((part) => part.node === node),
    )
    if (from === 'parts' && stiff.length === 0) return goes('No stiff part is chosen for a bone.')
    const bones =
      from === 'stock' && inStock
        ? standSkeleton(document, inStock, rulebook.space)
        : bonesOfNodes(document, stiff, rulebook)
    const followed = from === 'stock' ? followParts(bones, stiff) : 0
    hangOnNearest(document, parts, bones)
    return {
      headline: plural(bones.length, 'bone'),
      details: [
        from === 'stock'
          ? `${inStock?.title ?? skeleton} stands in it with ${plural(bones.length, 'bone')}.`
          : `${plural(bones.length, 'bone')}: ${bones
              .slice(0, 6)
              .map((bone) => bone.getName())
              .join(', ')}${bones.length > 6 ? ` and ${formatCount(bones.length - 6)} more` : ''}.`,
        ...(followed > 0
          ? [`${plural(followed, 'bone')} of it ${followed === 1 ? 'follows' : 'follow'} the nearest stiff part.`]
          : []),
        `${parts.map(({ name }) => name).join(', ')}: each corner follows the nearest one.`,
      ],
      changed: true,
    }
  },
})

const goes = (reason: string): StepSummary => ({
  headline: 'does not apply',
  details: [reason],
  changed: false,
  doesNotApply: reason,
})

/** Parts, and empties that something hangs on or that hang on something. */
const possibleBones = (document: Document): string[] =>
  [
    ...new Set(
      listSceneNodes(document)
        .filter((node) => getNodeExtras(node).role === 'part')
        .map((node) => node.getName()),
    ),
  ].filter((name) => name !== '')
