import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'

/**
 * A late step of a worklist with maps of 1024² is edited and the worklist run again, here and in another checkout, one
 * after the other in one run: `npx tsx perf/late-edit.ts FOLDER [TIMES]`. Both need their `node_modules`. With `--in
 * FOLDER` it is the measured call itself.
 */
const [word, value, times = '5'] = process.argv.slice(2)

/** Loads what a checkout's own sources export; checkouts of other days export other types. */
const from = async (folder: string, file: string): Promise<Record<string, (...given: unknown[]) => unknown>> =>
  (await import(pathToFileURL(join(folder, file)).href)) as Record<string, (...given: unknown[]) => unknown>

/** A look of the gate's stone in another hue, of one map of 1024². */
const recolouring = (
  material: string,
  degrees: number,
): { step: string; parameters: Record<string, unknown>; id: string; on: boolean } => ({
  id: 'recolouring',
  step: 'recolour-looks',
  on: true,
  parameters: {
    material,
    variants: [
      { name: 'dusk', hueDegrees: degrees, saturation: 0, lightness: 0, colour: '#888888', mode: 'tint', strength: 0 },
    ],
    hues: [],
    greyChroma: 0.02,
    protect: '',
  },
})

/** Runs the gate's worklist, then five edits of a look's hue; milliseconds of the middle edit. */
async function measure(folder: string): Promise<number> {
  process.chdir(folder)
  await from(folder, 'cli/node-assets.ts')
  const { bringIn, startFrom } = await from(folder, 'core/crate/bring-in.ts')
  const { kindOf, rulebookById } = await from(folder, 'core/game/load.ts')
  const { prepareWorklist } = await from(folder, 'core/worklist/prepare.ts')
  const { memoryStore } = await from(folder, 'core/worklist/result-store.ts')
  const { runWorklist } = await from(folder, 'core/worklist/run.ts')
  const { demoSources } = await from(folder, 'core/test-support/sources.ts')
  const rulebook = rulebookById('tarn-and-tiller')
  const brought = (await bringIn(demoSources('boathouse_gate'), 'prop', { metresPerUnit: 0.01, up: '+z' }, [])) as {
    item: unknown
    document: unknown
    files: { file: unknown }[]
  }[]
  const [{ item, document, files }] = brought
  // Earlier checkouts take the rulebook where later ones take the game with its stock.
  const game = startFrom.length > 4 ? { rulebook, stock: null } : rulebook
  const material = 'gate_stone'
  const start = await startFrom(
    item,
    document,
    files.map(({ file }) => file),
    game,
    async () => null,
  )
  const options = { rulebook, kind: kindOf(rulebook, 'prop'), store: memoryStore() }
  const proposed = (await prepareWorklist(start, options)) as { step: string; parameters: Record<string, unknown> }[]
  const withHue = (degrees: number): typeof proposed =>
    proposed.flatMap((entry) => (entry.step === 'compress-maps' ? [recolouring(material, degrees), entry] : [entry]))
  await runWorklist(start, withHue(0), options)
  const taken: number[] = []
  for (let edit = 1; edit <= 5; edit++) {
    const began = performance.now()
    await runWorklist(start, withHue(edit * 20), options)
    taken.push(performance.now() - began)
  }
  return taken.sort((a, b) => a - b)[2]
}

const measured = (folder: string): Promise<number> =>
  new Promise((resolve, reject) => {
    const call = ['--import', 'tsx', join(process.cwd(), 'perf/late-edit.ts'), '--in', folder]
    const child = spawn(process.execPath, call, { cwd: folder, stdio: ['ignore', 'pipe', 'inherit'] })
    let said = ''
    child.stdout.on('data', (piece: Buffer) => (said += piece.toString()))
    child.on('exit', (code) => (code === 0 ? resolve(Number(said)) : reject(new Error(`${folder}: exit code ${code}`))))
  })

if (word === '--in') {
  console.log(await measure(value))
  process.exit(0)
}
if (!word) throw new Error('Name the folder of the checkout to compare with.')
const runs: { there: number; here: number }[] = []
for (let run = 0; run < Number(value ?? times); run++)
  runs.push({ there: await measured(word), here: await measured(process.cwd()) })
const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]
const text = `# An edit of a late map step

Written by \`npx tsx perf/late-edit.ts FOLDER\`: the gate's stone, a map of 1024 × 1024, gets another hue and all that follows
runs again, the other maps being what they were, here and in another checkout by turns: ${runs.length} pairs, the middle one is told. The other checkout was the commit before
pictures were handed on as pixels.

| | before, ms | now, ms | ratio |
|---|---:|---:|---:|
| edit | ${middle(runs.map(({ there }) => there)).toFixed(0)} | ${middle(runs.map(({ here }) => here)).toFixed(0)} | ${middle(runs.map(({ here, there }) => here / there)).toFixed(2)} |
`
writeFileSync('perf/late-edit.md', text)
console.log(text)
