// Makes mutants of whole files for every reader, reads each in a process of its own, and writes docs/reliability.md.
// `bin/fuzz [mutants a reader] [first number] [reader …]`; with fewer than two thousand, or from another number on,
// nothing is written; of readers that are named only their rows are.
import { fork } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { z } from 'zod'
import { fuzzedReaders } from '../core/test-support/fuzz/readers'

const PATIENCE_MILLISECONDS = 10_000
const MOST_BYTES = 1024 ** 3
/** After so many a new process: what they leave behind is not the next one's. */
const A_PROCESS = 250
const TOLD = 2000
const PAGE = new URL('reliability.md', import.meta.url)

const [count = TOLD, first = 0] = process.argv
  .slice(2)
  .filter((word) => /^\d+$/.test(word))
  .map(Number)
const named = process.argv.slice(2).filter((word) => !/^\d+$/.test(word))

const reportSchema = z.union([
  z.object({ number: z.number(), begins: z.literal(true) }),
  z.object({
    number: z.number(),
    begins: z.literal(false),
    path: z.string(),
    outcome: z.enum(['read', 'refused', 'no sentence']),
    milliseconds: z.number(),
    grownBytes: z.number(),
    bytes: z.number(),
    message: z.string(),
  }),
])

interface Tally {
  mutants: number
  read: number
  refused: number
  slowest: number
  largest: number
  bad: string[]
}

/** Reads mutants from one number on until the process ends, and returns the number to go on from. */
function inOneProcess(reader: string, from: number, to: number, tally: Tally): Promise<number> {
  const child = fork(new URL('./fuzz-worker.ts', import.meta.url), {
    execArgv: ['--import', 'tsx'],
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  })
  return new Promise((resolve) => {
    let at = from
    let patience: NodeJS.Timeout | undefined
    const bad = (number: number, what: string): void => {
      tally.bad.push(`mutant ${number} ${what}`)
      console.error(`${reader}: mutant ${number} ${what}`)
    }
    child.on('message', (message) => {
      const report = reportSchema.parse(message)
      clearTimeout(patience)
      if (report.begins) {
        at = report.number
        patience = setTimeout(() => {
          bad(at, `took more than ${PATIENCE_MILLISECONDS / 1000} s`)
          child.kill('SIGKILL')
        }, PATIENCE_MILLISECONDS)
        return
      }
      at = report.number + 1
      tally.mutants++
      if (report.outcome === 'read') tally.read++
      if (report.outcome === 'refused') tally.refused++
      tally.slowest = Math.max(tally.slowest, report.milliseconds)
      tally.largest = Math.max(tally.largest, report.bytes)
      if (report.milliseconds > PATIENCE_MILLISECONDS / 4)
        console.error(`${reader}: mutant ${report.number} of ${report.path} took ${Math.round(report.milliseconds)} ms`)
      if (report.outcome === 'no sentence') bad(report.number, `of ${report.path}: ${report.message}`)
      if (report.grownBytes > MOST_BYTES) bad(report.number, `of ${report.path} took ${report.grownBytes} bytes`)
      // What it once took is the least that it can be seen to take again.
      if (report.bytes > MOST_BYTES / 2) child.kill('SIGKILL')
    })
    child.on('exit', (code, signal) => {
      clearTimeout(patience)
      const died = code !== 0 && signal !== 'SIGKILL'
      if (died) bad(at, `ended the process (${code ?? signal})`)
      const hung = signal === 'SIGKILL' && tally.bad.at(-1)?.startsWith(`mutant ${at} took`) === true
      if (died || hung) tally.mutants++
      resolve(died || hung ? at + 1 : at)
    })
    child.send({ reader, from, to })
  })
}

const tallies = new Map<string, Tally>()
for (const { name } of fuzzedReaders.filter((each) => named.length === 0 || named.includes(each.name))) {
  const tally: Tally = { mutants: 0, read: 0, refused: 0, slowest: 0, largest: 0, bad: [] }
  tallies.set(name, tally)
  for (let at = first; at < first + count;)
    at = await inOneProcess(name, at, Math.min(at + A_PROCESS, first + count), tally)
  console.log(
    `${name}: ${tally.mutants} mutants, ${tally.read} read, ${tally.refused} refused, slowest ` +
      `${(tally.slowest / 1000).toFixed(2)} s, largest ${Math.round(tally.largest / 1024 / 1024)} MB, ` +
      `${tally.bad.length} bad`,
  )
}

const bad = [...tallies.values()].reduce((sum, tally) => sum + tally.bad.length, 0)
if (count >= TOLD && first === 0) writeFileSync(PAGE, page())
process.exit(bad === 0 ? 0 : 1)

/** The rows that an earlier run wrote, by reader. */
function earlierRows(): Map<string, string> {
  const text = existsSync(PAGE) ? readFileSync(PAGE, 'utf8') : ''
  return new Map([...text.matchAll(/^\| (.+?) \|.*$/gm)].map(([row, name]) => [name, row]))
}

/** The rows of this run. */
function made(): [string, string][] {
  return [...tallies].map(([name, { mutants, read, refused, slowest, largest, bad: found }]) => [
    name,
    `| ${name} | ${mutants} | ${read} | ${refused} | ${(slowest / 1000).toFixed(2)} | ` +
      `${Math.round(largest / 1024 / 1024)} | ${found.length} |`,
  ])
}

function page(): string {
  const rowsOf = earlierRows()
  for (const [name, row] of made()) rowsOf.set(name, row)
  const rows = fuzzedReaders.flatMap(({ name }) => rowsOf.get(name) ?? [])
  return `# Reliability

Written by \`bin/fuzz\`. Each mutant is a whole file with something changed as its form has it: a value of its JSON, a word
of its text, a number of its bytes, a file of its archive, an entry of its directory. The same numbers give the same
mutants. Bad is what takes more than ${PATIENCE_MILLISECONDS / 1000} s or 1 GB, ends the process, or is refused by
anything but a sentence that says what, where, and what mends it. A share of them runs with the tests
(\`core/test-support/fuzz/\`).

What says all that is wrong in its answer refuses nothing: checking and loading a pack, material files, crate records.

| reader | mutants | read | refused | slowest, s | process at most, MB | bad |
|---|---:|---:|---:|---:|---:|---:|
${rows.join('\n')}

The process counts whole, with the program and what mutants before it left to be cleared.

Seeds: the project's own small files of each form and, where it is there, the small files of Debian's \`assimp-testmodels\`.
How much of a file is read stands in \`core/support/limits.ts\`.
`
}
