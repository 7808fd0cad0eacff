import { describe, expect, it } from 'vitest'
import { contradictions } from './contradictions.ts'
import { builtInRulebooks, rulebookById } from './load.ts'
import type { Rulebook } from './schema.ts'

// A modder's own rulebook asks for all kinds of things. What cannot be is told before anything is made by it.

const tarn = rulebookById('tarn-and-tiller')
const parish = rulebookById('pegboard-parish')

/** What is wrong with a rulebook that was changed: where, and in what words. */
function wrong(change: (rulebook: Rulebook) => unknown, from: Rulebook = tarn): string[] {
  const changed = structuredClone(from)
  change(changed)
  return contradictions(changed).map(({ path, message }) => `${path.join('.')}: ${message}`)
}

const cases: [what: string, change: (rulebook: Rulebook) => unknown, told: RegExp][] = [
  [
    'two roles of maps with one name',
    ({ maps }) => (maps.roles[1].role = maps.roles[0].role),
    /^maps\.roles: two roles have one name$/,
  ],
  [
    'a shading that needs a map which the game does not have',
    ({ materials }) => materials.shadingModels[0].requires.push('glitter'),
    /^materials\.shadingModels\.0: the shading “.+” speaks of “glitter” maps, and there is no such role$/,
  ],
  [
    'a shading that needs and forbids one map',
    ({ materials, maps }) => {
      materials.shadingModels[0].requires = [maps.roles[0].role]
      materials.shadingModels[0].forbids = [maps.roles[0].role]
    },
    /^materials\.shadingModels\.0: the shading “.+” needs “.+” maps and forbids them$/,
  ],
  [
    'a shading with a flag that is none',
    ({ materials }) => (materials.shadingModels[0].flag = 'sparkling'),
    /^materials\.shadingModels\.0\.flag: .+“sparkling”, and there is no such flag$/,
  ],
  [
    'solids in a layer that is none',
    ({ solids }) => solids.defaultLayers.push('ghosts'),
    /^solids\.defaultLayers: there is no layer “ghosts”$/,
  ],
  [
    'a bone’s name without the part',
    ({ points }) => (points.bone = 'bone'),
    /^points\.bone: every bone would have the same name: \{part\} is not in it$/,
  ],
  [
    'a path that climbs out of the pack',
    ({ files }) => (files.paths.mesh = '../{item}.glb'),
    /^files\.paths\.mesh: it leads out of the pack$/,
  ],
  [
    'a manifest beside the pack',
    ({ files }) => (files.manifest.path = '/etc/manifest.json'),
    /^files\.manifest\.path: it leads out of the pack$/,
  ],
  [
    'one path for the meshes of all items',
    ({ files }) => (files.paths.mesh = 'items/mesh.glb'),
    /^files\.paths\.mesh: two items would have one path: it needs \{item\} or \{slot\}$/,
  ],
  [
    'one path for all maps of an item',
    ({ files }) => (files.paths.map = 'items/{item}/map.dds'),
    /^files\.paths\.map: two of one item would have one path: it needs \{map\}$/,
  ],
  [
    'a path by slots in a game without them',
    ({ files }) => (files.paths.entry = 'items/{slot}.json'),
    /^files\.paths\.entry: it speaks of a slot, and the game has none$/,
  ],
  [
    'bones in a format that holds none',
    ({ files }) => (files.mesh.writer = 'obj'),
    /^kinds\.\d+\.bones: OBJ holds no bones, and the kind “.+” bends over some$/,
  ],
  [
    'lights in a format that holds none',
    ({ files, kinds }) => {
      files.mesh.writer = 'obj'
      kinds[0].mostLights = 2
    },
    /^kinds\.0\.mostLights: OBJ holds no lights, and the kind “prop” has some$/,
  ],
  [
    'up is down in a format that cannot say so',
    ({ files, space }) => {
      files.mesh.writer = 'dae'
      space.up = '-y'
    },
    /^space\.up: DAE declares \+x, \+y or \+z as up, and not -y$/,
  ],
  [
    'blocks in a format of plain pixels',
    ({ files }) => (files.texture.writer = 'png'),
    /^maps\.roles\.0\.codecs: PNG holds plain pixels, and “.+” maps ask for blocks$/,
  ],
  [
    'mipmaps in a format that holds none',
    ({ files }) => (files.texture.writer = 'tga'),
    /^maps\.mipmaps: TGA holds no mipmaps$/,
  ],
  [
    'plain pixels in a format of blocks',
    ({ maps }) => (maps.roles[0].codecs = ['none']),
    /^maps\.roles\.0\.codecs: DDS is written in blocks, and “.+” maps ask for none$/,
  ],
  [
    'a codec preferred that is not read',
    ({ maps }) => {
      maps.roles[0].codecs = ['bc1']
      maps.roles[0].preferred = 'bc7'
    },
    /^maps\.roles\.0\.preferred: “.+” maps are not read as bc7$/,
  ],
  [
    'half-blocks in a format of meshes',
    (rulebook) => (rulebook.halfBlocks = structuredClone(parish.halfBlocks)),
    /^halfBlocks: GLB holds no half-blocks$/,
  ],
  [
    'maps that may be no size',
    ({ maps }) => {
      maps.smallestPixels = 2048
      maps.largestPixels = 1024
    },
    /^maps\.largestPixels: sides of maps in pixels: at least 2048 and at most 1024 leaves nothing$/,
  ],
  [
    'powers of two between which none lies',
    ({ maps }) => {
      maps.smallestPixels = 600
      maps.largestPixels = 900
    },
    /^maps\.powersOfTwo: no power of two lies between 600 and 900$/,
  ],
  [
    'a coarser level with more triangles',
    ({ levels }) => (levels.chain[1].mostShare = 1),
    /^levels\.chain\.1: level 2 may have more triangles than level 1$/,
  ],
  [
    'a coarser level that is nearer',
    ({ levels }) => (levels.chain[1].fromDistance = 0),
    /^levels\.chain\.1: level 2 is shown no farther away than level 1$/,
  ],
  ['two kinds of one id', ({ kinds }) => (kinds[1].id = kinds[0].id), /^kinds\.1: two kinds have the id “prop”$/],
  [
    'names of solids that the game’s own pattern refuses',
    ({ solids }) => (solids.name = 'SOLID {shape} {nn}'),
    /^solids\.name: this makes “.+”, which is no name by names\.pattern/,
  ],
  [
    'endings of maps that the pattern refuses',
    ({ maps }) => (maps.roles[0].ending = ' COLOUR'),
    /^maps\.roles\.0\.ending: this makes “elm COLOUR”, which is no name/,
  ],
  [
    'an entry’s line under a word of its files',
    ({ catalogue }) => (catalogue.fields[0].key = 'events'),
    /^catalogue\.fields\.0\.key: an entry has “events” for something else already$/,
  ],
  [
    'a line that says unasked what it may not say',
    ({ catalogue }) => {
      const price = catalogue.fields.find(({ value }) => value.sort === 'number')
      if (price) price.usual = -5
    },
    /^catalogue\.fields\.\d+\.usual: “price” is -5; the game takes 1 to 5,000 shillings$/,
  ],
  [
    'an event that follows on nothing',
    ({ behaviour }) => {
      const follows = behaviour.events.when.find(({ cause }) => cause === 'follows')
      if (follows) follows.after = 'explode'
    },
    /^behaviour\.events\.when\.\d+\.after: “.+” follows on “explode”, which no event does$/,
  ],
  [
    'a donor asked for where nothing may be like one',
    ({ behaviour, kinds }) => {
      behaviour.likeDonor = false
      kinds[0].donorAsked = true
    },
    /^kinds\.0\.donorAsked: the kind “prop” has to be like a donor, and nothing may$/,
  ],
  [
    'a stock entry with a price that the game does not take',
    ({ stock }) => (stock.entries[0].fields['price'] = 1e6),
    /^stock\.entries\.0: “.+”: “price” is 1,000,000; the game takes/,
  ],
  [
    'a bone that hangs on one which is not listed before it',
    ({ stock }) => {
      const [skeleton] = stock.skeletons
      if (skeleton) skeleton.bones[0].parent = 'tail'
    },
    /^stock\.skeletons\.0\.bones\.0: “.+” hangs on “tail”, which is not listed before it$/,
  ],
]

describe('rulebooks that ship', () => {
  it.each(builtInRulebooks().map((rulebook) => [rulebook.id, rulebook] as const))(
    'ask for nothing that cannot be: %s',
    (_id, rulebook) => {
      expect(contradictions(rulebook)).toEqual([])
    },
  )
})

describe('a rulebook that asks for', () => {
  it.each(cases)('%s is told where and why', (_what, change, told) => {
    expect(wrong(change).join('\n')).toMatch(new RegExp(told.source, 'm'))
  })

  it('maps of half-blocks, or for a list of parts without them, is told', () => {
    expect(wrong((rulebook) => (rulebook.halfBlocks = null), parish)[0]).toBe(
      'halfBlocks: a list of parts is made of half-blocks, and none are described',
    )
    expect(wrong(({ maps }) => (maps.roles = structuredClone(tarn.maps.roles)), parish).join('\n')).toContain(
      'half-blocks have no UVs, and the game asks for maps',
    )
    const odd = wrong(({ kinds }) => {
      const mesh = kinds.find((kind) => kind.mesh)?.mesh
      if (mesh?.halfBlocks) mesh.halfBlocks += 1
    }, parish)
    expect(odd.join('\n')).toMatch(/two half-blocks make a triangle: \d+ triangles are \d+, not \d+/)
  })

  it('several of these is told all of them', () => {
    const told = wrong(({ maps, solids, points }) => {
      maps.roles[1].role = maps.roles[0].role
      solids.defaultLayers.push('ghosts')
      points.bone = 'bone'
    })
    for (const start of ['maps.roles', 'solids.defaultLayers', 'points.bone'])
      expect(told.some((each) => each.startsWith(`${start}: `))).toBe(true)
  })
})
