import { turningWords } from '../../item/turning.ts'
import { formatCount } from '../../support/wording.ts'
import { tellsBodies } from '../body-names.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { ofKinds, type RuleSentence, type SentencesOf } from './sentence.ts'

/**
 * Triangles, corners and sections of each kind, and what else its mesh has to be.
 * @example const fields = meshSentences(rulebook).map(({ field }) => field)
 */
export const meshSentences: SentencesOf = (rulebook) => [
  ...ofKinds(
    rulebook,
    'mesh',
    'mesh.triangles',
    'The game sets its frame time aside for so many a thing.',
    ({ mesh }) => (mesh && mesh.halfBlocks === null ? `At most ${formatCount(mesh.triangles)} triangles.` : null),
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.withSolids', 'Both are kept in the same memory.', ({ mesh }) =>
    mesh?.withSolids ? `At most ${formatCount(mesh.withSolids)} triangles with those of the solids.` : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.cornersPerPart', 'Corners are numbered with so many bits.', ({ mesh }) =>
    mesh && mesh.halfBlocks === null ? `At most ${formatCount(mesh.cornersPerPart)} corners a part.` : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.sections', 'It draws a section at a time, from a list of so many.', ({ mesh }) =>
    mesh?.sections
      ? `At most ${mesh.sections.most} sections, which are triangles of one material and part, of ` +
        `${formatCount(mesh.sections.corners)} corners each.`
      : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.halfBlocks', 'Each is kept as a thing of its own.', ({ mesh }) =>
    mesh?.halfBlocks ? `At most ${formatCount(mesh.halfBlocks)} half-blocks, two for each triangle.` : null,
  ),
  ...halfBlockSentences(rulebook),
  ...ofKinds(
    rulebook,
    'mesh',
    'mesh.oneNodePerObject',
    'What is one thing is picked, hidden and moved at once.',
    ({ mesh }) => (mesh?.oneNodePerObject ? 'One node for each connected object is asked for.' : null),
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.facesViewer', 'It is turned to whoever looks.', ({ mesh }) =>
    mesh?.facesViewer ? 'It is flat and always faces the viewer.' : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.facing', 'It is one picture wherever it is seen from.', ({ mesh }) =>
    mesh?.facing ? facingSentence(mesh.facing) : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.closedSurfaces', 'What is inside and outside has to be told apart.', ({ mesh }) =>
    mesh?.closedSurfaces ? 'Its surfaces are closed.' : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'faceRoles', 'Bodies are cut out of each other before they are walked on.', (kind) =>
    tellsBodies(rulebook, kind) ? bodiesSentence(rulebook, kind) : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.shortestEdge', 'What is finer falls out where the game cuts it.', ({ mesh }) =>
    (mesh?.shortestEdge ?? null) === null
      ? null
      : `No edge is shorter than ${mesh?.shortestEdge} ${rulebook.space.unit.plural}.`,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh.losesUVs', 'Textures lie on it by its place in the world.', ({ mesh }) =>
    mesh?.losesUVs ? 'UVs are not read.' : null,
  ),
  ...ofKinds(rulebook, 'mesh', 'mesh', 'It is shown on what is there already.', ({ mesh }) =>
    mesh ? null : 'It has no mesh, only looks.',
  ),
  ...ofKinds(rulebook, 'mesh', 'models', 'It is seen in several ways, and each is a mesh of its own.', ({ models }) =>
    models.length > 1 ? `It has ${models.length} models: ${models.join(' and ')}.` : null,
  ),
]

/** What half-blocks have to be, whatever the kind. */
function halfBlockSentences({ halfBlocks, space }: Rulebook): RuleSentence[] {
  if (!halfBlocks) return []
  const of = (field: string, sentence: string, why: string): RuleSentence => ({
    topic: 'mesh',
    field: `halfBlocks.${field}`,
    kinds: null,
    sentence,
    why,
  })
  return [
    of(
      'shortestEdge',
      `No side of a half-block is under ${halfBlocks.shortestEdge} ${space.unit.plural}.`,
      'Smaller ones fall through the grid.',
    ),
    of(
      'accuracyShare',
      `Put together again, half-blocks lie within ${halfBlocks.accuracyShare} of the item’s size.`,
      'Gaps between them are seen.',
    ),
    of('mostTrays', `At most ${halfBlocks.mostTrays} trays, each with one finish.`, 'So many stand beside the board.'),
  ]
}

/** Which sorts of bodies there are, and what each is called. */
function bodiesSentence({ bodies }: Rulebook, { faceRoles }: Kind): string {
  const does = { solid: 'stands there', hollow: 'is cut out of what stands there', trim: 'is only seen' }
  const said = faceRoles.map((role) => `“${bodies?.[role].replace('{part}', '…') ?? role}” ${does[role]}`)
  return `What is named ${said.join(', ')}.`
}

function facingSentence({ turns, aboveHead, throwsShadow }: NonNullable<NonNullable<Kind['mesh']>['facing']>): string {
  return [
    `It turns ${turns.map((turning) => turningWords[turning]).join(' or ')}`,
    ...(aboveHead ? ['hangs over a figure’s head'] : []),
    ...(throwsShadow ? [] : ['throws no shadow']),
  ]
    .join(', ')
    .concat('.')
}
