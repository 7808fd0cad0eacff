import { motionsOf } from '../item/motion-at.ts'
import { clipsApart, namedClips } from '../item/clips-apart.ts'
import { plural } from '../support/wording.ts'
import { MOST_ANSWERS, type Asker } from './question.ts'

const STEP = 'choose-clips'

/**
 * Which clip is played, where several move one thing and the game plays all at once.
 * @example const question = askClips(about)
 */
export const askClips: Asker = ({ document, kind, decidedSteps }) => {
  if (!kind.motionAsked || decidedSteps.includes(STEP)) return null
  const clips = namedClips(document)
  const alone = clipsApart(document)
  if (alone.length === clips.length) return null
  // What moves nothing that another moves as well stays whatever is chosen, and is no choice.
  const kept = clips.map(({ name }) => clipsApart(document, name).join('\n'))
  const answers = clips
    .filter((_, number) => kept.indexOf(kept[number]) === number)
    .slice(0, MOST_ANSWERS)
    .map(({ name, clip }) => {
      const motions = motionsOf(clip)
      const seconds = Math.max(0, ...motions.map(({ keySeconds }) => keySeconds.at(-1) ?? 0))
      const keep = clipsApart(document, name)
      const beside = keep.length > 1 ? `, with ${plural(keep.length - 1, 'other')}` : ''
      return {
        id: `clip-${name}`,
        label: name,
        note: `${seconds.toFixed(1)} s, moves ${plural(motions.length, 'thing')}${beside}`,
        picture: null,
        change: { step: { id: STEP, parameters: { keep } } },
      }
    })
  return {
    id: 'clips',
    title: 'Which motion is played?',
    why:
      `${plural(clips.length, 'clip')} came along, and some move the same thing; the game plays all of an item at ` +
      'once.',
    decides: ['clips-fight'],
    answers,
    chosen: answers[0].id,
  }
}
