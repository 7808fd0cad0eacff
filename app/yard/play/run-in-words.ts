import type { YardRun } from '../../../core/trial/yard/yard-frame'
import { plural } from '../../ui/format'

/**
 * A run in a few words.
 * @example runInWords(run) // “3 of 7 taken, fell once”
 */
export function runInWords({ places, falls, arrivedAfter }: YardRun): string {
  const taken = places.filter(({ taken }) => taken).length
  return [
    ...(arrivedAfter === null ? [] : [`arrived after ${arrivedAfter.toFixed(1)} s`]),
    ...(places.length > 0 ? [`${taken} of ${places.length} taken`] : []),
    ...(falls > 0 ? [`fell ${falls === 1 ? 'once' : plural(falls, 'time')}, began again`] : []),
    ...(arrivedAfter === null && places.length === 0 && falls === 0 ? ['not there yet'] : []),
  ].join(', ')
}
