import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { getTextureExtras, setMaterialExtras, setTextureExtras } from '../item/extras.ts'
import { readArchive } from '../support/archive.ts'
import { boxWith, grey } from '../test-support/mapped-boxes.ts'
import { prepareDemo, tarnAndTiller } from '../test-support/prepared-gate.ts'
import { loadPack } from '../trial/load-pack.ts'
import { packDifference } from './pack-difference.ts'
import { packItems } from './pack-crate.ts'
import { contentsOfPack } from './pack-files.ts'
import { partOfPack } from './part-of-pack.ts'

const head = {
  title: 'Landing',
  items: [
    { name: 'bell', kind: 'mover' },
    { name: 'buoy', kind: 'loose' },
  ],
}
const [bell, buoy] = await Promise.all([prepareDemo('mooring_bell', 'mover'), prepareDemo('channel_buoy', 'loose')])
const whole = await packItems(
  [
    { name: 'bell', kind: kindOf(tarnAndTiller, 'mover'), document: bell.result.document },
    { name: 'buoy', kind: kindOf(tarnAndTiller, 'loose'), document: buoy.result.document },
  ],
  tarnAndTiller,
  'Landing',
)
const contents = contentsOfPack(whole, 'Landing')
const filesOf = (bytes: Uint8Array): Map<string, Uint8Array> => readArchive(bytes, 'pack.zip')
const mapOf = (item: string): string =>
  whole.files.find(({ sort, askedBy }) => sort === 'map' && askedBy[0].item === item)?.path ?? ''

describe('a whole pack', () => {
  it('says of each file who asks for it, and maps by what shows them', () => {
    expect(whole.files.map(({ path }) => path)).toEqual([...filesOf(whole.bytes).keys()])
    expect(whole.files.every(({ askedBy }) => askedBy.length > 0)).toBe(true)
    expect(whole.files[0]).toMatchObject({ sort: 'manifest', askedBy: [{ item: null }] })
    const map = whole.files.find(({ path }) => path === mapOf('bell'))
    expect(map?.askedBy[0].by).toMatch(/^the look plain: \w+ of \w+@/)
  })

  it('loads as loose files as it loads from its archive', () => {
    const loose = loadPack(filesOf(whole.bytes), tarnAndTiller)
    expect(loose.loads).toBe(true)
    expect(loose.items.map(({ name, triangles }) => [name, triangles])).toEqual(
      loadPack(whole.bytes, tarnAndTiller).items.map(({ name, triangles }) => [name, triangles]),
    )
  })
})

describe('one item of a pack', () => {
  const part = partOfPack(contents, head, tarnAndTiller, { items: ['buoy'] })

  it('is a pack of its own, with what it asks for and nothing else', () => {
    const { loads, items, log } = loadPack(part.bytes, tarnAndTiller)
    expect([loads, items.map(({ name }) => name)]).toEqual([true, ['buoy']])
    expect(log.filter(({ level }) => level !== 'told')).toEqual([])
    expect(part.files.every(({ askedBy }) => askedBy.every(({ item }) => item === null || item === 'buoy'))).toBe(true)
  })
  it('tells what stayed out and who asked for that', () => {
    expect(part.leftOut).toContainEqual({ what: mapOf('bell'), item: 'bell', why: 'only bell asks for it' })
    expect(part.leftOut.length + part.files.length).toBe(whole.files.length)
  })
  it('is refused by name where there is no such item', () => {
    expect(() => partOfPack(contents, head, tarnAndTiller, { items: ['bouy'] })).toThrow(/no item “bouy”.*bell, buoy/)
  })
})

describe('a patch', () => {
  // A newer build with another picture in one map of the bell: that of the buoy.
  const other = contents.find(({ path }) => path === mapOf('buoy'))?.bytes ?? new Uint8Array(0)
  const newer = contents.map((file) => (file.path === mapOf('bell') ? { ...file, bytes: other } : file))
  const below = { name: 'landing-1.zip', files: filesOf(whole.bytes) }
  const patch = partOfPack(newer, head, tarnAndTiller, { over: [below] })

  it('holds what differs from the pack before it, and its own list', () => {
    expect(patch.files.map(({ path }) => path)).toEqual(['manifest.json', mapOf('bell')])
    expect(patch.leftOut.every(({ why }) => why === 'the same as in landing-1.zip')).toBe(true)
  })
  it('loads over that pack and not alone', () => {
    expect(loadPack(patch.bytes, tarnAndTiller).log.map(({ code }) => code)).toContain('pack.empty')
    const { loads, items } = loadPack(patch.bytes, tarnAndTiller, [whole.bytes])
    expect([loads, items.map(({ name }) => name)]).toEqual([true, ['bell', 'buoy']])
    const [shown] = items[0].materials.values()
    expect([...shown.maps.values()].some((bytes) => bytes !== null && bytes.length === other.length)).toBe(true)
  })
  it('looks at the last of several packs below it, as the game does', () => {
    const older = { name: 'landing-0.zip', files: new Map([[mapOf('bell'), other]]) }
    expect(partOfPack(newer, head, tarnAndTiller, { over: [older, below] }).files).toHaveLength(2)
    expect(() => partOfPack(newer, head, tarnAndTiller, { over: [below, older] })).toThrow(/nothing of it is new/)
  })
  it('differs file by file', () => {
    const is = partOfPack(newer, head, tarnAndTiller, { items: ['bell'] }).files
    const changes = packDifference(whole.files, is)
    expect(changes.find(({ path }) => path === mapOf('bell'))).toMatchObject({ change: 'other', after: other.length })
    expect(changes.find(({ path }) => path === mapOf('buoy'))).toMatchObject({ change: 'gone', after: null })
    expect(packDifference(is, is)).toEqual([])
    expect(packDifference([], is).every(({ change, before }) => change === 'new' && before === null)).toBe(true)
  })
})

describe('a map that came with a path', () => {
  it('says where the source had it, beside where it is packed, in a part of the pack too', async () => {
    const { document, material } = boxWith({ colour: grey(100) })
    const texture = material.getBaseColorTexture()
    if (!texture) throw new Error('the box has a colour map')
    const written = 'C:\\Users\\ann\\mod\\planks.png'
    setTextureExtras(texture, { ...getTextureExtras(texture), written })
    const prop = kindOf(tarnAndTiller, 'prop')
    const pack = await packItems([{ name: 'box', kind: prop, document }], tarnAndTiller, 'x')
    const told = pack.files.flatMap((file) => (file.written === undefined ? [] : [[file.path, file.written]]))
    expect(told).toEqual([[expect.stringMatching(/^items\/props\/box\/maps\/planks_colour\./), written]])
    const part = partOfPack(
      contentsOfPack(pack, 'x'),
      { title: 'x', items: [{ name: 'box', kind: 'prop' }] },
      tarnAndTiller,
      {},
    )
    expect(part.files.find(({ sort }) => sort === 'map')?.written).toBe(written)
  })
})

describe('what stayed out', () => {
  it('is the game’s own texture, a map of a role that the game has not, and a picture that nothing shows', async () => {
    const { document, material } = boxWith({ colour: grey(100), height: grey(50) })
    setMaterialExtras(material, {
      references: [{ role: 'normal', path: 'stock/ropes.dds', found: null, stock: 'stock/ropes.dds' }],
    } as never)
    document
      .createTexture('old rust')
      .setImage(new Uint8Array([1]))
      .setMimeType('image/png')
    const pack = await packItems([{ name: 'box', kind: kindOf(tarnAndTiller, 'prop'), document }], tarnAndTiller, 'x')
    expect(pack.leftOut).toEqual([
      { what: 'stock/ropes.dds', item: 'box', why: 'the game has it itself' },
      { what: 'planks_height', item: 'box', why: 'Tarn & Tiller has no map for “height”' },
      { what: 'old rust', item: 'box', why: 'no material shows it' },
    ])
  })
})
