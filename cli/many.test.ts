import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { readArchive } from '../core/support/archive.ts'
import { sha256Hex } from '../core/support/hashing.ts'
import { call } from './test-support.ts'

let home: string
beforeAll(() => {
  home = mkdtempSync(join(tmpdir(), 'gentle-crate-many-'))
  for (const folder of ['art', 'art/loose', 'scene']) mkdirSync(at(folder))
  for (const name of ['post_1', 'post_2', 'post_3']) writeFileSync(at(`art/${name}.obj`), box(name, name.length))
  writeFileSync(at('art/loose/crate_1.obj'), box('crate', 2))
  writeFileSync(at('art/loose/torn.obj'), 'f 1 2 9\n')
  writeFileSync(at('scene/yard.obj'), `${box('bench', 3)}${box('lamp', 4, 8)}`)
})
afterAll(() => rmSync(home, { recursive: true, force: true }))
const at = (path: string): string => join(home, path)

/** A closed box as another program writes it, so many units wide. */
function box(name: string, width: number, before = 0): string {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((at) => [at & 1, (at >> 1) & 1, at >> 2].map((each) => each * width))
  const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6']
  const shifted = faces.map((face) =>
    face
      .split(' ')
      .map((corner) => Number(corner) + before)
      .join(' '),
  )
  return [
    `o ${name}`,
    ...corners.map((corner) => `v ${corner.join(' ')}`),
    ...shifted.map((face) => `f ${face}`),
    '',
  ].join('\n')
}

const presets = [
  { title: 'Posts', files: ['post_*'], kind: 'prop', unit: 'cm', worklist: null },
  { title: 'Things to carry', files: ['loose/*'], kind: 'loose', worklist: [] },
]

describe('many files at once', () => {
  it('become what presets say by their names, and one that is broken holds up no other', async () => {
    writeFileSync(at('presets.json'), JSON.stringify(presets))
    const words = [
      at('art'),
      '--rulebook',
      'tarn-and-tiller',
      '--preset',
      at('presets.json'),
      '--out',
      at('art.zip'),
      '--json',
    ]
    const made = await call('prepare', ...words)
    expect(made.code).toBe(1)
    const { items, failures } = made.json()
    expect(items.map(({ name, kind }: { name: string; kind: string }) => [name, kind])).toEqual([
      ['Crate 1', 'loose'],
      ['Post 1', 'prop'],
      ['Post 2', 'prop'],
      ['Post 3', 'prop'],
    ])
    expect(items[0].steps).toEqual([])
    expect(items[1].steps.length).toBeGreaterThan(0)
    expect(failures).toEqual([expect.stringMatching(/^loose\/torn\.obj: /)])
    const crate = JSON.parse(
      new TextDecoder().decode(readArchive(new Uint8Array(readFileSync(at('art.zip'))), 'x').get('crate.json')),
    )
    expect(crate.items.map((item: { reading: { metresPerUnit?: number } }) => item.reading.metresPerUnit)).toEqual([
      undefined,
      0.01,
      0.01,
      0.01,
    ])
  }, 60_000)

  it('are packed as one, or one each, and the same by one worker or many', async () => {
    expect((await call('prepare', at('art'), '--rulebook', 'tarn-and-tiller', '--out', at('art.zip'))).code).toBe(1)
    const whole = (await call('pack', at('art.zip'), '--out', at('whole.zip'), '--json')).json()
    expect((await call('trial', at('whole.zip'), '--rulebook', 'tarn-and-tiller', '--json')).json().items).toHaveLength(
      4,
    )
    const one = (await call('pack', at('art.zip'), '--item', 'post_2', '--out', at('one.zip'), '--json')).json()
    const each = await call('pack', at('art.zip'), '--each', '--out', at('each/'), '--json')
    expect(each.json().packs.map(({ path }: { path: string }) => path)).toEqual(
      expect.arrayContaining(['crate_1.zip', 'post_1.zip', 'post_2.zip', 'post_3.zip']),
    )
    const alone = readArchive(new Uint8Array(readFileSync(at('each/post_2.zip'))), 'post_2.zip')
    const ofOne = readArchive(new Uint8Array(readFileSync(at('one.zip'))), 'one.zip')
    const sums = (files: ReadonlyMap<string, Uint8Array>) =>
      [...files].filter(([path]) => path !== 'manifest.json').map(([path, bytes]) => [path, sha256Hex(bytes)])
    expect(sums(alone)).toEqual(sums(ofOne))
    const checked = spawnSync(process.execPath, ['cli/bin.mjs', 'check', at('art.zip')], { encoding: 'utf8' })
    expect([checked.status, checked.stdout.trim()]).toEqual([0, (await call('check', at('art.zip'))).text])
    expect(whole.files.map(({ path }: { path: string }) => path)).toEqual(
      expect.arrayContaining(one.files.map(({ path }: { path: string }) => path)),
    )
    expect((await call('trial', at('each/post_2.zip'), '--rulebook', 'tarn-and-tiller', '--json')).json().loads).toBe(
      true,
    )
  }, 60_000)

  it('of one scene become an item of each thing of it', async () => {
    const words = [at('scene'), '--rulebook', 'tarn-and-tiller', '--split', '--out', at('scene.zip'), '--json']
    const { items } = (await call('prepare', ...words)).json()
    expect(items.map(({ name }: { name: string }) => name)).toEqual(['Bench', 'Lamp'])
    const checked = (await call('check', at('scene.zip'), '--json')).json()
    expect(
      checked.items.map(
        (item: { gauges: { id: string; value: number }[] }) => item.gauges.find(({ id }) => id === 'triangles')?.value,
      ),
    ).toEqual([12, 12])
  }, 60_000)

  it.each([
    ['{"title": "Posts"', /it is not JSON/],
    ['[{"title": "Posts", "files": "post_*", "worklist": null}]', /wrong at 0\.files/],
    ['[{"title": "Posts", "files": ["*"], "unit": "ell", "worklist": null}]', /wrong at 0\.unit/],
    ['[{"step": "weld"}]', /wrong at 0\.id/],
    ['[{"title": "Posts", "files": ["*"], "kind": "barge", "worklist": null}]', /barge/],
  ])('says what is wrong with a preset: %s', async (text, sentence) => {
    writeFileSync(at('wrong.json'), text)
    const words = [at('art'), '--rulebook', 'tarn-and-tiller', '--preset', at('wrong.json'), '--out', at('never.zip')]
    const made = await call('prepare', ...words)
    expect([made.code, made.complained]).toEqual([2, expect.stringMatching(sentence)])
    expect(existsSync(at('never.zip'))).toBe(false)
  })
})

describe('names and paths', () => {
  it('are told as written and as packed, and led to another folder', async () => {
    mkdirSync(at('stalls'))
    mkdirSync(at('wood'))
    copyFileSync('demo/sources/boathouse_gate/Timber leaf.v2.png', at('wood/Oak.PNG'))
    writeFileSync(at('stalls/stall.mtl'), 'newmtl oak\nmap_Kd E:\\Edda\\wood\\oak.png\n')
    for (const name of ['stall_1', 'stall_2'])
      writeFileSync(at(`stalls/${name}.obj`), `mtllib stall.mtl\nusemtl oak\n${box(name, 1)}`)
    const words = [at('stalls'), '--rulebook', 'tarn-and-tiller', '--steps', 'none', '--out', at('stalls.zip')]
    expect((await call('prepare', ...words)).code).toBe(0)
    const lost = await call('paths', at('stalls.zip'), '--trouble', '--json')
    expect([lost.code, lost.json().troubles]).toEqual([1, 2])
    expect(lost.json().paths).toMatchObject([
      { item: 'Stall 1', written: 'E:\\Edda\\wood\\oak.png', found: null, packed: [], trouble: 'missing' },
      { item: 'Stall 2', trouble: 'missing' },
    ])
    const rebase = (said: string) => call('paths', at('stalls.zip'), '--rebase', said, '--out', at('led.zip'), '--json')
    expect((await rebase(`D:\\elsewhere=${at('wood')}`)).complained).toMatch(/no written path begins so/)
    expect((await rebase('nothing')).complained).toMatch(/it says no other folder/)
    expect((await rebase(`e:/edda/wood=${at('wood')}`)).json().led).toMatchObject([
      { item: 'Stall 1', path: 'Oak.PNG' },
      { item: 'Stall 2', path: 'Oak.PNG' },
    ])
    const led = (await call('paths', at('led.zip'), '--find', '*.dds', '--json')).json()
    expect(led.paths.map(({ packed }: { packed: string[] }) => packed)).toEqual([
      ['items/props/stall_1/maps/Oak.dds'],
      ['items/props/stall_2/maps/Oak.dds'],
    ])
  }, 60_000)
})

describe('a folder that is watched', () => {
  let running: ChildProcess | null = null
  afterEach(async () => {
    if (running?.exitCode !== null) return
    running.kill('SIGINT')
    await once(running, 'exit')
  })

  /** Begins to watch; each call of what it gives waits for the next round. */
  function watch(...words: string[]): () => Promise<Record<string, unknown>> {
    running = spawn(process.execPath, ['cli/bin.mjs', 'watch', ...words, '--json'], {
      stdio: ['ignore', 'pipe', 'ignore'],
    })
    const lines = createInterface({ input: running.stdout as NodeJS.ReadableStream })[Symbol.asyncIterator]()
    return async () => JSON.parse(String((await lines.next()).value)) as Record<string, unknown>
  }

  it('is packed again when a source is saved: only what changed, and as all of it would be', async () => {
    mkdirSync(at('live'))
    for (const name of ['post_1', 'post_2']) copyFileSync(at(`art/${name}.obj`), at(`live/${name}.obj`))
    const next = watch(
      at('live'),
      '--rulebook',
      'tarn-and-tiller',
      '--out',
      at('live/live.zip'),
      '--crate',
      at('live.crate.zip'),
    )
    expect(await next()).toMatchObject({ items: 2, blocks: 0, refused: [] })
    writeFileSync(at('live/post_2.obj'), box('post', 9))
    expect(await next()).toMatchObject({ items: 2, worked: ['Post 2'] })
    writeFileSync(at('live/post_3.obj'), box('post', 7))
    expect(await next()).toMatchObject({ items: 3, worked: ['Post 3'] })
    writeFileSync(at('live/post_1.obj'), 'f 1 2 9\n')
    expect(await next()).toMatchObject({ items: 2, refused: [expect.stringMatching(/post_1/)] })
    rmSync(at('live/post_1.obj'))
    const { sha256 } = await next()
    const whole = (await call('pack', at('live.crate.zip'), '--out', at('again.zip'), '--json')).json()
    expect(whole.sha256).toBe(sha256)
  }, 90_000)

  it('may be a crate folder: an item whose worklist changes is packed anew', async () => {
    await call('init', at('landing'), '--rulebook', 'tarn-and-tiller')
    await call('prepare', at('art/post_1.obj'), at('art/post_2.obj'), '--out', at('landing'))
    const next = watch(at('landing'), '--out', at('landing.zip'))
    expect(await next()).toMatchObject({ items: 2, worked: ['Post 1', 'Post 2'] })
    const file = at('landing/items/post-1.json')
    const item = JSON.parse(readFileSync(file, 'utf8')) as { name: string }
    writeFileSync(file, JSON.stringify({ ...item, name: 'Mooring post' }))
    expect(await next()).toMatchObject({ items: 2, worked: ['Mooring post'] })
    writeFileSync(at('landing/crate.json'), '{')
    expect(await next()).toMatchObject({ error: expect.stringMatching(/crate\.json/) })
  }, 60_000)
})
