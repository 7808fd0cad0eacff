import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { rulebookText } from '../../core/crate/game-file'
import { rulebookById } from '../../core/game/load'
import { database } from './database'
import { addRulebook, getRulebook, listRulebooks, putRulebookText, removeRulebook } from './rulebooks'

const keep = rulebookById('hollin-keep')

beforeEach(async () => (await database()).clear('rulebooks'))

describe('rulebooks of one’s own', () => {
  it('are there again as they were written, with what their game has in stock', async () => {
    const key = await addRulebook('mill-lane', rulebookText(keep), new Uint8Array([1, 2]))
    expect(await getRulebook(key)).toMatchObject({ rulebook: keep, fault: null, stock: new Uint8Array([1, 2]) })
    await putRulebookText(key, rulebookText({ ...keep, title: 'Mill Lane' }))
    const changed = await getRulebook(key)
    expect([changed?.rulebook?.title, changed?.stock]).toEqual(['Mill Lane', new Uint8Array([1, 2])])
  })
  it('of one name lie beside each other, the last changed first', async () => {
    const first = await addRulebook('mill', rulebookText(keep), null)
    await new Promise((resolve) => setTimeout(resolve, 5))
    const second = await addRulebook('mill', rulebookText(keep), null)
    expect(first).not.toBe(second)
    expect((await listRulebooks()).map(({ key }) => key)).toEqual([second, first])
    await removeRulebook(second)
    expect(await getRulebook(second)).toBeNull()
    expect((await listRulebooks()).map(({ key }) => key)).toEqual([first])
  })
  it('never take the address of one that ships, or of a page', async () => {
    expect(await addRulebook('hollin-keep', rulebookText(keep), null)).toBe('hollin-keep-2')
    expect(await addRulebook('Learn', rulebookText(keep), null)).toBe('learn-2')
  })
  it('that are not whole yet are kept with what is wrong', async () => {
    const key = await addRulebook('half', '{ "id": "half" ', null)
    expect(await getRulebook(key)).toMatchObject({ rulebook: null, fault: expect.stringMatching(/not JSON/) })
  })
  it('are not brought back by a text that comes after they were removed', async () => {
    const key = await addRulebook('gone', '{}', null)
    await removeRulebook(key)
    await putRulebookText(key, rulebookText(keep))
    expect(await listRulebooks()).toEqual([])
  })
  it('that are damaged hold up no other', async () => {
    await (await database()).put('rulebooks', { key: 'odd', text: 5 } as never)
    const key = await addRulebook('whole', rulebookText(keep), null)
    expect((await listRulebooks()).map((each) => each.key)).toEqual([key])
  })
})
