import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { gameAxes } from '../../game/space.ts'
import { listViewParts } from '../../item/parts.ts'
import { getRootExtras } from '../../item/extras.ts'
import { dropUnused } from '../../operations/meshes/drop-unused.ts'
import type { Host, StepContext } from '../../operations/context.ts'
import { findClipping } from '../../operations/motion/clipping.ts'
import { graftInto, taken } from '../../operations/motion/graft.ts'
import { movedNodes, nearestAbove } from '../../operations/motion/groups.ts'
import type { Vector3 } from '../../maths/vectors.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, type StepSummary } from '../step.ts'

const parameters = z.object({
  /** The stock object and its part, as `object/part`. */
  target: z.string().max(8192),
  mode: z.enum(['replaces', 'hangs-on']),
  /** Names of our parts; empty for all. */
  by: namesInItem,
  /** What becomes of our other parts. */
  others: z.enum(['stay', 'left-out']).default('stay'),
  anchor: z.enum(['origin', 'top', 'middle', 'foot']),
  at: z.array(z.array(z.number()).length(3)).max(1),
  takes: z.array(z.enum(taken)).max(taken.length),
})
type Parameters = z.infer<typeof parameters>

/** Puts the item into an object of the game's own: in the place of one of its parts, or hung on it. */
export const putIntoHost = defineStep<Parameters>({
  id: 'put-into-host',
  version: 1,
  stage: 'motion',
  title: 'Put into a stock object',
  purpose:
    'Puts it in the place of a part of an object that the game has, or hangs it there, with the place, motion, ' +
    'name, flags and solids of that part as asked.',
  parameters,
  fields: ({ hosts = [], rulebook: { space } }) => [
    {
      type: 'choice',
      key: 'target',
      label: 'Object and part',
      options: hosts.flatMap((host) =>
        listViewParts(host.document).map(({ name }) => ({
          value: `${host.id}/${name}`,
          label: `${host.title}: ${name}`,
        })),
      ),
    },
    {
      type: 'choice',
      key: 'mode',
      label: 'Ours',
      options: [
        { value: 'replaces', label: 'stands in its place' },
        { value: 'hangs-on', label: 'hangs on it' },
      ],
    },
    { type: 'parts', key: 'by', label: 'Our parts; none for all' },
    {
      type: 'choice',
      key: 'others',
      label: 'Our other parts',
      options: [
        { value: 'stay', label: 'stay where they are' },
        { value: 'left-out', label: 'are left out' },
      ],
    },
    {
      type: 'choice',
      key: 'anchor',
      label: 'Comes there by its',
      options: [
        { value: 'origin', label: 'origin' },
        { value: 'top', label: 'top' },
        { value: 'middle', label: 'middle' },
        { value: 'foot', label: 'foot' },
      ],
    },
    { type: 'points', key: 'at', label: 'Elsewhere', count: 1, unit: space.unit.plural },
    {
      type: 'layers',
      key: 'takes',
      label: 'Takes over',
      options: [
        ...gameAxes(space).map(({ letter, working }) => ({
          value: `place-${'xyz'[working]}`,
          label: `place along ${letter}`,
        })),
        { value: 'turn', label: 'turn' },
        { value: 'motion', label: 'motion' },
        { value: 'name', label: 'name' },
        { value: 'flags', label: 'flags' },
        { value: 'solids', label: 'solids' },
      ],
    },
  ],
  defaults: (context) => ({
    target: likelyTarget(context) ?? '',
    mode: 'hangs-on',
    by: movingParts(context.document),
    others: 'left-out',
    anchor: 'top',
    at: [],
    takes: ['place-x', 'place-y', 'place-z', 'motion'],
  }),
  propose(context) {
    if (context.kind.addsTo !== 'host' || getRootExtras(context.document.getRoot()).changes) return []
    const target = likelyTarget(context)
    if (target === null) return []
    const [id, part] = parted(target)
    const title = context.hosts?.find((host) => host.id === id)?.title ?? id
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason:
          `A ${context.kind.title.toLowerCase()} changes an object of the game’s own: it hangs on ${part} of ` +
          `“${title}” until another part is chosen.`,
      },
    ]
  },
  async run({ document, rulebook, hosts = [], parameters: chosen }): Promise<StepSummary> {
    const [id, part] = parted(chosen.target)
    const host = hosts.find((each) => each.id === id)
    if (!host) return gone(`The game has no object “${id}” that things are put into.`)
    if (getRootExtras(document.getRoot()).changes)
      return gone('It is in a stock object already; one of the two steps has to go.')
    const takes = new Set(chosen.takes)
    const at = (chosen.at[0] as Vector3 | undefined) ?? null
    const made = graftInto(document, host, { ...chosen, part, at, takes }, rulebook)
    if (!made) return gone(`“${host.title}” has no part “${part}”, or nothing of ours is left to put there.`)
    dropUnused(document)
    const clipping = findClipping(document)
    const met = clipping.filter(({ always }) => !always)
    return {
      headline: host.id,
      details: [
        `${made.ours.map((node) => node.getName()).join(', ')} ` +
          `${chosen.mode === 'replaces' ? 'stands in the place of' : 'hangs on'} ${part} of ` +
          `“${host.title}”${takes.has('motion') ? ' and moves with it' : ''}.`,
        `Flags of ours: ${made.flags.ours}; of ${part}: ` +
          `${made.flags.hosts}${made.flags.differ ? (takes.has('flags') ? ', now both' : ', left as they are') : ''}.`,
        ...(made.othersLeft > 0 ? [`${plural(made.othersLeft, 'other part')} of ours left out.`] : []),
        ...(made.solidsLeft > 0 ? [`${plural(made.solidsLeft, 'solid')} of the other one left out.`] : []),
        ...met.map((each) => clippingInWords(each)),
        ...(clipping.length > 0 && met.length === 0 ? ['It meets the object where it hangs, and nowhere else.'] : []),
      ],
      changed: true,
    }
  },
})

/** “bell runs into post from 1.2 s to 1.9 s”. */
export const clippingInWords = ({ ours, hosts, seconds }: ReturnType<typeof findClipping>[number]): string =>
  `${ours} runs into ${hosts} at ${plural(seconds.length, 'moment')} from ${seconds[0].toFixed(1)} s to ` +
  `${seconds[seconds.length - 1].toFixed(1)} s.`

function parted(target: string): [string, string] {
  const at = target.indexOf('/')
  return at < 0 ? [target, ''] : [target.slice(0, at), target.slice(at + 1)]
}

/** Our parts that clips move, where others do not; none for all. */
function movingParts(document: Document): string[] {
  const moved = movedNodes(document)
  const parts = listViewParts(document)
  const moving = parts.filter(({ node }) => nearestAbove(node, (each) => moved.has(each)))
  return moving.length < parts.length ? moving.map(({ name }) => name) : []
}

/** The first part of a host that moves, or the first part at all. */
function likelyTarget({ hosts = [] }: StepContext): string | null {
  const named = (host: Host, name: string): string => `${host.id}/${name}`
  for (const host of hosts) {
    const moved = movedNodes(host.document)
    const moving = listViewParts(host.document).find(({ node }) => moved.has(node))
    if (moving) return named(host, moving.name)
  }
  const [first] = hosts
  const part = first ? listViewParts(first.document).at(0) : undefined
  return first && part ? named(first, part.name) : null
}

const gone = (reason: string): StepSummary => ({
  headline: 'does not apply',
  details: [reason],
  changed: false,
  doesNotApply: reason,
})
