import { formatCount, plural } from '../../support/wording.ts'
import { ofKinds, type SentencesOf } from './sentence.ts'

/**
 * Clips, bones, places and lights.
 * @example const fields = motionSentences(rulebook).map(({ field }) => field)
 */
export const motionSentences: SentencesOf = (rulebook) => {
  const { motion, markers, points, space, stock } = rulebook
  return [
    ...ofKinds(
      rulebook,
      'motion',
      'motionAsked',
      'Keys are kept in memory, and a clip has to end where it begins.',
      (kind) =>
        kind.motionAsked
          ? `Clips of up to ${motion.longestSeconds} s, ${motion.keysPerSecond} keys a second and ` +
            `${formatCount(motion.mostKeys)} keys in ` +
            `all${motion.startsAtZero ? ', starting at 0' : ''}${motion.loopsClose ? ', loops closed' : ''}.`
          : 'It does not move by itself.',
    ),
    ...ofKinds(rulebook, 'motion', 'bones', 'The card has room for so many when it bends a mesh.', (kind) =>
      kind.bones
        ? `At most ${kind.bones.most} bones, ${kind.bones.influences} at a ` +
          `corner${kind.bones.rigidPartPerBone ? `; each hangs on a stiff part of its own and is named ${points.bone}` : ''}.`
        : null,
    ),
    ...ofKinds(
      rulebook,
      'motion',
      'stock.skeletons',
      'The game has bones of its own, which things may stand on.',
      (kind) =>
        kind.bones && stock.skeletons.length > 0
          ? 'Skeletons in stock: ' +
            `${stock.skeletons.map(({ title, bones }) => `${title} (${plural(bones.length, 'bone')})`).join(', ')}.`
          : null,
    ),
    ...ofKinds(rulebook, 'motion', 'mostLights', 'Every light is reckoned for all that it reaches.', (kind) =>
      kind.mostLights > 0 ? `At most ${plural(kind.mostLights, 'light')}.` : null,
    ),
    ...ofKinds(rulebook, 'motion', 'attachPoints', 'Other things are hung on it there.', (kind) =>
      kind.attachPoints ? `Attach points are named ${points.attach}.` : null,
    ),
    ...ofKinds(rulebook, 'motion', 'points.joins', 'A point is offered only to what it names.', (kind) =>
      kind.attachPoints && points.joins.length > 0
        ? 'At each attach point one of these may join: ' +
          `${points.joins.map(({ name, meaning, widest }) => `${name} (${meaning}${widest === null ? '' : `, up to ${widest} ${space.unit.plural} wide`})`).join('; ')}.`
        : null,
    ),
    ...markers.flatMap((marker) =>
      ofKinds(rulebook, 'motion', `markers.${marker.name}`, marker.meaning, (kind) =>
        kind.markers
          ? `Markers “${marker.name}”: ` +
            `${marker.most === null ? `${marker.least} or more` : marker.least === marker.most ? marker.most : `${marker.least} to ${marker.most}`}${marker.aboveGround === null ? '' : `, ${marker.aboveGround} ${space.unit.plural} above what is under them`}${marker.belowLowest === null ? '' : `, ${marker.belowLowest.least} to ${marker.belowLowest.most} ${space.unit.plural} below the lowest point`}.`
          : null,
      ),
    ),
  ]
}
