import type { Rulebook } from '../../game/schema.ts'
import { inspectPack } from '../../inspect/inspect-pack.ts'
import { loadPack } from '../../trial/load-pack.ts'

/** What a game makes of a pack: it does not load, it loads with a complaint, it loads. */
export type Verdict = 'refuses' | 'complains' | 'takes'

/** What check and the loader say of a pack, each in the other's words. */
export async function judgePack(
  bytes: Uint8Array | ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
): Promise<{ check: Verdict; loader: Verdict; told: string[]; rules: string[] }> {
  const trial = loadPack(bytes, rulebook)
  const { findings, items } = await inspectPack(bytes, 'pack.zip', rulebook)
  const found = [...findings, ...items.flatMap((item) => item.findings)]
  const has = (severity: string): boolean => found.some((finding) => finding.severity === severity)
  return {
    check: has('blocks') ? 'refuses' : has('risky') ? 'complains' : 'takes',
    loader: !trial.loads ? 'refuses' : trial.log.some(({ level }) => level === 'complaint') ? 'complains' : 'takes',
    rules: found.map(({ rule }) => rule),
    told: [
      ...trial.log.filter(({ level }) => level !== 'told').map(({ code }) => code),
      ...found.filter(({ severity }) => severity !== 'note').map(({ rule, message }) => `${rule}: ${message}`),
    ],
  }
}
