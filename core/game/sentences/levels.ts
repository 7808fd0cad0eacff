import { formatCount } from '../../support/wording.ts'
import { ofKinds, type SentencesOf } from './sentence.ts'

/**
 * Coarser levels and the mesh that throws the shadow.
 * @example const fields = levelsSentences(rulebook).map(({ field }) => field)
 */
export const levelsSentences: SentencesOf = (rulebook) => {
  const { levels, space } = rulebook
  const asked =
    (say: string) =>
    ({ levelsAsked }: { levelsAsked: boolean }) =>
      levelsAsked ? say : null
  const above = `Above ${formatCount(levels.neededAboveTriangles)} triangles`
  return [
    ...levels.chain.flatMap((each) =>
      ofKinds(
        rulebook,
        'levels',
        `levelsAsked.${each.level}`,
        'From far off the game draws fewer triangles, or the whole view slows down.',
        asked(
          `${above} a level ${each.level} with at most ${each.mostShare * 100} % of them, drawn from ` +
            `${each.fromDistance} ${space.unit.plural} on.`,
        ),
      ),
    ),
    ...ofKinds(
      rulebook,
      'levels',
      'levelsAsked.shadow',
      'Shadows are drawn several times a frame.',
      asked(
        `${above} a ${levels.shadow.closed ? 'closed ' : ''}shadow mesh with at most ` +
          `${levels.shadow.mostShare * 100} % of ` +
          `them${levels.shadow.orALevel ? ', or one of the levels again' : ''}.`,
      ),
    ),
    ...(levels.sameMaterials
      ? ofKinds(
          rulebook,
          'levels',
          'levelsAsked.materials',
          'The thing would change its look when the game switches levels.',
          asked(`Levels show the same materials${levels.sameBones ? ' and follow the same bones' : ''} as the first.`),
        )
      : []),
  ]
}
