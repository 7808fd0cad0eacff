import { existsSync, statSync, watch as watchFolder } from 'node:fs'
import { join, resolve } from 'node:path'
import type { BroughtGame } from '../../core/crate/brought-game.ts'
import { rulebookKey } from '../../core/game/game.ts'
import { PlainError, plainMessage } from '../../core/support/plain-error.ts'
import { hashValue } from '../../core/support/hashing.ts'
import { formatCount, plural } from '../../core/support/wording.ts'
import { readBytes, writeBytes } from '../bytes.ts'
import { parseCall, progressLine, required, type Call, type Command } from '../command.ts'
import { writeCrate } from '../crate-out.ts'
import { gatherSources, openCrate } from '../files.ts'
import { gameNamed } from '../game.ts'
import { rebuilder, type Built } from '../rebuild.ts'
import { preparingWords, saidIn } from './prepare.ts'

/** Files are written in several goes: this long nothing has to happen before they are looked at. */
const QUIET_MILLISECONDS = 120

export const watch: Command = {
  async run(words) {
    const call = parseCall(words, { ...preparingWords, crate: { type: 'string' } })
    if (call.positionals.length !== 1) throw new PlainError('it takes one folder', 'watch', 'Name a folder.')
    const [folder] = call.positionals
    if (!existsSync(folder) || !statSync(folder).isDirectory())
      throw new PlainError('there is no such folder', folder, 'Name the folder that your sources lie in.')
    const out = required(call, 'out')
    const build = existsSync(join(folder, 'crate.json'))
      ? ofCrateFolder(folder, call)
      : await ofSourceFolder(folder, out, call)
    let last = ''
    await untilEnded(folder, async () => {
      const began = performance.now()
      try {
        const built = await build.round()
        // What was written lies in the folder perhaps: only what is other than the last time counts.
        const now = hashValue([built.pack.sha256, built.crate.items, built.refused])
        if (now === last) return
        last = now
        writeBytes(out, built.pack.bytes)
        const crate = call.values['crate']
        if (typeof crate === 'string') writeCrate(crate, built)
        tellRound(call, out, built, (performance.now() - began) / 1000)
      } catch (error) {
        if (!(error instanceof PlainError)) throw error
        if (last !== error.message) tellFault(call, error)
        last = error.message
      }
    })
    await build.close()
    return 0
  },
}

interface Build {
  round: () => Promise<Built>
  close: () => Promise<void>
}

/** A folder of sources: what changes is prepared, as the call says, and packed. */
async function ofSourceFolder(folder: string, out: string, call: Call): Promise<Build> {
  const named = await gameNamed(required(call, 'rulebook'))
  const said = saidIn(call, named)
  const read = rememberedReader()
  const crate = call.values['crate']
  const own = [out, ...(typeof crate === 'string' ? [crate] : [])].map((path) => resolve(path))
  const gather = () => gatherSources([folder], { read, leaveOut: own })
  const rebuild = rebuilder(named, gather().length)
  return { round: async () => rebuild.ofSources(gather(), said), close: rebuild.close }
}

/** A crate folder: items whose sources or worklists change are packed anew. */
function ofCrateFolder(folder: string, call: Call): Build {
  let rebuild: { key: string; of: ReturnType<typeof rebuilder> } | null = null
  return {
    async round() {
      const { crate, sources } = await openCrate(folder, call.values['rulebook'])
      if (crate.items.length === 0) throw new PlainError('the crate is empty', folder, 'Bring an item first.')
      const key = rulebookKey(crate.rulebook)
      if (rebuild?.key !== key) {
        await rebuild?.of.close()
        const stock = (crate.stock && sources.get(crate.stock.sha256)) ?? null
        const game: BroughtGame = { game: { rulebook: crate.rulebook, stock: crate.stock }, stock }
        rebuild = { key, of: rebuilder(game, crate.items.length) }
      }
      return rebuild.of.ofCrate(crate, sources)
    },
    close: async () => rebuild?.of.close(),
  }
}

/** Reads files once as long as they are not written anew. */
function rememberedReader(): (path: string) => Uint8Array {
  const known = new Map<string, { mark: string; bytes: Uint8Array }>()
  return (path) => {
    const { mtimeMs, size } = statSync(path)
    const mark = `${mtimeMs} ${size}`
    const before = known.get(path)
    if (before?.mark === mark) return before.bytes
    const bytes = readBytes(path)
    known.set(path, { mark, bytes })
    return bytes
  }
}

/** Calls `round` at once and after each change, one at a time, until the program is asked to end. */
function untilEnded(folder: string, round: () => Promise<void>): Promise<void> {
  return new Promise((resolveEnd, reject) => {
    let quiet: ReturnType<typeof setTimeout> | undefined
    let running: Promise<void> | null = null
    let again = false
    const begin = (): void => {
      if (running) {
        again = true
        return
      }
      again = false
      running = round()
        .catch(reject)
        .finally(() => {
          running = null
          if (again) begin()
        })
    }
    const watcher = watchFolder(folder, { recursive: true }, () => {
      clearTimeout(quiet)
      quiet = setTimeout(begin, QUIET_MILLISECONDS)
    })
    const end = (): void => {
      watcher.close()
      clearTimeout(quiet)
      resolveEnd()
    }
    process.once('SIGINT', end)
    process.once('SIGTERM', end)
    progressLine(`Watching ${folder}. End with Ctrl + C.`)
    begin()
  })
}

function tellRound(call: Call, out: string, { pack, worked, refused, blocks, items }: Built, seconds: number): void {
  if (call.json) {
    const { bytes, sha256 } = pack
    return console.log(
      JSON.stringify({ out, bytes: bytes.length, sha256, items: items.length, worked, refused, blocks, seconds }),
    )
  }
  const what = worked.length === 0 ? 'nothing is new' : `${fewOf(worked)} made in ${seconds.toFixed(1)} s`
  console.log(
    [
      ...refused,
      `${what}; ${out}: ${formatCount(pack.bytes.length)} bytes, ${plural(items.length, 'item')}, ${blocks} ` +
        'findings block',
    ].join('\n'),
  )
}

const MOST_NAMED = 4

const fewOf = (names: readonly string[]): string =>
  names.length <= MOST_NAMED
    ? names.join(', ')
    : `${names.slice(0, MOST_NAMED - 1).join(', ')} and ${names.length - MOST_NAMED + 1} more`

/** What is wrong now may be mended with the next save: it ends nothing. */
function tellFault(call: Call, error: PlainError): void {
  if (call.json) console.log(JSON.stringify({ error: plainMessage(error) }))
  else console.error(`gentle-crate: ${plainMessage(error)}`)
}
