import type { Contradiction } from './contradictions.ts'
import type { Rulebook } from './schema.ts'

type Path = Contradiction['path']

/**
 * Limits of a rulebook that leave nothing between them, and names that two things have.
 * @example limitsInOrder(rulebook) // []
 */
export const limitsInOrder = (rulebook: Rulebook): Contradiction[] => [
  ...ranges(rulebook),
  ...chainOfLevels(rulebook),
  ...codecsOfRoles(rulebook),
  ...shadings(rulebook),
  ...facingUnsaid(rulebook),
  ...twice(rulebook),
]

function ranges({ maps, kinds, markers }: Rulebook): Contradiction[] {
  const found: Contradiction[] = []
  const check = (path: Path, least: number, most: number | null, of: string): void => {
    if (most !== null && least > most)
      found.push({ path, message: `${of}: at least ${least} and at most ${most} leaves nothing` })
  }
  check(['maps', 'largestPixels'], maps.smallestPixels, maps.largestPixels, 'sides of maps in pixels')
  const power = 2 ** Math.ceil(Math.log2(maps.smallestPixels))
  if (maps.powersOfTwo && maps.smallestPixels <= maps.largestPixels && power > maps.largestPixels)
    found.push({
      path: ['maps', 'powersOfTwo'],
      message: `no power of two lies between ${maps.smallestPixels} and ${maps.largestPixels}`,
    })
  for (const [number, { id, solids }] of kinds.entries())
    if (solids?.massKilograms)
      check(
        ['kinds', number, 'solids', 'massKilograms'],
        solids.massKilograms.least,
        solids.massKilograms.most,
        `mass of the kind “${id}” in kg`,
      )
  for (const [number, { name, least, most, belowLowest }] of markers.entries()) {
    check(['markers', number, 'most'], least, most, `markers “${name}”`)
    if (belowLowest)
      check(['markers', number, 'belowLowest'], belowLowest.least, belowLowest.most, `“${name}” below the lowest point`)
  }
  return found
}

function chainOfLevels({ levels }: Rulebook): Contradiction[] {
  return levels.chain.flatMap((level, number): Contradiction[] => {
    const before = levels.chain[number - 1]
    if (!before) return []
    const path = ['levels', 'chain', number]
    if (level.level <= before.level)
      return [{ path, message: `level ${level.level} comes after level ${before.level}` }]
    if (level.fromDistance <= before.fromDistance)
      return [{ path, message: `level ${level.level} is shown no farther away than level ${before.level}` }]
    return level.mostShare > before.mostShare
      ? [{ path, message: `level ${level.level} may have more triangles than level ${before.level}` }]
      : []
  })
}

const codecsOfRoles = ({ maps }: Rulebook): Contradiction[] =>
  maps.roles.flatMap(({ role, codecs, preferred, whenOpaque }, number) =>
    [preferred, whenOpaque].flatMap((codec, which) =>
      codec === null || codecs.includes(codec)
        ? []
        : [
            {
              path: ['maps', 'roles', number, which === 0 ? 'preferred' : 'whenOpaque'],
              message: `“${role}” maps are not read as ${codec}`,
            },
          ],
    ),
  )

const shadings = ({ materials }: Rulebook): Contradiction[] =>
  materials.shadingModels.flatMap(({ name, requires, forbids }, number) =>
    requires
      .filter((role) => forbids.includes(role))
      .map((role) => ({
        path: ['materials', 'shadingModels', number],
        message: `the shading “${name}” needs “${role}” maps and forbids them`,
      })),
  )

/** How a thing turns to who looks, where nothing says that it does. */
const facingUnsaid = ({ kinds }: Rulebook): Contradiction[] =>
  kinds.flatMap(({ id, mesh }, number) =>
    mesh?.facing && !mesh.facesViewer
      ? [
          {
            path: ['kinds', number, 'mesh', 'facing'],
            message: `the kind “${id}” says how it turns to the viewer, and does not face them`,
          },
        ]
      : [],
  )

function twice({ kinds, materials, markers, points }: Rulebook): Contradiction[] {
  const lists: [Path, string, string[]][] = [
    [['kinds'], 'kinds have the id', kinds.map(({ id }) => id)],
    [['materials', 'surfaces'], 'surfaces are called', materials.surfaces.map(({ name }) => name)],
    [['materials', 'flags'], 'flags are called', materials.flags.map(({ name }) => name)],
    [['materials', 'shadingModels'], 'shadings are called', materials.shadingModels.map(({ name }) => name)],
    [['markers'], 'markers are called', markers.map(({ name }) => name)],
    [['points', 'joins'], 'joins are called', points.joins.map(({ name }) => name)],
  ]
  return lists.flatMap(([path, are, names]) =>
    names.flatMap((name, number) =>
      names.indexOf(name) === number ? [] : [{ path: [...path, number], message: `two ${are} “${name}”` }],
    ),
  )
}
