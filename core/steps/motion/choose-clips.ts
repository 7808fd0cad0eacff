import { z } from 'zod'
import { noteGivenUp } from '../../item/given-up.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { clipsApart, namedClips } from '../../item/clips-apart.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Names of the clips that stay. */
  keep: namesInItem,
})

/** Keeps some clips of those that came along. */
export const chooseClips = defineStep<z.infer<typeof parameters>>({
  id: 'choose-clips',
  version: 1,
  stage: 'motion',
  title: 'Choose clips',
  purpose: 'Keeps the chosen clips and leaves the others out; a game that plays all at once takes one for each thing.',
  parameters,
  fields: ({ document }) => [
    {
      type: 'layers',
      key: 'keep',
      label: 'Keep',
      options: namedClips(document).map(({ name }) => ({ value: name, label: name })),
    },
  ],
  defaults: ({ document }) => ({ keep: clipsApart(document) }),
  propose({ document, kind }) {
    const clips = namedClips(document)
    const keep = clipsApart(document)
    if (!kind.motionAsked || keep.length === clips.length) return []
    const out = clips.map(({ name }) => name).filter((name) => !keep.includes(name))
    return [
      {
        parameters: { keep },
        reason:
          `${out.slice(0, 3).join(', ')}${out.length > 3 ? ` and ${out.length - 3} more` : ''} ` +
          `${out.length === 1 ? 'moves' : 'move'} what ${keep[0]} moves, and the game plays all clips at once.`,
      },
    ]
  },
  async run({ document, parameters: { keep } }) {
    const out = namedClips(document).filter(({ name }) => !keep.includes(name))
    for (const { name, clip } of out) {
      noteGivenUp(document, {
        what: 'Motion',
        where: name,
        message: `The clip “${name}” is left out`,
        why: 'It was not chosen; “Choose clips” says which are kept.',
      })
      for (const channel of clip.listChannels()) channel.dispose()
      for (const sampler of clip.listSamplers()) sampler.dispose()
      clip.dispose()
    }
    dropUnusedAccessors(document)
    return {
      headline: out.length > 0 ? `−${plural(out.length, 'clip')}` : 'all kept',
      details: out.length > 0 ? out.map(({ name }) => `${name} is left out.`) : ['Every clip is kept.'],
      changed: out.length > 0,
    }
  },
})
