import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { assembleParish, parishPack } from '../test-support/spoiled/parish-pack.ts'
import { parishSpoilers } from '../test-support/spoiled/parish-spoilers.ts'
import { judgePack } from '../test-support/spoiled/judge-pack.ts'

const rulebook = rulebookById('pegboard-parish')

describe('a pack of Pegboard Parish that was written by hand', () => {
  it('is taken without a word', async () => {
    expect(await judgePack(assembleParish(parishPack()), rulebook)).toEqual({
      check: 'takes',
      loader: 'takes',
      told: [],
      rules: [],
    })
  })

  it.each(parishSpoilers)('with $what: the game $says it', async ({ says, spoil, list }) => {
    const pack = parishPack()
    spoil?.(pack)
    const { check, loader, told } = await judgePack(assembleParish(pack, list), rulebook)
    expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
  })

  it('is spoiled in as many ways as the README says', () => {
    const readme = readFileSync(new URL('../../README.md', import.meta.url), 'utf8')
    expect(readme).toContain(`${parishSpoilers.length} spoiled packs of Pegboard Parish`)
    expect(parishSpoilers.length).toBeGreaterThanOrEqual(60)
    expect(new Set(parishSpoilers.map(({ what }) => what)).size).toBe(parishSpoilers.length)
  })
})
