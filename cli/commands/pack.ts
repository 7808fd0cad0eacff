import { basename } from 'node:path'
import { packCrate } from '../../core/crate/evaluate.ts'
import { namedAgainst } from '../../core/game/pack-order.ts'
import { noStore } from '../../core/worklist/result-store.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { parseCall, print, progressLine, required, type Command } from '../command.ts'
import { writeBytes } from '../bytes.ts'
import { openCrate } from '../files.ts'

export const pack: Command = {
  name: 'pack',
  usage: 'pack CRATE.zip|FOLDER --out PACK.zip [--rulebook ID|FILE]',
  summary: 'Runs every worklist and writes the archive the game loads; says how many findings block.',
  async run(words) {
    const call = parseCall(words, { out: { type: 'string' }, rulebook: { type: 'string' } })
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate', 'pack', 'Name a crate file or folder.')
    const out = required(call, 'out')
    const { crate, sources } = await openCrate(call.positionals[0], call.values['rulebook'])
    if (crate.items.length === 0)
      throw new PlainError('the crate is empty', call.positionals[0], 'Bring an item first.')
    const { pack: made, blocks } = await packCrate(crate, {
      store: noStore,
      bytesOf: async (sha256) => sources.get(sha256) ?? null,
      onProgress: ({ title, fraction }) => progressLine(`${Math.round(fraction * 100)} % ${title}`),
    })
    const { base } = crate.rulebook.files.archive
    const warnings = base === null ? [] : namedAgainst(basename(out), base)
    if (base !== null && basename(out).toLowerCase() === base.toLowerCase())
      throw new PlainError(`${base} is the game’s own pack, which is never written`, out, 'Give yours a later name.')
    writeBytes(out, made.bytes)
    print(call, { out, bytes: made.bytes.length, sha256: made.sha256, files: made.files, blocks, warnings }, [
      ...warnings,
      ...made.files.map((file) => `${String(file.bytes).padStart(10)}  ${file.path}`),
      `${out}: ${made.bytes.length} bytes, sha256 ${made.sha256}`,
      `${blocks} findings block`,
    ])
    return blocks > 0 ? 1 : 0
  },
}
