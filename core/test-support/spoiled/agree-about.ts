import { expect } from 'vitest'
import { judgePack, type Verdict } from './judge-pack.ts'
import { assemble, kegRulebook, rawPack, type RawPack } from './raw-pack.ts'

/** What is wrong with a pack of the keg, what the game says of it, and how it is made so. */
export type Spoiler = [what: string, says: Verdict, spoil: (pack: RawPack) => void]

/** Spoils the keg's pack, and asks check before and the loader after: both say what is written of it. */
export async function agreeAbout(...[_what, says, spoil]: Spoiler): Promise<void> {
  const pack = rawPack()
  spoil(pack)
  const { check, loader, told } = await judgePack(assemble(pack), kegRulebook)
  expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
}
