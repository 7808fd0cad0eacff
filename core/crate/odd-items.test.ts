import { describe, expect, it } from 'vitest'
import { builtInRulebooks } from '../game/load.ts'
import { documentToGlb } from '../item/io.ts'
import { listViewParts } from '../item/parts.ts'
import { oddItems } from '../test-support/odd-items.ts'
import { bringIn } from './bring-in.ts'
import { tryAlone } from './try-alone.ts'

// Whatever a stranger brings, in each game that ships: prepared with nobody helping, it loads, or it holds nothing and
// is refused.

const made = oddItems.map(([what, make]) => ({ what, document: make() }))
const withFaces = made.filter(({ document }) => listViewParts(document).length > 0)
const withoutFaces = made.filter(({ document }) => listViewParts(document).length === 0)

describe.each(builtInRulebooks().map((rulebook) => ({ game: rulebook.id, rulebook })))('for $game', ({ rulebook }) => {
  const bring = async (document: (typeof made)[number]['document']) => {
    const [brought] = await bringIn(
      [{ path: 'thing.glb', bytes: await documentToGlb(document) }],
      rulebook.kinds[0].id,
      {},
      [],
    )
    return brought
  }

  it.each(withFaces)('an item that is $what loads after prepare alone', async ({ document }) => {
    const tried = await tryAlone(await bring(document), { rulebook, stock: null })
    expect({ loads: tried.loads, reason: tried.reason, failures: tried.failures, refusals: tried.refusals }).toEqual({
      loads: true,
      reason: null,
      failures: [],
      refusals: [],
    })
    expect(tried.blocking).toEqual([])
    expect(new Set(tried.worklist.map(({ id }) => id)).size).toBe(tried.worklist.length)
  })

  it.each(withoutFaces)('an item that is $what is refused in a sentence', async ({ document }) => {
    await expect(bring(document)).rejects.toThrow(/^thing\.glb: .+\. [A-Z].+\.$/)
  })
})
