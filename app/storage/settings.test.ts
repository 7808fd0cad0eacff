import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { database } from './database'
import { getPanelSizes, markDemoShelved, putPanelSizes, wasDemoShelved } from './settings'

beforeEach(async () => (await database()).clear('settings'))

describe('settings of this browser', () => {
  it('keep the sizes of panels, beside whether the demo was shelved', async () => {
    expect(await getPanelSizes()).toEqual({})
    await markDemoShelved()
    await putPanelSizes({ rail: 240 })
    expect(await getPanelSizes()).toEqual({ rail: 240 })
    expect(await wasDemoShelved()).toBe(true)
  })

  it('pass over sizes that are none', async () => {
    for (const value of ['junk', 7, null, { rail: 'wide' }, { rail: -3 }]) {
      await (await database()).put('settings', { key: 'panel-sizes', value })
      expect(await getPanelSizes()).toEqual({})
    }
  })
})
