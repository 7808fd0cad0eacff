import { z } from 'zod'
import { cutCurve } from '../../geometry/motion/cut-curve.ts'
import { namedClips } from '../../item/clips-apart.ts'
import { curveOf } from '../../item/motion-at.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { putCurve } from '../../operations/motion/put-curve.ts'
import { plural } from '../../support/wording.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, type StepSummary } from '../step.ts'

const parameters = z.object({
  clip: nameInItem,
  name: z.string().max(200),
  from: z.number().min(0).max(36_000),
  to: z.number().min(0).max(36_000),
  /** Whether the whole clip stays beside the piece. */
  keepsWhole: z.boolean(),
})

/** Shorter pieces are no motion. */
const SHORTEST_SECONDS = 0.02

/** Takes a stretch out of a long clip as a clip of its own, which begins at 0. */
export const cutClip = defineStep<z.infer<typeof parameters>>({
  id: 'cut-clip',
  version: 1,
  stage: 'motion',
  title: 'Cut a clip',
  purpose: 'Takes a stretch of a clip as a clip with a name of its own, which begins at 0.',
  parameters,
  fields: ({ document }) => {
    const most = Math.max(0.1, ...namedClips(document).map(({ clip }) => secondsOf(clip)))
    const seconds = { type: 'number' as const, unit: 's', least: 0, most, step: 0.01 }
    return [
      {
        type: 'choice',
        key: 'clip',
        label: 'Clip',
        options: namedClips(document).map(({ name, clip }) => ({
          value: name,
          label: `${name} (${secondsOf(clip).toFixed(2)} s)`,
        })),
      },
      { ...seconds, key: 'from', label: 'From' },
      { ...seconds, key: 'to', label: 'To' },
      { type: 'text', key: 'name', label: 'Name' },
      { type: 'toggle', key: 'keepsWhole', label: 'Keep the whole clip as well' },
    ]
  },
  defaults: ({ document }) => {
    const first = namedClips(document).at(0)
    return {
      clip: first?.name ?? '',
      name: first?.name ?? 'clip',
      from: 0,
      to: first ? Number(secondsOf(first.clip).toFixed(3)) : 0.1,
      keepsWhole: false,
    }
  },
  propose: () => [],
  async run({ document, rulebook, parameters: { clip: wanted, name, from, to, keepsWhole } }): Promise<StepSummary> {
    const found = namedClips(document).find((each) => each.name === wanted)?.clip
    if (!found) {
      const reason = `There is no clip “${wanted}” at this place of the worklist. Choose another, or remove the step.`
      return { headline: 'does not apply', details: [reason], changed: false, doesNotApply: reason }
    }
    const end = Math.min(to, secondsOf(found))
    if (end - from < SHORTEST_SECONDS)
      return {
        headline: 'nothing cut',
        details: [`${wanted} lasts ${secondsOf(found).toFixed(2)} s; nothing lies between ${from} s and ${to} s.`],
        changed: false,
      }
    const piece = document.createAnimation(name || wanted)
    for (const channel of found.listChannels()) {
      const [node, curve] = [channel.getTargetNode(), curveOf(channel)]
      if (node && curve) putCurve(document, piece, node, cutCurve(curve, from, end, rulebook.motion.keysPerSecond))
    }
    if (!keepsWhole) {
      for (const each of [...found.listChannels(), ...found.listSamplers()]) each.dispose()
      found.dispose()
    }
    dropUnusedAccessors(document)
    return {
      headline: `${(end - from).toFixed(2)} s`,
      details: [
        `${piece.getName()} is ${wanted} from ${from.toFixed(2)} s to ${end.toFixed(2)} s: ` +
          `${plural(piece.listChannels().length, 'curve')}, ${(end - from).toFixed(2)} s.`,
      ],
      changed: true,
    }
  },
})

const secondsOf = (clip: ReturnType<typeof namedClips>[number]['clip']): number =>
  Math.max(0, ...clip.listChannels().map((channel) => curveOf(channel)?.times.at(-1) ?? 0))
