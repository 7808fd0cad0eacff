import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Command } from '../../core/crate/commands'
import { newCrate, type Crate } from '../../core/crate/schema'
import { rulebookById } from '../../core/game/load'
import { plainItem } from '../../core/test-support/crate-items'

const EDITS = 200
const items = ['gate', 'bell', 'board'].map((id) => ({ ...plainItem(), id }))
const crate = {
  ...newCrate('Otterby Landing', { rulebook: rulebookById('tarn-and-tiller'), stock: null }, []),
  items,
}

/** The store as another tab has it: its own modules, its own connection to the same database. */
async function openTab() {
  vi.resetModules()
  return import('./crates')
}

const entry = { step: 'set-size', on: true, parameters: { size: [1, 2, 3] }, reason: null }
const word = fc.string({ minLength: 1, maxLength: 12 })
const at = fc.nat({ max: 4 })

/** A change that can be made to a crate as it stands. */
function anEdit(crate: Crate): fc.Arbitrary<Command> {
  const edits: fc.Arbitrary<Command>[] = [
    word.map((name) => ({ do: 'rename-crate', name })),
    fc.constant({ do: 'add-items', items: [items[0]] }),
  ]
  for (const { id: item, worklist } of crate.items) {
    edits.push(
      word.map((name) => ({ do: 'rename-item', item, name })),
      fc.constant({ do: 'remove-item', item }),
      fc.nat({ max: 99 }).map((one) => ({ do: 'set-reading', item, reading: { metresPerUnit: one + 1, up: null } })),
      fc.tuple(word, fc.option(word)).map(([written, path]) => ({ do: 'link-texture', item, written, path })),
      at.map((place) => ({ do: 'add-steps', item, entries: [entry], at: place })),
      word.map((reason) => ({ do: 'waive', item, waiver: { rule: 'over-budget', where: 'item', reason } })),
    )
    for (const { id, on } of worklist)
      edits.push(
        fc.constant({ do: 'switch-step', item, entry: id, on: !on }),
        fc.constant({ do: 'remove-step', item, entry: id }),
        at.map((to) => ({ do: 'move-step', item, entry: id, to })),
        fc.double({ noNaN: true, noDefaultInfinity: true }).map((size) => ({
          do: 'edit-step',
          item,
          entry: id,
          parameters: { size },
        })),
      )
  }
  return fc.oneof(...edits)
}

beforeEach(async () => {
  const { database } = await import('./database')
  const db = await database()
  await Promise.all([...db.objectStoreNames].map((store) => db.clear(store)))
})

it.each([1, 2])('two hundred edits, undone and redone in %s tab by turns, give the same bytes', async (count) => {
  const tabs = [await openTab(), ...(count === 2 ? [await openTab()] : [])]
  const tabAt = (number: number) => tabs[number % tabs.length]
  await tabs[0].addCrate(crate)
  const texts = [JSON.stringify((await tabs[0].getCrate(crate.id)).crate)]
  for (let number = 0; number < EDITS; number++) {
    const { crate: present } = await tabAt(number).getCrate(crate.id)
    const [edit] = fc.sample(anEdit(present), { numRuns: 1, seed: 1000 * count + number })
    texts.push(JSON.stringify((await tabAt(number + 1).commandCrate(crate.id, edit)).crate))
  }
  expect(new Set(texts).size).toBeGreaterThan(EDITS / 2)
  for (let number = EDITS - 1; number >= 0; number--)
    expect(JSON.stringify((await tabAt(number).undoCrate(crate.id)).crate)).toBe(texts[number])
  expect(await tabs[0].getCrate(crate.id)).toMatchObject({ canUndo: false, canRedo: true })
  for (let number = 1; number <= EDITS; number++)
    expect(JSON.stringify((await tabAt(number).redoCrate(crate.id)).crate)).toBe(texts[number])
  expect(await tabs[0].getCrate(crate.id)).toMatchObject({ canUndo: true, canRedo: false })
})
