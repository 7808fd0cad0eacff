import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { readGameFile } from '../core/crate/game-file.ts'
import { createDocument, createIO } from '../core/item/io.ts'
import { call } from './test-support.ts'

const folder = mkdtempSync(join(tmpdir(), 'stock-'))
const at = (name: string): string => join(folder, name)

describe('gentle-crate stock', () => {
  it('makes stock of meshes, pictures and donors, which is used wherever stock is', async () => {
    mkdirSync(at('things'))
    copyFileSync('demo/sources/mooring_bell/mooring_bell.glb', at('things/mooring_bell.glb'))
    copyFileSync('demo/sources/ferry_hull/deck boards.png', at('things/deck_col.png'))
    writeFileSync(at('things/readme.txt'), 'nothing')
    writeFileSync(
      at('things/donors.json'),
      JSON.stringify([{ id: 'old_bell', title: 'Old bell', surface: 'iron', toughness: 10, remains: 'nothing' }]),
    )
    const made = await call(
      'stock',
      'tarn-and-tiller',
      at('things'),
      '--host',
      'mooring_bell',
      '--out',
      at('tarn.zip'),
      '--json',
    )
    expect(made.code).toBe(0)
    expect(made.json()).toMatchObject({
      added: {
        objects: [{ id: 'mooring_bell', role: 'host' }],
        textures: [{ path: 'stock/deck_col.png', role: 'colour' }],
        donors: [{ id: 'old_bell' }],
      },
      passedOver: ['readme.txt'],
    })
    const { rulebook } = readGameFile(new Uint8Array(readFileSync(at('tarn.zip'))), 'tarn.zip').game
    // What was there stays.
    expect(rulebook.stock.objects.map(({ id }) => id)).toEqual(['ferry', 'davit', 'mooring_bell'])
    const bell = 'demo/sources/mooring_bell/mooring_bell.glb'
    for (const official of ['mooring_bell', 'ferry']) {
      const compared = await call('compare', bell, '--rulebook', at('tarn.zip'), '--official', official, '--json')
      const states = compared.json().parts.map(({ state }: { state: string }) => state)
      expect([official, states.includes('new')]).toEqual([official, official === 'ferry'])
    }
  })

  it('makes skeletons of bones, which a bender of that game stands on', async () => {
    const frame = createDocument('mast')
    const mast = frame.createNode('mast').setTranslation([0, 1, 0])
    mast.addChild(frame.createNode('mast_top').setTranslation([0, 2, 0]))
    frame.getRoot().listScenes()[0].addChild(mast)
    for (const buffer of frame.getRoot().listBuffers()) buffer.dispose()
    writeFileSync(at('mast.glb'), await createIO().writeBinary(frame))
    const made = await call('stock', 'tarn-and-tiller', at('mast.glb'), '--out', at('masts.zip'), '--json')
    expect(made.code).toBe(0)
    const { rulebook } = readGameFile(new Uint8Array(readFileSync(at('masts.zip'))), 'masts.zip').game
    // A metre is two spans; the game has +Y up itself.
    expect(rulebook.stock.skeletons.find(({ id }) => id === 'mast')?.bones).toMatchObject([
      { name: 'mast', parent: null, at: [0, 2, 0] },
      { name: 'mast_top', parent: 'mast', at: [0, 6, 0] },
    ])
    expect(rulebook.stock.skeletons.map(({ id }) => id)).toContain('awning_frame')
    expect(made.json().added.objects).toEqual([])
    const steps = [
      { id: 's1', step: 'scale-to-game', on: true, reason: '', parameters: { metresPerUnit: 1 } },
      {
        id: 's2',
        step: 'make-bones',
        on: true,
        reason: '',
        parameters: { from: 'stock', skeleton: 'mast', bones: [], bent: ['Cloth'] },
      },
    ]
    writeFileSync(at('preset.json'), JSON.stringify(steps))
    const awning = 'demo/sources/canvas_awning/canvas_awning.glb'
    const prepared = await call(
      'prepare',
      awning,
      ...['--rulebook', at('masts.zip'), '--kind', 'bender', '--preset', at('preset.json'), '--out', at('awning.zip')],
    )
    expect(prepared.code).toBe(0)
    const checked = await call('check', at('awning.zip'), '--json')
    const found = checked.json().items[0].findings.find(({ rule }: { rule: string }) => rule === 'bone-alone')
    expect(found.where).toBe('mast, mast_top')
  })

  it('takes packs of the game: their items become objects of a game begun from it', async () => {
    await call('rulebook', 'tarn-and-tiller', '--as', 'own-tarn', '--out', at('own.json'))
    const buoy = 'demo/sources/channel_buoy/channel_buoy.stl'
    const named = ['--rulebook', at('own.json')]
    await call('prepare', buoy, '--unit', 'mm', '--up', 'z', ...named, '--kind', 'loose', '--out', at('crate.zip'))
    expect((await call('pack', at('crate.zip'), '--out', at('pack.zip'))).code).toBe(0)
    const made = await call('stock', at('own.json'), at('pack.zip'), '--out', at('own.zip'))
    expect(made.text).toContain('object   channel_buoy (Channel buoy), official')
    const compared = await call('compare', buoy, '--rulebook', at('own.zip'), '--official', 'channel_buoy', '--json')
    expect(compared.code).toBeLessThan(2)
    expect((await call('rulebook', at('own.zip'))).code).toBe(0)
  })

  it('says what is of no use, and what is wrong in a donor', async () => {
    writeFileSync(at('only.txt'), 'x')
    const none = await call('stock', 'tarn-and-tiller', at('only.txt'), '--out', at('none.zip'))
    expect([none.code, none.complained]).toEqual([2, expect.stringMatching(/nothing for a stock in them/)])
    writeFileSync(at('donors.json'), '[{"id": "a"}]')
    const wrong = await call('stock', 'tarn-and-tiller', at('donors.json'), '--out', at('none.zip'))
    expect([wrong.code, wrong.complained]).toEqual([2, expect.stringMatching(/at 0\.title/)])
  })
})

describe('gentle-crate learn', () => {
  it('proposes a rulebook from a pack, which then prepares, packs and loads', async () => {
    const bell = 'demo/sources/mooring_bell/mooring_bell.glb'
    await call('prepare', bell, '--rulebook', 'hollin-keep', '--kind', 'furnishing', '--out', at('bell.zip'))
    expect((await call('pack', at('bell.zip'), '--out', at('bell-pack.zip'))).code).toBe(0)
    const learned = await call(
      'learn',
      at('bell-pack.zip'),
      '--known',
      'K-000.obj=2.2',
      '--leave',
      'kinds',
      '--as',
      'learned-keep',
      '--title',
      'Learned Keep',
      '--out',
      at('learned.json'),
    )
    expect([learned.code, learned.complained]).toEqual([0, ''])
    expect(learned.text).toMatch(/^sure {4}files\.mesh\.writer = "obj" \(1 file: /m)
    expect(learned.text).toMatch(/space\.unit\.metres = 0\.02\d/)
    expect(learned.text).not.toMatch(/^\w+ +kinds/m)
    expect(learned.text).toContain('Everything else is as in Hollin Keep.')
    const named = ['--rulebook', at('learned.json')]
    expect((await call('trial', at('bell-pack.zip'), ...named)).text).toMatch(/manifest\.game/)
    await call('prepare', bell, ...named, '--kind', 'furnishing', '--out', at('again.zip'))
    expect((await call('pack', at('again.zip'), '--out', at('again-pack.zip'))).code).toBe(0)
    expect((await call('trial', at('again-pack.zip'), ...named)).text).toContain('It loads.')
  })

  it('refuses a height that is none, and a field that was not learned', async () => {
    const known = await call('learn', at('bell-pack.zip'), '--known', 'bell')
    expect([known.code, known.complained]).toEqual([2, expect.stringMatching(/no path with a height/)])
    const left = await call('learn', at('bell-pack.zip'), '--leave', 'flavour')
    expect([left.code, left.complained]).toEqual([2, expect.stringMatching(/nothing was learned of “flavour”/)])
  })
})
