import { describe, expect, it } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import { laterRulebook } from '../game/load.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { applyCommand } from './commands.ts'
import { readCrateFile, writeCrateFile } from './file.ts'
import { builtInGame, readGameFile } from './game-file.ts'
import { crateSchema, newCrate } from './schema.ts'
import { stockObject, stockOf, stockPictures } from './stock.ts'

const own = { ...tarnAndTiller, id: 'marsh-post', title: 'Marsh Post', version: '0.3' }
const json = (value: unknown): Uint8Array => strToU8(JSON.stringify(value))

describe('the rulebook that a crate carries', () => {
  it('goes into the crate file whole, and its stock with it', async () => {
    const { game, stock } = await builtInGame(tarnAndTiller.id)
    if (!game.stock || !stock) throw new Error('no stock')
    const crate = newCrate('Otterby Landing', game, [])
    const read = readCrateFile(writeCrateFile({ crate, sources: new Map([[game.stock.sha256, stock]]) }), 'crate.zip')
    expect(read.crate.rulebook).toEqual(tarnAndTiller)
    expect(read.sources.get(game.stock.sha256)).toEqual(stock)
    const bytesOf = async (sha256: string) => read.sources.get(sha256) ?? null
    expect((await stockPictures(read.crate, bytesOf)).map(({ path }) => path)).toEqual(
      tarnAndTiller.stock.textures.map(({ path }) => path),
    )
    expect((await stockObject(read.crate, 'ferry', bytesOf)).getRoot().listMeshes().length).toBeGreaterThan(0)
    expect(() => writeCrateFile({ crate, sources: new Map() })).toThrow(/a source is missing/)
  })

  it('is put in where a crate of the first format only named it', () => {
    const old = { ...newCrate('Old', { rulebook: tarnAndTiller, stock: null }, []), formatVersion: 1, stock: undefined }
    const upgraded = crateSchema.parse({ ...old, rulebook: { id: tarnAndTiller.id, version: '1.2' } })
    expect(upgraded).toMatchObject({ formatVersion: 2, stock: null, rulebook: { version: tarnAndTiller.version } })
    expect(crateSchema.safeParse({ ...old, rulebook: { id: 'unheard-of', version: '1.0' } }).success).toBe(false)
  })

  it('may be a later one of the same game, taken by a command that can be undone', () => {
    const versions = ['1.9', '1.10', '1.2'].map((version) => ({ ...own, version }))
    expect(laterRulebook({ ...own, version: '1.9' }, versions)?.version).toBe('1.10')
    expect(laterRulebook({ ...own, version: '1.10' }, versions)).toBeNull()
    expect(laterRulebook(own, [tarnAndTiller])).toBeNull()
    const crate = newCrate('Marsh', { rulebook: own, stock: null }, [])
    const changed = applyCommand(crate, { do: 'set-game', rulebook: versions[1], stock: null })
    expect([crate.rulebook.version, changed.rulebook.version]).toEqual(['0.3', '1.10'])
  })
})

describe('a game in a file', () => {
  it('is a rulebook as JSON, or a ZIP that holds what it has in stock as well', async () => {
    const { stock } = await builtInGame(tarnAndTiller.id)
    expect(readGameFile(json(own), 'marsh.json')).toEqual({ game: { rulebook: own, stock: null }, stock: null })
    const packed = readGameFile(
      zipSync({ 'rulebook.json': json(tarnAndTiller), 'stock.zip': stock ?? new Uint8Array() }),
      'marsh.zip',
    )
    expect(packed.stock).toEqual(stock)
    expect((await stockOf(packed.game, async () => packed.stock)).items.length).toBeGreaterThan(0)
  })

  it('is refused in one sentence that says where it is wrong', async () => {
    expect(() => readGameFile(json({ ...own, kinds: [] }), 'marsh.json')).toThrow(/marsh.json: at kinds/)
    expect(() => readGameFile(strToU8('{'), 'marsh.json')).toThrow(/not JSON/)
    expect(() => readGameFile(zipSync({ 'other.json': json(own) }), 'marsh.zip')).toThrow(/holds no rulebook.json/)
    await expect(stockOf({ rulebook: own, stock: null }, async () => null)).rejects.toThrow(
      /did not come with its rulebook/,
    )
  })
})
