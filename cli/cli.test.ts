import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { validateBytes } from 'gltf-validator'
import { unzipSync } from 'fflate'
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { assemble, iron, rawPack } from '../core/test-support/spoiled/raw-pack.ts'
import { sha256Hex } from '../core/support/hashing.ts'
import { main } from './main.ts'

const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-'))
const at = (name: string): string => join(folder, name)
const gate = 'demo/sources/boathouse_gate/boathouse_gate.obj'
const prepared = ['prepare', gate, '--unit', 'cm', '--up', 'z', '--rulebook', 'tarn-and-tiller', '--kind', 'prop']

/** Runs a call and gives its exit code and what it printed on standard output. */
async function call(...words: string[]) {
  const printed: string[] = []
  const log = vi.spyOn(console, 'log').mockImplementation((text: string) => void printed.push(text))
  vi.spyOn(console, 'error').mockImplementation(() => undefined)
  vi.spyOn(process.stderr, 'write').mockReturnValue(true)
  const code = await main(words)
  log.mockRestore()
  const text = printed.join('\n')
  return { code, text, json: () => JSON.parse(text) }
}
afterEach(() => vi.restoreAllMocks())

describe('from the gate’s source to a pack that loads', () => {
  beforeAll(async () => {
    expect((await call(...prepared, '--out', at('gate.zip'))).code).toBe(0)
    expect((await call(...prepared, '--steps', 'none', '--out', at('raw.zip'))).code).toBe(0)
  })

  it('checks clear, packs and loads with exit code 0', async () => {
    const check = await call('check', at('gate.zip'), '--json')
    expect(check.code).toBe(0)
    expect(check.json()).toMatchObject({
      rulebook: 'tarn-and-tiller 1.6',
      blocks: 0,
      risky: 0,
      items: [{ name: 'Boathouse gate', kind: 'prop' }],
    })
    const pack = await call('pack', at('gate.zip'), '--out', at('pack.zip'), '--json')
    expect(pack.code).toBe(0)
    const bytes = new Uint8Array(readFileSync(at('pack.zip')))
    expect(pack.json()).toMatchObject({ out: at('pack.zip'), bytes: bytes.length, sha256: sha256Hex(bytes), blocks: 0 })
    const trial = await call('trial', at('pack.zip'), '--rulebook', 'tarn-and-tiller', '--json')
    expect(trial.code).toBe(0)
    expect(trial.json()).toMatchObject({ loads: true, items: [{ name: 'boathouse_gate', solids: 3, textures: 4 }] })
  })

  it('checks a pack as the loader tries it, whoever made it', async () => {
    const clear = await call('check', at('pack.zip'), '--json')
    expect(clear.code).toBe(0)
    expect(clear.json()).toMatchObject({
      rulebook: 'tarn-and-tiller 1.6',
      blocks: 0,
      risky: 0,
      items: [{ name: 'boathouse_gate', kind: 'prop' }],
    })
    const keg = rawPack()
    keg.look.materials[iron].shading = 'velvet'
    writeFileSync(at('keg.zip'), assemble(keg))
    const spoiled = await call('check', at('keg.zip'), '--json')
    expect(spoiled.code).toBe(1)
    expect(spoiled.json().items[0].findings[0]).toMatchObject({
      rule: 'shading-unknown',
      severity: 'blocks',
      where: iron,
    })
    writeFileSync(at('half.zip'), assemble(rawPack()).subarray(0, 4000))
    expect((await call('check', at('half.zip'))).code).toBe(2)
    const half = await call('check', at('half.zip'), '--rulebook', 'tarn-and-tiller', '--json')
    expect([half.code, half.json().items[0].findings[0].rule]).toEqual([1, 'pack-archive'])
  })

  it('measures how far each item moved from its source, and a mesh from another', async () => {
    const crate = (await call('shift', at('gate.zip'), '--json')).json()
    expect(crate.items).toMatchObject([{ name: 'Boathouse gate', trianglesBefore: 38096 }])
    expect(crate.items[0].trianglesAfter).toBeLessThanOrEqual(10_000)
    expect(crate.items[0].worst).toBeGreaterThan(0)
    // A hundredth of its height at most, and its outline stays within three hundredths from every side.
    expect(crate.items[0].worst).toBeLessThan(0.08)
    expect(crate.items[0].outlines).toHaveLength(8)
    expect(Math.max(...crate.items[0].outlines)).toBeLessThan(0.03)
    const bell = 'demo/sources/mooring_bell/mooring_bell.glb'
    const same = (await call('shift', bell, bell, '--json')).json()
    expect(same.items[0].worst).toBeLessThan(1e-3)
    expect((await call('shift')).code).toBe(2)
  })
  it('tells what it is like to bump into it', async () => {
    const open = await call('touch-test', at('gate.zip'), '--json')
    expect(open.code).toBe(0)
    expect(open.json()).toMatchObject({
      unit: 'span',
      closed: 0,
      items: [{ name: 'Boathouse gate', kind: 'prop', openings: [{ passes: true }], mass: null, rest: null }],
    })
    expect(open.json().items[0].bodies.map((body: { id: string }) => body.id)).toEqual(['rowing_boat', 'gull'])
    expect((await call('touch-test')).code).toBe(2)
    expect((await call('touch-test', 'nowhere.zip')).code).toBe(2)
  })

  it('tells every step and what it takes', async () => {
    const listed = (await call('steps', '--json')).json().steps
    expect(listed.map((each: { step: string }) => each.step)).toEqual(
      expect.arrayContaining([
        'set-size',
        'place-origin',
        'even-triangulation',
        'two-sided',
        'join-parts',
        'use-as-level',
      ]),
    )
    const one = (await call('steps', 'set-size', '--json')).json().steps[0]
    expect(one.parameters.properties.by.enum).toEqual(['factor', 'edge', 'figure', 'doorway', 'cells'])
    expect((await call('steps', 'polish')).code).toBe(2)
  })

  it('packs valid glTF without errors or warnings, and a manifest that is right', async () => {
    const files = unzipSync(new Uint8Array(readFileSync(at('pack.zip'))))
    const report = await validateBytes(files['items/props/boathouse_gate/boathouse_gate.glb'])
    expect(report.issues.messages.filter((message) => message.severity < 2)).toEqual([])
    const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json']))
    expect(manifest.files.map((file: { path: string }) => file.path).sort()).toEqual(
      Object.keys(files)
        .filter((path) => path !== 'manifest.json')
        .sort(),
    )
    for (const file of manifest.files)
      expect(file).toMatchObject({ bytes: files[file.path].length, sha256: sha256Hex(files[file.path]) })
  })

  it('finds every fault of the unprepared gate that a rule can see, and exits with 1', async () => {
    const check = await call('check', at('raw.zip'), '--json')
    expect(check.code).toBe(1)
    const rules = new Set(check.json().items[0].findings.map((finding: { rule: string }) => finding.rule))
    for (const rule of [
      'triangle-budget',
      'view-and-solids-budget',
      'polygons-left',
      'inward-faces',
      'name-form',
      'texture-path',
      'texture-power-of-two',
      'texture-format',
      'stray',
      'solid-missing',
      'axes-not-turned',
      'unit-not-scaled',
      'item-too-large',
      'material-tag',
      'level-missing',
      'texture-memory',
    ]) {
      expect(rules).toContain(rule)
    }
    const inward = check.json().items[0].findings.find((finding: { rule: string }) => finding.rule === 'inward-faces')
    expect(inward.where).toContain('Left leaf')
    expect((await call('pack', at('raw.zip'), '--out', at('rawpack.zip'))).code).toBe(1)
    expect((await call('trial', at('rawpack.zip'), '--rulebook', 'tarn-and-tiller')).code).toBe(1)
  })

  it('opens a crate from a folder with its unpacked content too', async () => {
    execFileSync('mkdir', ['-p', at('folder/sources')])
    for (const [path, bytes] of Object.entries(unzipSync(new Uint8Array(readFileSync(at('raw.zip'))))))
      writeFileSync(join(at('folder'), path), bytes)
    const [opened, packed] = [
      (await call('check', at('folder'), '--json')).json(),
      (await call('check', at('raw.zip'), '--json')).json(),
    ]
    expect(packed.blocks).toBeGreaterThan(20)
    expect(opened).toEqual(packed)
  })

  it('writes the same crate and pack each time', async () => {
    const bell = ['prepare', 'demo/sources/mooring_bell/mooring_bell.glb', '--rulebook', 'tarn-and-tiller']
    for (const name of ['once', 'again']) {
      await call(...bell, '--kind', 'mover', '--out', at(`${name}.zip`))
      await call('pack', at(`${name}.zip`), '--out', at(`${name}-pack.zip`))
    }
    for (const what of ['', '-pack'])
      expect(readFileSync(at(`again${what}.zip`)).equals(readFileSync(at(`once${what}.zip`)))).toBe(true)
  })

  it('runs a preset instead of proposing', async () => {
    writeFileSync(
      at('preset.json'),
      JSON.stringify([{ id: 'step-1', step: 'clean-names', on: true, parameters: {}, reason: null }]),
    )
    const result = await call(...prepared, '--preset', at('preset.json'), '--out', at('preset.zip'), '--json')
    expect(result.json().items[0].steps.map((step: { step: string }) => step.step)).toEqual(['clean-names'])
  })
})

describe('the other commands', () => {
  it('survey tells parts, textures, unit, axes and bounds', async () => {
    const { code, json } = await call('survey', 'demo/sources/mooring_bell/mooring_bell.glb', '--json')
    expect(code).toBe(0)
    expect(json()).toMatchObject({
      triangles: 656,
      bones: 0,
      clips: [{ name: 'sway', seconds: 2, keys: 97 }],
      units: { metresPerUnit: 1, from: 'declared' },
      axes: { up: '+y', forward: '+z', from: 'declared' },
    })
  })
  it('convert writes meshes that can be read again with the same triangles', async () => {
    for (const [to, name] of [
      ['glb', 'bell.glb'],
      ['gltf', 'bell.gltf'],
      ['obj', 'bell.obj'],
    ]) {
      expect(
        (await call('convert', 'demo/sources/mooring_bell/mooring_bell.glb', '--to', to, '--out', at(name))).code,
      ).toBe(0)
      expect((await call('survey', at(name), '--json')).json().triangles).toBe(656)
    }
  })
  it('convert writes images, and reads its own DDS back', async () => {
    expect(
      (
        await call(
          'convert',
          'demo/sources/boathouse_gate/iron_strap.png',
          '--to',
          'dds',
          '--codec',
          'bc1',
          '--out',
          at('iron.dds'),
        )
      ).code,
    ).toBe(0)
    expect((await call('convert', at('iron.dds'), '--to', 'png', '--out', at('iron.png'))).code).toBe(0)
    expect(readFileSync(at('iron.png')).subarray(1, 4).toString()).toBe('PNG')
  })
  it('rulebook prints a built-in one and validates a file', async () => {
    const printed = await call('rulebook', 'tarn-and-tiller')
    writeFileSync(at('mine.json'), printed.text)
    expect((await call('rulebook', at('mine.json'))).text).toMatch(/is a valid rulebook: Tarn & Tiller 1\.6, 12 kinds/)
    writeFileSync(at('bad.json'), printed.text.replace('"right"', '"upside-down"'))
    expect(await call('rulebook', at('bad.json'))).toMatchObject({ code: 2 })
  })
})

describe('a call or file that is wrong', () => {
  it.each([
    [['polish', 'x']],
    [['check']],
    [['check', 'no-such-file.zip']],
    [['check', 'package.json']],
    [['prepare', gate, '--rulebook', 'tarn-and-tiller', '--kind', 'castle', '--out', at('x.zip')]],
    [['prepare', gate, '--rulebook', 'tarn-and-tiller', '--kind', 'prop', '--unit', 'parsec', '--out', at('x.zip')]],
    [['prepare', gate, '--rulebook', 'tarn-and-tiller', '--kind', 'prop', '--up', 'sideways', '--out', at('x.zip')]],
    [['prepare', gate, '--rulebook', 'tarn-and-tiller', '--kind', 'prop']],
    [['convert', gate, '--to', 'dxf', '--out', at('x.dxf')]],
    [['survey', 'README.md']],
    [['trial', 'package.json']],
    [['survey', gate, '--what']],
  ])('%j exits with 2 and one sentence', async (words) => {
    const result = await call(...words, '--json')
    expect(result.code).toBe(2)
    expect(result.json().error).toMatch(/^.+: .+\. ?.*$/)
  })
  it('runs as a program from another folder, without a build', () => {
    const printed = execFileSync(
      'node',
      [join(process.cwd(), 'cli/bin.mjs'), 'rulebook', 'tarn-and-tiller', '--json'],
      { cwd: folder, encoding: 'utf8' },
    )
    expect(JSON.parse(printed).id).toBe('tarn-and-tiller')
  })
})

describe('a folder of files from elsewhere', () => {
  it('is reported on file by file: what loads, what cannot be read, and why', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-any-'))
    writeFileSync(join(folder, 'plate.obj'), 'v 0 0 0\nv 2 0 0\nv 2 0.1 2\nv 0 0 2\nf 1 3 2\nf 1 4 3\nf 1 2 3 4\n')
    writeFileSync(join(folder, 'broken.glb'), 'not a mesh')
    const report = await call('prepare', folder, '--rulebook', 'tarn-and-tiller', '--report', '--json')
    expect(report.code).toBe(0)
    const { files, summary } = report.json()
    expect(files.map(({ file }: { file: string }) => file)).toEqual(['broken.glb', 'plate.obj'])
    expect(files[0].refused).toContain('broken.glb')
    expect(files[1].tried).toMatchObject({ loads: true, kind: 'prop', parts: 1 })
    expect(summary).toMatch(/^2 files: 1 of the 1 that can be read load/)
    const table = await call('prepare', folder, '--rulebook', 'tarn-and-tiller', '--report')
    expect(table.text).toMatch(/\| plate\.obj \| prop \| \d \| 1 \|/)
  })

  it('needs a mesh in it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-none-'))
    expect((await call('prepare', folder, '--rulebook', 'tarn-and-tiller', '--report')).code).toBe(2)
  })
})
