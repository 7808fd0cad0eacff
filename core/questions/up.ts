import type { AxisName } from '../maths/axes.ts'
import type { Asker } from './question.ts'

/** The pairs that programs really write, the customary ones first. */
const customary: readonly (readonly [AxisName, AxisName])[] = [
  ['+y', '+z'],
  ['+z', '-y'],
  ['+y', '-z'],
  ['+z', '+x'],
]

/**
 * Which way is up and forward, where the file's format does not say so.
 * @example const question = askUp(about)
 */
export const askUp: Asker = ({ survey: { axes } }) => {
  if (axes.from !== 'customary') return null
  const taken: readonly [AxisName, AxisName] = [axes.up, axes.forward]
  const pairs = [taken, ...customary.filter(([up, forward]) => up !== axes.up || forward !== axes.forward)]
  const answers = pairs.slice(0, 4).map(([up, forward]) => ({
    id: `${up} ${forward}`,
    label: `${shown(up)} up, ${shown(forward)} forward`,
    note: up === axes.up && forward === axes.forward ? 'usual for this format' : '',
    picture: { of: 'view' as const, up, forward },
    change: { reading: { up, forward } },
  }))
  return {
    id: 'up',
    title: 'In which picture does it stand upright and face you?',
    why: 'The file does not say which way is up; what is usual for its format is taken.',
    decides: ['axes-not-turned'],
    answers,
    chosen: answers[0].id,
  }
}

const shown = (axis: string): string => axis.toUpperCase().replace('-', '−')
