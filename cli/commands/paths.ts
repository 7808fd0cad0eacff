import { namedItems } from '../../core/crate/evaluate-items.ts'
import { startOf } from '../../core/crate/bring-in.ts'
import type { PathRow } from '../../core/crate/path-row.ts'
import { pathRows } from '../../core/crate/path-rows.ts'
import { applyCommand } from '../../core/crate/commands.ts'
import { rebaseCommands } from '../../core/crate/rebase.ts'
import type { Crate } from '../../core/crate/schema.ts'
import { kindOf } from '../../core/game/load.ts'
import { isImageFile } from '../../core/intake/images.ts'
import { sha256Hex } from '../../core/support/hashing.ts'
import { fitsPattern } from '../../core/support/name-pattern.ts'
import { PlainError, plainMessage } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { memoryStore } from '../../core/worklist/result-store.ts'
import { runWorklist } from '../../core/worklist/run.ts'
import { parseCall, print, progressLine, required, type Call, type Command } from '../command.ts'
import { writeCrate } from '../crate-out.ts'
import { openCrate } from '../files.ts'
import { readFolder } from '../folders.ts'

export const paths: Command = {
  async run(words) {
    const call = parseCall(words, {
      find: { type: 'string' },
      trouble: { type: 'boolean' },
      names: { type: 'boolean' },
      rebase: { type: 'string' },
      out: { type: 'string' },
      rulebook: { type: 'string' },
    })
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate', 'paths', 'Name a crate file or folder.')
    const [path] = call.positionals
    const { crate, sources } = await openCrate(path, call.values['rulebook'])
    if (call.values['rebase'] !== undefined) return rebaseCrate(call, crate, sources)
    const { rows, faults } = await rowsOf(crate, sources, true)
    const find = call.values['find']
    const shown = rows.filter(
      (row) =>
        (call.values['names'] === true || row.sort === 'mesh' || row.sort === 'picture') &&
        (call.values['trouble'] !== true || row.trouble !== null) &&
        (typeof find !== 'string' ||
          [row.item, row.asks, row.written, ...row.packed].some((each) => fitsPattern(each, find))),
    )
    const troubles = shown.filter(({ trouble }) => trouble !== null && trouble !== 'own disk').length
    print(call, { paths: shown, faults, troubles }, [
      ...shown.map(line),
      ...faults,
      `${plural(shown.length, 'path')}, ${troubles} to look at`,
    ])
    return faults.length > 0 || shown.some(({ trouble }) => trouble === 'missing') ? 1 : 0
  },
}

const line = ({ item, asks, written, found, stock, packed, trouble }: PathRow): string =>
  `${item}  ${asks}: ${written}${found === null || found === written ? '' : ` (${found})`} → ${
    packed.join(', ') || (stock ?? 'not packed')
  }${trouble === null ? '' : `  [${trouble}]`}`

/** @param ran whether worklists are run: only then is it known what is packed */
async function rowsOf(
  crate: Crate,
  sources: ReadonlyMap<string, Uint8Array>,
  ran: boolean,
): Promise<{ rows: PathRow[]; faults: string[] }> {
  const rows: PathRow[] = []
  const faults: string[] = []
  const { rulebook } = crate
  for (const named of namedItems(crate)) {
    progressLine(named.item.name)
    try {
      const start = await startOf(named.item, async (sha256) => sources.get(sha256) ?? null, crate)
      const options = { rulebook, kind: kindOf(rulebook, named.item.kind), store: memoryStore(1) }
      const { document } = await runWorklist(start, ran ? named.item.worklist : [], options)
      rows.push(...pathRows(named, start.document, document, rulebook))
    } catch (error) {
      if (!(error instanceof PlainError)) throw error
      faults.push(`${named.item.name}: ${plainMessage(error)}`)
    }
  }
  return { rows, faults }
}

/** Leads written paths below a folder to pictures in another, which come into the items that ask for them. */
async function rebaseCrate(call: Call, crate: Crate, sources: Map<string, Uint8Array>): Promise<number> {
  const said = String(call.values['rebase'])
  const sign = said.lastIndexOf('=')
  if (sign < 0)
    throw new PlainError('it says no other folder', '--rebase', 'Write it as --rebase "E:\\Edda\\textures=./textures".')
  const out = required(call, 'out')
  const files = [...readFolder(said.slice(sign + 1))]
    .filter(([path]) => isImageFile(path))
    .map(([path, bytes]) => ({ path, bytes, sha256: sha256Hex(bytes) }))
  const { rows } = await rowsOf(crate, sources, false)
  const commands = rebaseCommands(
    rows,
    said.slice(0, sign),
    files.map(({ path, sha256, bytes }) => ({ path, sha256, bytes: bytes.length })),
  )
  if (commands.length === 0)
    throw new PlainError('no written path begins so and has a picture there', said, 'See the paths without --rebase.')
  for (const { sha256, bytes } of files) sources.set(sha256, bytes)
  writeCrate(out, { crate: applyCommand(crate, { do: 'several', commands }), sources })
  const names = new Map(crate.items.map(({ id, name }) => [id, name]))
  const led = commands.flatMap((command) =>
    command.do === 'link-texture'
      ? [{ item: names.get(command.item) ?? command.item, written: command.written, path: command.path ?? '' }]
      : [],
  )
  print(call, { out, led }, [
    ...led.map(({ item, written, path }) => `${item}  ${written} → ${path}`),
    `${out}: ${plural(led.length, 'path')} led elsewhere`,
  ])
  return 0
}
