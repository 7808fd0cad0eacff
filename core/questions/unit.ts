import { formatLength } from '../support/wording.ts'
import type { UnitSize } from '../intake/survey.ts'
import type { Rulebook } from '../game/schema.ts'
import { MOST_ANSWERS, type Asker } from './question.ts'

/** Units that programs really write, the commonest first. */
const usual: readonly string[] = ['m', 'cm', 'mm', 'in']

/**
 * How large one unit of the source is, where its file does not say so or says what can hardly be meant.
 * @example const question = askUnit(about)
 */
export const askUnit: Asker = ({ survey: { units, sizes, oddities }, rulebook }) => {
  const doubtful = oddities.some(({ mend }) => mend?.do === 'set-unit')
  if (units.from === 'chosen' || (units.from === 'declared' && !doubtful) || sizes.length < 2) return null
  const [likeliest, ...others] = sizes
  const rank = ({ unit }: UnitSize): number => (usual.includes(unit) ? usual.indexOf(unit) : usual.length)
  const shown = [likeliest, ...others.toSorted((a, b) => rank(a) - rank(b))].slice(0, MOST_ANSWERS)
  const answers = shown.map((size) => ({
    id: size.unit,
    label: `1 unit is 1 ${size.unit}`,
    note: noteOf(size, rulebook),
    picture: { of: 'size' as const, metres: [...size.metres] },
    change: { reading: { metresPerUnit: size.metresPerUnit } },
  }))
  return {
    id: 'unit',
    title: 'How large is it?',
    why:
      units.from === 'declared'
        ? 'The file says its unit, but so the thing would hardly fit the game.'
        : 'The file does not say its unit; the likeliest is taken.',
    decides: ['unit-not-scaled', 'item-too-large', 'too-thin'],
    answers,
    chosen: answers[0].id,
  }
}

/** The height beside the figure's: a factor says more than a number of metres. */
function noteOf({ metres: [, height] }: UnitSize, { space: { unit, figure } }: Rulebook): string {
  const tall = height / unit.metres
  const share = tall / figure.height
  const alike = Math.abs(share - 1) < 0.05
  const beside = alike
    ? 'as the figure is'
    : share >= 1
      ? `${formatFactor(share)} times the figure`
      : `1/${formatFactor(1 / share)} of the figure`
  return share > 1e-4 && Number.isFinite(share)
    ? `${formatLength(tall)} ${unit.plural} high, ${beside}`
    : `${formatLength(tall)} ${unit.plural} high`
}

const formatFactor = (factor: number): string =>
  factor >= 10 ? Math.round(factor).toLocaleString('en-GB') : String(Number(factor.toFixed(1)))
