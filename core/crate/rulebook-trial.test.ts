import { expect, it } from 'vitest'
import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { prepareDemo, tarnAndTiller } from '../test-support/prepared-gate.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { tryRulebook } from './rulebook-trial.ts'
import { newCrate } from './schema.ts'

const buoy = await prepareDemo('channel_buoy', 'loose')
const crate = { ...newCrate('x', { rulebook: tarnAndTiller, stock: null }, []), items: [buoy.item] }
const options = { store: memoryStore(), bytesOf: async (sha256: string) => buoy.sources.get(sha256) ?? null }
const changed = (change: (rulebook: Rulebook) => void): Rulebook => {
  const copy = structuredClone(tarnAndTiller)
  change(copy)
  return rulebookSchema.parse(copy)
}

it('tells which findings come and which go with another rulebook', async () => {
  const [same] = await tryRulebook(crate, tarnAndTiller, options)
  expect(same).toEqual({ name: 'Channel buoy', more: [], less: [] })
  const stricter = changed(({ kinds }) => {
    const loose = kinds.find(({ id }) => id === 'loose')
    if (loose?.mesh) loose.mesh.triangles = 100
  })
  const [tried] = await tryRulebook(crate, stricter, options)
  expect(tried.more.map(({ severity }) => severity)).toContain('blocks')
  expect(tried.more.map(({ message }) => message).join()).toMatch(/100/)
  const [back] = await tryRulebook({ ...crate, rulebook: stricter }, tarnAndTiller, options)
  expect(back.less).toEqual(tried.more)
  expect(back.more).toEqual(tried.less)
})

it('says that an item cannot be had where its kind is gone', async () => {
  const without = changed((rulebook) => {
    rulebook.kinds = rulebook.kinds.filter(({ id }) => id !== 'loose')
  })
  const [tried] = await tryRulebook(crate, without, options)
  expect(tried.more).toEqual([
    expect.objectContaining({ rule: 'item-unreadable', message: expect.stringMatching(/no kind “loose”/) }),
  ])
})
