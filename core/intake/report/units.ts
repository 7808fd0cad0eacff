import { getRootExtras } from '../../item/extras.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { unitName } from '../../item/units.ts'
import type { OddityCheck } from './oddity.ts'

/** What things in games measure, in metres: beyond this a unit is hard to believe. */
const believable = { least: 0.05, most: 60 }
const LIKELY_METRES = 1.8
/** How far wrong a declared unit usually is: millimetres for centimetres, inches for metres, and so on. */
const usualSlips = [10, 39.37, 100, 1000]

/**
 * A declared unit under which the model is a giant or a crumb, with the unit that would make it a thing.
 * @example const oddities = checkUnit(context)
 */
export const checkUnit: OddityCheck = ({ document }) => {
  const { units } = getRootExtras(document.getRoot())
  const longest = Math.max(...boundsSize(partsBounds(listViewParts(document))))
  if (units.metresPerUnit === null || units.from === 'chosen' || !(longest > 0)) return []
  const metres = longest * units.metresPerUnit
  if (metres >= believable.least && metres <= believable.most) return []
  const factors = usualSlips.flatMap((slip) => [slip, 1 / slip])
  const distance = (factor: number): number => Math.abs(Math.log((metres * factor) / LIKELY_METRES))
  const best = factors.reduce((nearest, factor) => (distance(factor) < distance(nearest) ? factor : nearest))
  const mended = units.metresPerUnit * best
  const slip = best > 1 ? `${shown(best)} times too small` : `${shown(1 / best)} times too large`
  return [
    {
      id: 'unit-implausible',
      where: '',
      message:
        `In ${unitName(units.metresPerUnit)} (${units.from}) its longest side is ${length(metres)}; it is ` +
        `probably ${slip}: in ${unitName(mended)} it is ${length(metres * best)}`,
      mend: { do: 'set-unit', metresPerUnit: mended, label: `Read it in ${unitName(mended)}` },
    },
  ]
}

const shown = (factor: number): string => String(Number(factor.toPrecision(4)))
const length = (metres: number): string =>
  metres >= 1 ? `${Number(metres.toPrecision(3))} m` : `${Number((metres * 100).toPrecision(3))} cm`
