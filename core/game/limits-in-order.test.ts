import { describe, expect, it } from 'vitest'
import { builtInRulebooks, rulebookById } from './load.ts'
import { doubtsAbout } from './doubts.ts'
import { rulebookSchema, type Rulebook } from './schema.ts'

/** A copy of the demo's game with something changed. */
function changed(change: (rulebook: Rulebook) => void): Rulebook {
  const copy = structuredClone(rulebookById('tarn-and-tiller'))
  change(copy)
  return copy
}

const contradictions: [string, (rulebook: Rulebook) => void, string, RegExp][] = [
  [
    'the smallest map above the largest',
    ({ maps }) => void (maps.smallestPixels = 2048),
    'maps.largestPixels',
    /leaves nothing/,
  ],
  [
    'sides between which there is no power of two',
    ({ maps }) => void Object.assign(maps, { smallestPixels: 65, largestPixels: 127 }),
    'maps.powersOfTwo',
    /no power of two lies between 65 and 127/,
  ],
  [
    'a least mass above the most',
    ({ kinds }) => {
      const loose = kinds.find(({ solids }) => solids?.massKilograms)
      if (loose?.solids) loose.solids.massKilograms = { least: 5, most: 4 }
    },
    'kinds.1.solids.massKilograms',
    /in kg: at least 5 and at most 4/,
  ],
  [
    'more markers needed than may be',
    ({ markers }) => void Object.assign(markers[0], { least: 3, most: 1 }),
    'markers.0.most',
    /at least 3/,
  ],
  [
    'two joins of one name',
    ({ points }) => void points.joins.push({ ...points.joins[0] }),
    'points.joins.4',
    /two joins are called/,
  ],
  [
    'a way of turning to who looks for what faces nobody',
    ({ kinds }) => void (kinds.flatMap(({ mesh }) => (mesh?.facing ? [mesh] : []))[0].facesViewer = false),
    'kinds.6.mesh.facing',
    /the kind “sign” says how it turns to the viewer, and does not face them/,
  ],
  [
    'a farther level that is shown nearer',
    ({ levels }) => void (levels.chain[1].fromDistance = 1),
    'levels.chain.1',
    /no farther away than level 1/,
  ],
  [
    'a farther level with more triangles',
    ({ levels }) => void (levels.chain[1].mostShare = 0.9),
    'levels.chain.1',
    /more triangles than level 1/,
  ],
  [
    'a preferred codec that is not read',
    ({ maps }) => void (maps.roles[0].preferred = 'bc5'),
    'maps.roles.0.preferred',
    /not read as bc5/,
  ],
  [
    'a shading that needs what it forbids',
    ({ materials }) => void materials.shadingModels[0].forbids.push(...materials.shadingModels[0].requires),
    'materials.shadingModels.0',
    /needs “\w+” maps and forbids them/,
  ],
  [
    'two kinds of one id',
    ({ kinds }) => void kinds.push(structuredClone(kinds[0])),
    'kinds.12',
    /two kinds have the id “prop”/,
  ],
]

describe('paths of a rulebook', () => {
  it.each(['../{item}.glb', '/etc/{item}.glb', 'C:\\games\\{item}.glb', 'items/../../{item}.glb'])(
    'are refused where they lead out of the pack: %s',
    (path) => {
      const places = (change: (rulebook: Rulebook) => void) =>
        rulebookSchema
          .safeParse(changed(change))
          .error?.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`)
      expect(places(({ files }) => void (files.paths.mesh = path))).toContain(
        'files.paths.mesh: it leads out of the pack',
      )
      expect(places(({ files }) => void (files.manifest.path = path))).toContain(
        'files.manifest.path: it leads out of the pack',
      )
    },
  )
})

describe('limits of a rulebook', () => {
  it.each(contradictions)('are refused with their place: %s', (_what, change, place, message) => {
    const { error } = rulebookSchema.safeParse(changed(change))
    expect(error?.issues.map(({ path }) => path.join('.'))).toContain(place)
    expect(error?.issues.find(({ path }) => path.join('.') === place)?.message).toMatch(message)
  })
})

describe('doubts about a rulebook', () => {
  it('are none about the built-in ones', () => {
    expect(builtInRulebooks().flatMap(doubtsAbout)).toEqual([])
  })
  it('name a role that nothing shows, a role that says what another says, and solids that cost more than they may', () => {
    const odd = changed(({ maps, materials, kinds }) => {
      const [first] = maps.roles
      maps.roles.push({ ...structuredClone(first), role: 'second', ending: '_two' })
      for (const shading of materials.shadingModels) shading.forbids.push('second')
      if (kinds[0].mesh) kinds[0].mesh.withSolids = 100
    })
    expect(rulebookSchema.safeParse(odd).success).toBe(true)
    const doubts = doubtsAbout(odd)
    expect(doubts.map(({ path }) => path.join('.'))).toEqual([
      'maps.roles.3',
      'maps.roles.3',
      'kinds.0.mesh.withSolids',
    ])
    expect(doubts.map(({ message }) => message).join()).toMatch(
      /each forbids them.*say the same as.*100 with its solids/,
    )
  })
})
