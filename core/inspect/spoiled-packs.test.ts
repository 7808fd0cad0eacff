import { describe, expect, it } from 'vitest'
import { archiveSpoilers } from '../test-support/spoiled/archive-spoilers.ts'
import { containerSpoilers } from '../test-support/spoiled/container-spoilers.ts'
import { cornerSpoilers } from '../test-support/spoiled/corner-spoilers.ts'
import { drawnSpoilers } from '../test-support/spoiled/drawn-spoilers.ts'
import type { Verdict } from '../test-support/spoiled/file-changes.ts'
import { lookSpoilers } from '../test-support/spoiled/look-spoilers.ts'
import { standInSpoilers } from '../test-support/spoiled/stand-in-spoilers.ts'
import { assemble, kegRulebook, rawPack } from '../test-support/spoiled/raw-pack.ts'
import { loadPack } from '../trial/load-pack.ts'
import { inspectPack } from './inspect-pack.ts'

/** Packs spoiled in their files alone: what check says before, the loader says after, and both as is written here. */
const spoilers = [
  ...archiveSpoilers,
  ...lookSpoilers,
  ...containerSpoilers,
  ...drawnSpoilers,
  ...cornerSpoilers,
  ...standInSpoilers,
]

async function checked(bytes: Uint8Array): Promise<{ verdict: Verdict; told: string[] }> {
  const report = await inspectPack(bytes, 'keg.zip', kegRulebook)
  const findings = [...report.findings, ...report.items.flatMap((item) => item.findings)]
  const verdict = findings.some(({ severity }) => severity === 'blocks')
    ? 'refused'
    : findings.some(({ severity }) => severity === 'risky')
      ? 'complaint'
      : 'silent'
  return {
    verdict,
    told: findings.filter(({ severity }) => severity !== 'note').map(({ rule, message }) => `${rule}: ${message}`),
  }
}

function tried(bytes: Uint8Array): { verdict: Verdict; told: string[] } {
  const { loads, log } = loadPack(bytes, kegRulebook)
  const verdict = !loads ? 'refused' : log.some(({ level }) => level === 'complaint') ? 'complaint' : 'silent'
  return {
    verdict,
    told: log.filter(({ level }) => level !== 'told').map(({ code, message }) => `${code}: ${message}`),
  }
}

describe('check and the loader about packs of other hands', () => {
  it('are asked about at least 120 of them', () => expect(spoilers.length).toBeGreaterThanOrEqual(120))

  it.each(spoilers)('agree about %s', async (_what, verdict, spoil) => {
    const pack = rawPack()
    spoil(pack)
    const bytes = assemble(pack)
    const [before, after] = [await checked(bytes), tried(bytes)]
    expect(
      { check: before.verdict, loader: after.verdict },
      `check: ${before.told.join('; ')}\nloader: ${after.told.join('; ')}`,
    ).toEqual({ check: verdict, loader: verdict })
  })
})
