import { spawn } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/**
 * The whole worklist of the boathouse gate from source to crate file, here and in another checkout, one after the other
 * in one run: `npx tsx perf/worklist.ts FOLDER [TIMES]`. Both need their `node_modules`.
 */
const [other, times = '3'] = process.argv.slice(2)
if (!other) throw new Error('Name the folder of the checkout to compare with.')
const out = join(mkdtempSync(join(tmpdir(), 'worklist-')), 'gate.zip')
const call = [
  'cli/bin.mjs',
  'prepare',
  'demo/sources/boathouse_gate/boathouse_gate.obj',
  ...['--unit', 'cm', '--up', 'z', '--rulebook', 'tarn-and-tiller', '--kind', 'prop', '--out', out],
]
const tellMemory = `data:text/javascript,process.on('exit',()=>process.stderr.write('peak '+process.resourceUsage().maxRSS))`

function timed(folder: string): Promise<{ seconds: number; megabytes: number }> {
  const began = performance.now()
  const child = spawn(process.execPath, ['--import', tellMemory, ...call], { cwd: folder })
  let said = ''
  child.stderr.on('data', (piece: Buffer) => (said += piece.toString()))
  return new Promise((resolve, reject) =>
    child.on('exit', (code) => {
      const kilobytes = Number(/peak (\d+)/.exec(said)?.[1])
      if (code === 0) resolve({ seconds: (performance.now() - began) / 1000, megabytes: kilobytes / 1024 })
      else reject(new Error(`${folder}: exit code ${code}. ${said.slice(-500)}`))
    }),
  )
}

const runs: { here: Awaited<ReturnType<typeof timed>>; there: Awaited<ReturnType<typeof timed>> }[] = []
await timed(process.cwd())
await timed(other)
for (let run = 0; run < Number(times); run++) runs.push({ there: await timed(other), here: await timed(process.cwd()) })
const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]
const ratio = (of: (run: { seconds: number; megabytes: number }) => number): string =>
  middle(runs.map(({ here, there }) => of(here) / of(there))).toFixed(2)
const text = `# The whole worklist of the gate

Written by \`npx tsx perf/worklist.ts FOLDER\`, which prepares the boathouse gate here and in another checkout by turns: ${runs.length} pairs, the
middle one is told. The other checkout was the commit before pictures were handed on as pixels.

| | before | now | ratio |
|---|---:|---:|---:|
| time, s | ${middle(runs.map(({ there }) => there.seconds)).toFixed(1)} | ${middle(runs.map(({ here }) => here.seconds)).toFixed(1)} | ${ratio((run) => run.seconds)} |
| peak memory, MB | ${Math.round(middle(runs.map(({ there }) => there.megabytes)))} | ${Math.round(middle(runs.map(({ here }) => here.megabytes)))} | ${ratio((run) => run.megabytes)} |
`
writeFileSync('perf/worklist.md', text)
console.log(text)
