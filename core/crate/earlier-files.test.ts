import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { noStore } from '../worklist/result-store.ts'
import { evaluateItem } from './evaluate.ts'
import { readCrateFile, writeCrateFile } from './file.ts'

/** A crate file as each version of the format wrote it, by the program of that day; a new format adds one. */
const folder = new URL('../test-support/crate-files/', import.meta.url)
const files = readdirSync(folder)

it('there is one of every format so far', () => {
  const [{ crate }] = files.map((name) => readCrateFile(readFileSync(new URL(name, folder)), name)).slice(-1)
  expect(files).toEqual(Array.from({ length: crate.formatVersion }, (_, number) => `format-${number + 1}.crate.zip`))
})

it.each(files)('%s opens whole, runs, and is saved in the present format', async (name) => {
  const opened = readCrateFile(readFileSync(new URL(name, folder)), name)
  expect([opened.setAside, opened.lost]).toEqual([[], []])
  const { crate, sources } = opened
  expect(crate.rulebook.id).toBe(tarnAndTiller.id)
  expect(crate.items.map((item) => [item.name, item.kind])).toEqual([['Rain hat worn', 'prop']])
  const { item, outcomes, findings } = await evaluateItem(crate.items[0], crate, {
    store: noStore,
    bytesOf: async (sha256) => sources.get(sha256) ?? null,
  })
  expect(item.worklist.length).toBeGreaterThan(5)
  expect(outcomes.map(({ state }) => state)).toEqual(item.worklist.map(() => 'done'))
  expect(findings.map(({ rule }) => rule)).not.toContain('item-unreadable')
  expect(readCrateFile(writeCrateFile({ crate, sources }), name).crate).toEqual(crate)
})
