import { writeFileSync } from 'node:fs'
import { thinKeys } from '../core/geometry/motion/thin-keys.ts'
import { curveSize, valueAt, type Curve } from '../core/maths/curve.ts'

/**
 * Thinning 1,000,000 keys, beside the plainest loop that puts them on the game's rate and neither measures nor leaves
 * out anything. Run with `npx tsx perf/motion.ts`; writes perf/motion.md.
 */
const KEYS = 1_000_000
const KEYS_A_SECOND = 500
const RATE = 30
const TURNS = 3

/** A swing or a way with a little shake, the same each time. */
function shaken(path: 'translation' | 'rotation', shake: number): Curve {
  const size = curveSize(path)
  const times = Float32Array.from({ length: KEYS }, (_, key) => key / KEYS_A_SECOND)
  const values = new Float32Array(KEYS * size)
  let seed = 1
  for (let key = 0; key < KEYS; key++) {
    seed = (seed * 16807) % 2147483647
    const swing = Math.sin(times[key]) * 0.5 + shake * (seed / 2147483647 - 0.5)
    values.set(
      path === 'rotation' ? [0, Math.sin(swing), 0, Math.cos(swing)] : [swing, Math.cos(times[key] * 1.3), 1],
      key * size,
    )
  }
  return { path, times, values, interpolation: 'LINEAR' }
}

function plain(curve: Curve): number {
  const last = curve.times[KEYS - 1]
  const place = new Float64Array(4)
  let sum = 0
  for (let step = 0; step <= last * RATE; step++) sum += valueAt(curve, step / RATE, place)[0]
  return sum
}

const milliseconds = (work: () => unknown): number => {
  const began = performance.now()
  work()
  return performance.now() - began
}
const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]

const rows = (['translation', 'rotation'] as const).flatMap((path) =>
  [0, 0.02].map((shake) => {
    const curve = shaken(path, shake)
    const allowed = path === 'rotation' ? 0.2 : 0.005
    const [ours, loop]: [number[], number[]] = [[], []]
    for (let turn = 0; turn < TURNS; turn++) {
      ours.push(milliseconds(() => thinKeys(curve, { keysPerSecond: RATE, allowed })))
      loop.push(milliseconds(() => plain(curve)))
    }
    const { curve: thinned, largestError } = thinKeys(curve, { keysPerSecond: RATE, allowed })
    const [time, bare] = [middle(ours), middle(loop)]
    const unit = path === 'rotation' ? '°' : ''
    return `| ${path}${shake > 0 ? ', shaken' : ''} | ${allowed}${unit} | ${thinned.times.length.toLocaleString('en')} | ${largestError.toFixed(4)}${unit} | ${time.toFixed(0)} | ${bare.toFixed(0)} | ${(time / bare).toFixed(1)} |`
  }),
)
writeFileSync(
  new URL('motion.md', import.meta.url),
  `# Thinning keys

Written by \`npx tsx perf/motion.ts\`, ${TURNS} times by turns; the middle one is told. ${KEYS.toLocaleString('en')} keys, ${KEYS_A_SECOND} a second, put on
${RATE} a second. The plainest loop reads the curve at the rate and does nothing else. Where a shake is faster than the rate
the error is larger than allowed, and said. Compare the ratios, not the times.

| what | allowed | keys left | largest error | ms | plainest loop, ms | ratio |
|---|---:|---:|---:|---:|---:|---:|
${rows.join('\n')}
`,
)
