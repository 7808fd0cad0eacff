import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { database } from './database'
import { getPanelLayouts, markDemoShelved, putPanelLayouts, wasDemoShelved } from './settings'

beforeEach(async () => (await database()).clear('settings'))

describe('settings of this browser', () => {
  it('keep the sizes of panels, beside whether the demo was shelved', async () => {
    expect(await getPanelLayouts()).toEqual({})
    await markDemoShelved()
    await putPanelLayouts({ rail: '{"rail-first":20}' })
    expect(await getPanelLayouts()).toEqual({ rail: '{"rail-first":20}' })
    expect(await wasDemoShelved()).toBe(true)
  })

  it('pass over sizes that are none', async () => {
    for (const value of ['junk', 7, null, { rail: 3 }]) {
      await (await database()).put('settings', { key: 'panel-layouts', value })
      expect(await getPanelLayouts()).toEqual({})
    }
  })
})
