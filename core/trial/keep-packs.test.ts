import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { assembleKeep, keepPack } from '../test-support/spoiled/keep-pack.ts'
import { keepSpoilers } from '../test-support/spoiled/keep-spoilers.ts'
import { judgePack } from '../test-support/spoiled/judge-pack.ts'

const rulebook = rulebookById('hollin-keep')

describe('a pack of Hollin Keep that was written by hand', () => {
  it('is taken without a word', async () => {
    expect(await judgePack(assembleKeep(keepPack()), rulebook)).toEqual({
      check: 'takes',
      loader: 'takes',
      told: [],
      rules: [],
    })
  })

  it.each(keepSpoilers)('with $what: the game $says it', async ({ says, spoil, list }) => {
    const pack = keepPack()
    spoil?.(pack)
    const { check, loader, told } = await judgePack(assembleKeep(pack, list), rulebook)
    expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
  })

  it('is spoiled in as many ways as the README says', () => {
    const readme = readFileSync(new URL('../../README.md', import.meta.url), 'utf8')
    expect(readme).toContain(`${keepSpoilers.length} spoiled packs of Hollin Keep`)
    expect(keepSpoilers.length).toBeGreaterThanOrEqual(60)
    expect(new Set(keepSpoilers.map(({ what }) => what)).size).toBe(keepSpoilers.length)
  })
})
