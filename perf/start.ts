// How long a call of the command line takes until it has done next to nothing, beside Node alone, in one run. Writes
// perf/start.md.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const ROUNDS = 9
const folder = mkdtempSync(join(tmpdir(), 'gentle-crate-start-'))
const pack = join(folder, 'empty.zip')
writeFileSync(pack, new Uint8Array(0))

const gentleCrate = (...words: string[]): string[] => ['cli/bin.mjs', ...words]
const calls: [string, string[]][] = [
  ['Node alone', ['--eval', '1']],
  ['help', gentleCrate('help')],
  ['rulebook tarn-and-tiller', gentleCrate('rulebook', 'tarn-and-tiller')],
  ['init', gentleCrate('init', join(folder, 'crate'), '--rulebook', 'tarn-and-tiller')],
  ['trial of what is no pack', gentleCrate('trial', pack, '--rulebook', 'tarn-and-tiller')],
  ['survey of what is not there', gentleCrate('survey', join(folder, 'none.glb'))],
  ['steps', gentleCrate('steps')],
]

const seconds = (words: readonly string[]): number => {
  const began = performance.now()
  spawnSync(process.execPath, words, { stdio: 'ignore' })
  return (performance.now() - began) / 1000
}
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]

// The first call of a checkout compiles.
for (const [, words] of calls) seconds(words)
const taken = calls.map((): number[] => [])
for (let round = 0; round < ROUNDS; round++)
  for (const [number, [, words]] of calls.entries()) taken[number].push(seconds(words))
rmSync(folder, { recursive: true, force: true })

const [alone] = taken.map(median)
const rows = calls.map(
  ([name], number) =>
    `| ${name} | ${median(taken[number]).toFixed(2)} s | ${(median(taken[number]) / alone).toFixed(1)} |`,
)
const text = `# Where a call begins

Calls that have next to nothing to do, beside Node that does nothing: the median of ${ROUNDS} rounds, taken in turns in one
run, compiled before. Only the last column means anything on another machine.

| call | median | times Node alone |
| --- | --- | --- |
${rows.join('\n')}

Written by \`npx tsx perf/start.ts\`.
`
writeFileSync(new URL('./start.md', import.meta.url), text)
console.log(text)
