import { formatCount, plural } from '../../support/wording.ts'
import { ofKinds, type SentencesOf } from './sentence.ts'

/**
 * What is bumped into.
 * @example const fields = solidsSentences(rulebook).map(({ field }) => field)
 */
export const solidsSentences: SentencesOf = (rulebook) => {
  const { solids } = rulebook
  return [
    ...ofKinds(rulebook, 'solids', 'solids', 'What one may not bump into is walked through.', (kind) =>
      kind.solids
        ? `Solids may be ${kind.solids.shapes.join(', ')}; ${kind.solids.fixed ? 'it stands fast' : 'it is loose'}.`
        : rulebook.halfBlocks
          ? 'Its half-blocks are solid themselves.'
          : 'It has no solids.',
    ),
    ...ofKinds(rulebook, 'solids', 'solids.neededAboveTriangles', 'The figure would walk through it.', (kind) =>
      kind.solids && kind.solids.neededAboveTriangles !== null
        ? `A solid is needed above ${formatCount(kind.solids.neededAboveTriangles)} triangles.`
        : null,
    ),
    ...ofKinds(
      rulebook,
      'solids',
      'solids.massKilograms',
      'Lighter things fly off, heavier ones push everything away.',
      (kind) =>
        kind.solids?.massKilograms
          ? `It weighs ${kind.solids.massKilograms.least} to ${kind.solids.massKilograms.most} kg.`
          : null,
    ),
    ...ofKinds(rulebook, 'solids', 'solids.count', 'Every body is tried against every solid.', (kind) =>
      kind.solids
        ? `At most ${plural(solids.mostPerItem, 'solid')}, hulls of up to ${solids.hullPoints} points, named ` +
          `${solids.name}${solids.childOfPart ? ', below the part they belong to' : ''}.`
        : null,
    ),
    ...(solids.layers.length > 0
      ? ofKinds(rulebook, 'solids', 'solids.layers', 'What bumps into what is told by layers.', (kind) =>
          kind.solids
            ? `Layers: ${solids.layers.map(({ name, meaning }) => `${name} (${meaning.replace(/\.$/, '').toLowerCase()})`).join(', ')}.`
            : null,
        )
      : []),
  ]
}
