import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { inspectPack } from '../inspect/inspect-pack.ts'
import { assembleKeep, keepPack } from '../test-support/spoiled/keep-pack.ts'
import { keepSpoilers } from '../test-support/spoiled/keep-spoilers.ts'
import { loadPack } from './load-pack.ts'

const rulebook = rulebookById('hollin-keep')

/** What check and the loader say of a pack, each in the other's words. */
async function judge(bytes: Uint8Array): Promise<{ check: string; loader: string; told: string[] }> {
  const trial = loadPack(bytes, rulebook)
  const { findings, items } = await inspectPack(bytes, 'pack.zip', rulebook)
  const found = [...findings, ...items.flatMap((item) => item.findings)]
  const has = (severity: string): boolean => found.some((finding) => finding.severity === severity)
  return {
    check: has('blocks') ? 'refuses' : has('risky') ? 'complains' : 'takes',
    loader: !trial.loads ? 'refuses' : trial.log.some(({ level }) => level === 'complaint') ? 'complains' : 'takes',
    told: [
      ...trial.log.filter(({ level }) => level !== 'told').map(({ code }) => code),
      ...found.filter(({ severity }) => severity !== 'note').map(({ rule, message }) => `${rule}: ${message}`),
    ],
  }
}

describe('a pack of Hollin Keep that was written by hand', () => {
  it('is taken without a word', async () => {
    expect(await judge(assembleKeep(keepPack()))).toEqual({ check: 'takes', loader: 'takes', told: [] })
  })

  it.each(keepSpoilers)('with $what: the game $says it', async ({ says, spoil, list }) => {
    const pack = keepPack()
    spoil?.(pack)
    const { check, loader, told } = await judge(assembleKeep(pack, list))
    expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
  })

  it('is spoiled in as many ways as the README says', () => {
    const readme = readFileSync(new URL('../../README.md', import.meta.url), 'utf8')
    expect(readme).toContain(`${keepSpoilers.length} spoiled packs of Hollin Keep`)
    expect(keepSpoilers.length).toBeGreaterThanOrEqual(60)
    expect(new Set(keepSpoilers.map(({ what }) => what)).size).toBe(keepSpoilers.length)
  })
})
