import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { mirroredGames } from '../core/test-support/mirrored-games.ts'
import { tarnAndTiller } from '../core/test-support/prepared-gate.ts'
import { call } from './test-support.ts'

const folder = mkdtempSync(join(tmpdir(), 'own-game-'))
const at = (name: string): string => join(folder, name)

/**
 * A game of nobody here: lying on its side, in metres, glTF with PNG, its own words for maps, flags, surfaces and
 * kinds.
 */
const own = {
  ...structuredClone(tarnAndTiller),
  id: 'marsh-post',
  title: 'Marsh Post',
  version: '0.3',
  space: {
    ...tarnAndTiller.space,
    up: '+z',
    forward: '+x',
    handedness: 'left',
    unit: { name: 'yard', plural: 'yards', metres: 0.9144 },
  },
  files: {
    mesh: { writer: 'gltf', ending: '.gltf', images: 'none' },
    texture: { writer: 'png', ending: '.png' },
    archive: { writer: 'zip-stored', folders: true, largestBytes: 1e8 },
    manifest: { path: 'manifest.json', checksums: 'none' },
    paths: {
      mesh: '{category}/{item}/{item}.gltf',
      look: '{category}/{item}/{look}.json',
      map: '{category}/{item}/{map}.png',
      entry: '{category}/{item}/entry.json',
    },
  },
  maps: {
    powersOfTwo: true,
    smallestPixels: 2,
    largestPixels: 512,
    widestAspect: 8,
    mipmaps: 'none',
    roles: [
      {
        role: 'diffuse',
        title: 'Diffuse',
        ending: '_d',
        colourSpace: 'srgb',
        codecs: ['none'],
        preferred: 'none',
        whenOpaque: null,
        channels: { r: 'red', g: 'green', b: 'blue', a: 'opacity' },
        normalY: null,
      },
      {
        role: 'sheen',
        title: 'Sheen',
        ending: '_s',
        colourSpace: 'data',
        codecs: ['none'],
        preferred: 'none',
        whenOpaque: null,
        channels: { r: 'metalness', g: 'gloss', b: 'occlusion', a: null },
        normalY: null,
      },
    ],
  },
  materials: {
    naming: { form: 'plain' },
    largestCount: 6,
    surfaces: [
      { name: 'hard', density: 2000, friction: 0.5, bounce: 0.2, hints: ['iron', 'bronze', 'stone'] },
      { name: 'soft', density: 500, friction: 0.7, bounce: 0.1, hints: ['wood', 'timber'] },
    ],
    flags: [{ name: 'twofold', meaning: 'Seen from both sides.', means: 'two-sided' }],
    shadingModels: [
      { name: 'dull', title: 'Diffuse alone', requires: ['diffuse'], forbids: ['sheen'] },
      { name: 'shiny', title: 'Diffuse and sheen', requires: ['diffuse', 'sheen'], forbids: [] },
    ],
  },
  kinds: tarnAndTiller.kinds
    .filter(({ id }) => id === 'prop' || id === 'mover')
    .map((kind) => ({
      ...kind,
      id: kind.id === 'prop' ? 'thing' : 'engine',
      category: 'stuff',
      textureMemoryBytes: 5e7,
    })),
  stock: { donors: [], objects: [], textures: [] },
}

describe('a game in one file of one’s own', () => {
  it('works from --rulebook to trial without a line of code', async () => {
    writeFileSync(at('marsh.json'), JSON.stringify(own))
    expect((await call('rulebook', at('marsh.json'), '--json')).json().title).toBe('Marsh Post')
    const bell = 'demo/sources/mooring_bell'
    const game = ['--rulebook', at('marsh.json')]
    expect((await call('prepare', bell, ...game, '--kind', 'engine', '--out', at('bell.zip'))).code).toBe(0)
    const checked = (await call('check', at('bell.zip'), '--json')).json()
    expect(checked).toMatchObject({ rulebook: 'marsh-post 0.3', blocks: 0, risky: 0 })
    expect((await call('pack', at('bell.zip'), '--out', at('pack.zip'))).code).toBe(0)
    const trial = await call('trial', at('pack.zip'), ...game, '--json')
    expect(trial.json().log.filter(({ level }: { level: string }) => level !== 'told')).toEqual([])
    expect([trial.code, trial.json().items[0].textures]).toEqual([0, 6])
    const files = unzipSync(new Uint8Array(readFileSync(at('pack.zip'))))
    const paths = Object.keys(files)
    expect(paths).toEqual(
      expect.arrayContaining(['stuff/', 'stuff/mooring_bell/mooring_bell.gltf', 'stuff/mooring_bell/mooring_bell.bin']),
    )
    expect(paths.filter((path) => path.endsWith('_s.png'))).toHaveLength(3)
    const look = JSON.parse(new TextDecoder().decode(files['stuff/mooring_bell/plain.json']))
    expect(look.materials['bell_bronze']).toMatchObject({ shading: 'shiny', surface: 'hard', flags: [] })
  })

  it('has its packs checked and opened again as its own', async () => {
    const game = ['--rulebook', at('marsh.json')]
    const checked = (await call('check', at('pack.zip'), ...game, '--json')).json()
    expect(checked.items.map(({ kind }: { kind: string }) => kind)).toEqual(['engine'])
    expect(checked).toMatchObject({ blocks: 0, risky: 0 })
    expect((await call('take', at('pack.zip'), ...game, '--item', 'mooring_bell', '--out', at('taken.zip'))).code).toBe(
      0,
    )
    expect((await call('pack', at('taken.zip'), '--out', at('again.zip'))).code).toBeLessThan(2)
    const unknown = await call('take', at('pack.zip'))
    expect([unknown.code, unknown.complained]).toEqual([2, expect.stringMatching(/marsh-post.*not known here/)])
  })

  it('works where names, paths, the manifest and solids are called otherwise', async () => {
    const game = {
      ...own,
      id: 'reed-way',
      names: { pattern: '[a-z][a-z0-9.-]*', described: 'a-z, 0-9, . and -', longest: 24, reserved: [] },
      maps: { ...own.maps, roles: own.maps.roles.map((role) => ({ ...role, ending: role.ending.replace('_', '-') })) },
      files: {
        ...own.files,
        mesh: { writer: 'obj', ending: '.obj', images: 'none' },
        manifest: { path: 'about.json', checksums: 'sha256' },
        paths: {
          mesh: '{category}/{item}.obj',
          look: '{category}/{item}.{look}.json',
          map: '{category}/{map}.png',
          entry: '{category}/{item}.json',
        },
      },
      solids: { ...tarnAndTiller.solids, name: 'hit.{shape}.{nn}' },
      levels: {
        ...tarnAndTiller.levels,
        nameSuffix: '-far{level}',
        shadow: { ...tarnAndTiller.levels.shadow, nameSuffix: '-dark' },
      },
      kinds: tarnAndTiller.kinds
        .filter(({ id }) => id === 'loose')
        .map((kind) => ({ ...kind, category: 'stuff', textureMemoryBytes: 5e7 })),
    }
    writeFileSync(at('reed.json'), JSON.stringify(game))
    const named = ['--rulebook', at('reed.json')]
    const source = 'demo/sources/channel_buoy'
    expect((await call('prepare', source, ...named, '--kind', 'loose', '--out', at('reed.zip'))).code).toBe(0)
    expect((await call('pack', at('reed.zip'), '--out', at('reed-pack.zip'))).code).toBe(0)
    expect((await call('check', at('reed-pack.zip'), ...named, '--json')).json()).toMatchObject({ blocks: 0, risky: 0 })
    const trial = await call('trial', at('reed-pack.zip'), ...named, '--json')
    expect(trial.json().log.filter(({ level }: { level: string }) => level !== 'told')).toEqual([])
    expect(trial.json().items[0]).toMatchObject({ name: 'channel-buoy', solids: expect.any(Number) })
    const taken = await call('take', at('reed-pack.zip'), ...named, '--item', 'channel-buoy', '--out', at('again.zip'))
    expect(taken.code).toBe(0)
  })

  it.each(mirroredGames.map((game) => [game.id, game] as const))(
    'takes the bell from source to trial for %s',
    async (id, game) => {
      writeFileSync(at(`${id}.json`), JSON.stringify({ ...game, stock: own.stock }))
      const named = ['--rulebook', at(`${id}.json`)]
      const source = 'demo/sources/mooring_bell'
      expect((await call('prepare', source, ...named, '--kind', 'mover', '--out', at('crate.zip'))).code).toBe(0)
      expect((await call('pack', at('crate.zip'), '--out', at(`${id}-pack.zip`))).code).toBe(0)
      expect((await call('check', at(`${id}-pack.zip`), ...named, '--json')).json()).toMatchObject({
        blocks: 0,
        risky: 0,
      })
      expect((await call('trial', at(`${id}-pack.zip`), ...named)).code).toBe(0)
    },
  )

  it('lies loose in a folder, where check and trial find it; some items alone; what changed is told', async () => {
    const loose = mirroredGames.find(({ files }) => files.archive.writer === 'folder')
    writeFileSync(at('loose.json'), JSON.stringify({ ...loose, stock: own.stock }))
    const named = ['--rulebook', at('loose.json')]
    expect(
      (await call('prepare', 'demo/sources/mooring_bell', ...named, '--kind', 'mover', '--out', at('crate.zip'))).code,
    ).toBe(0)
    const first = await call('pack', at('crate.zip'), '--out', `${at('game')}/`, '--json')
    expect(first.json().changes).toBeNull()
    expect(existsSync(at('game/contents.txt'))).toBe(true)
    expect(first.json().files[0]).toMatchObject({ sort: 'manifest', path: 'contents.txt' })
    expect((await call('trial', at('game'), ...named, '--json')).json()).toMatchObject({ loads: true })
    expect((await call('check', at('game'), ...named, '--json')).json()).toMatchObject({ blocks: 0, risky: 0 })
    const entry = first.json().files.find(({ sort }: { sort: string }) => sort === 'entry').path
    writeFileSync(at(`game/${entry}`), 'name: bell\n')
    expect((await call('trial', at('game'), ...named)).text).toMatch(/entry.unreadable/)
    const second = await call('pack', at('crate.zip'), '--out', at('game'), '--item', 'mooring_bell', '--json')
    expect(second.json().changes).toEqual([expect.objectContaining({ path: entry, change: 'other' })])
    expect((await call('pack', at('crate.zip'), '--out', at('game'), '--item', 'bell')).complained).toMatch(
      /no item “bell”.*mooring_bell/,
    )
    expect((await call('pack', at('crate.zip'), '--out', at('one.zip'))).code).toBe(0)
    const same = await call('pack', at('crate.zip'), '--out', at('two.zip'), '--over', at('one.zip'))
    expect([same.code, same.complained]).toEqual([2, expect.stringMatching(/nothing of it is new/)])
  })

  it('is refused where it contradicts itself, in one sentence', async () => {
    const refused = async (change: object): Promise<string> => {
      writeFileSync(at('wrong.json'), JSON.stringify({ ...own, ...change }))
      const { code, complained } = await call('rulebook', at('wrong.json'))
      expect(code).toBe(2)
      return complained
    }
    const files = (part: object) => ({ files: { ...own.files, ...part } })
    expect(await refused(files({ mesh: { ...own.files.mesh, writer: 'dxf' } }))).toMatch(
      /no mesh is written as that; written are glb, gltf, obj/,
    )
    expect(await refused(files({ texture: { writer: 'dds', ending: '.dds' } }))).toMatch(
      /DDS is written in blocks, and “diffuse” maps ask for none/,
    )
    expect(await refused({ maps: { ...own.maps, mipmaps: 'all' } })).toMatch(/PNG holds no mipmaps/)
    expect(await refused({ maps: { ...own.maps, roles: own.maps.roles.slice(0, 1) } })).toMatch(
      /“dull” speaks of “sheen” maps/,
    )
    expect(await refused({ names: { ...own.names, pattern: '[a-z]+', described: 'letters' } })).toMatch(
      /solids.name: this makes “solid_box_01”, which is no name by names.pattern \(letters\)/,
    )
    expect(await refused({ names: { ...own.names, pattern: '[a-z' } })).toMatch(/this is no regular expression/)
    const bones = { bones: { most: 4, influences: 4, rigidPartPerBone: false } }
    const bending = own.kinds.map((kind) => ({ ...kind, ...bones }))
    expect(await refused({ ...files({ mesh: { ...own.files.mesh, writer: 'obj' } }), kinds: bending })).toMatch(
      /OBJ holds no bones/,
    )
    expect((await call('rulebook', at('nowhere.json'))).complained).toMatch(/no such file/)
  })
})
