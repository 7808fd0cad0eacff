import { catalogueDoubts } from './catalogue/doubts.ts'
import type { Contradiction } from './contradictions.ts'
import type { Rulebook } from './schema.ts'

/**
 * What of a rulebook is probably not meant: it can be followed, and something of it never comes about. Each with its
 * place and a sentence.
 *
 * @example doubtsAbout(rulebook).map(({ path, message }) => `${path.join('.')}: ${message}`)
 */
export const doubtsAbout = (rulebook: Rulebook): Contradiction[] => [
  ...unusedRoles(rulebook),
  ...meantTwice(rulebook),
  ...moreAloneThanWithSolids(rulebook),
  ...catalogueDoubts(rulebook),
]

/** A role that every shading forbids is shown by nothing. */
const unusedRoles = ({ maps, materials }: Rulebook): Contradiction[] =>
  maps.roles.flatMap(({ role }, number) =>
    materials.shadingModels.length > 0 && materials.shadingModels.every(({ forbids }) => forbids.includes(role))
      ? [{ path: ['maps', 'roles', number], message: `no shading shows “${role}” maps: each forbids them` }]
      : [],
  )

/** Of two roles whose channels mean the same the first is made. */
function meantTwice({ maps }: Rulebook): Contradiction[] {
  const first = new Map<string, string>()
  return maps.roles.flatMap(({ role, channels }, number): Contradiction[] => {
    const meant = Object.values(channels).filter((meaning) => meaning !== null && meaning !== 'full')
    const known = meant.flatMap((meaning) => first.get(meaning) ?? [])
    for (const meaning of meant) if (!first.has(meaning)) first.set(meaning, role)
    return known.length > 0 && known.length === meant.length
      ? [{ path: ['maps', 'roles', number], message: `“${role}” maps say the same as “${known[0]}” maps` }]
      : []
  })
}

const moreAloneThanWithSolids = ({ kinds }: Rulebook): Contradiction[] =>
  kinds.flatMap(({ id, mesh }, number) =>
    mesh?.withSolids && mesh.withSolids < mesh.triangles
      ? [
          {
            path: ['kinds', number, 'mesh', 'withSolids'],
            message: `the kind “${id}” may have ${mesh.triangles} triangles, and ${mesh.withSolids} with its solids`,
          },
        ]
      : [],
  )
