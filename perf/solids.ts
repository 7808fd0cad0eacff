import { writeFileSync } from 'node:fs'
import RAPIER from '@dimforge/rapier3d-compat'
import quickHull from 'quickhull3d/dist/quickhull3d.js'
import { boxMesh, enclosedVolume } from '../core/geometry/shapes/box-mesh.ts'
import { chosenHull, convexHull, type TriangleSoup } from '../core/geometry/shapes/convex-hull.ts'
import { splitIntoHulls } from '../core/geometry/shapes/split.ts'
import { walkerOf } from '../core/rules/solids/bumped-into.ts'
import { findOpenings } from '../core/geometry/walk/openings.ts'
import { rulebookById } from '../core/game/load.ts'
import type { LoadedSolid } from '../core/trial/check-solids.ts'
import { Yard } from '../core/trial/yard/yard.ts'

/**
 * Fitting hulls and splits beside the bare libraries, and the yard with many solids. Run with `npx tsx perf/solids.ts`.
 */
await RAPIER.init()
const rulebook = rulebookById('tarn-and-tiller')
const mesh = dentedBall(110, 226)

/** A ball with waves in it, of about 50,000 triangles. */
function dentedBall(rings: number, sides: number): TriangleSoup {
  const positions: number[] = []
  const indices: number[] = []
  for (let ring = 0; ring <= rings; ring++) {
    for (let side = 0; side < sides; side++) {
      const [polar, angle] = [(ring / rings) * Math.PI, (side / sides) * 2 * Math.PI]
      const [x, y, z] = [Math.sin(polar) * Math.cos(angle), Math.cos(polar), Math.sin(polar) * Math.sin(angle)]
      const reach = 3 * (1 + 0.15 * Math.sin(x * 9) * Math.cos(y * 7 + z * 5))
      positions.push(x * reach, y * reach, z * reach)
      if (ring === rings) continue
      const [a, b] = [ring * sides + side, ring * sides + ((side + 1) % sides)]
      indices.push(a, b, b + sides, a, b + sides, a + sides)
    }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

async function seconds(work: () => unknown): Promise<number> {
  await work()
  let best = Infinity
  for (let round = 0; round < 2; round++) {
    const began = performance.now()
    await work()
    best = Math.min(best, (performance.now() - began) / 1000)
  }
  return best
}

const points = (): [number, number, number][] => {
  const seen = new Map<string, [number, number, number]>()
  for (let at = 0; at < mesh.positions.length; at += 3)
    seen.set(`${mesh.positions[at]} ${mesh.positions[at + 1]} ${mesh.positions[at + 2]}`, [
      mesh.positions[at],
      mesh.positions[at + 1],
      mesh.positions[at + 2],
    ])
  return [...seen.values()]
}
const bareHull = await seconds(() => quickHull(points()))
const ours = await seconds(() => chosenHull(mesh.positions, 32, 0))
const bareSplit = await seconds(() =>
  RAPIER.ColliderDesc.convexDecomposition(mesh.positions, mesh.indices, {
    concavity: 0.01,
    resolution: 48,
    maxConvexHulls: 16,
  }),
)
const split = await seconds(() => splitIntoHulls(mesh, { mostHulls: 8, mostPoints: 32, concavity: 0.01 }))
const openings = await seconds(() => findOpenings(mesh, [mesh], walkerOf(rulebook)))
const hull = chosenHull(mesh.positions, 32, 0)
const full = convexHull(mesh.positions, 100_000)

/** Two hundred boxes and hulls, a tenth of them loose, in a field; the figure walks through them. */
const solids = Array.from({ length: 200 }, (_, number): { solid: LoadedSolid; loose: boolean } => {
  const [x, z] = [(number % 20) * 3 - 30, Math.floor(number / 20) * 3 - 15]
  const { positions, indices } = boxMesh({ min: [x - 0.5, 0, z - 0.5], max: [x + 0.5, 1 + (number % 3), z + 0.5] })
  return {
    loose: number % 10 === 0,
    solid: {
      name: `solid_box_${number}`,
      shape: number % 2 === 0 ? 'box' : 'hull',
      surface: 'timber',
      layers: ['loose'],
      massKilograms: 5,
      positions,
      indices,
      rotation: [0, 0, 0, 1],
      middle: [x, (1 + (number % 3)) / 2, z],
      half: [0.5, (1 + (number % 3)) / 2, 0.5],
    },
  }
})
const yard = await Yard.open(
  solids.map(({ solid, loose }) => ({ name: solid.name, solids: [solid], loose })),
  rulebook,
  [0, 0, -20],
)
const steps = 600
const began = performance.now()
for (let step = 0; step < steps; step++)
  yard.step({ walk: [Math.sin(step / 40), 0, 1], look: [0, 0, 1], actions: step % 60 === 0 ? ['ball'] : [] })
const perSecond = steps / ((performance.now() - began) / 1000)
yard.close()

const lines = [
  '# Solids',
  '',
  'Written by `npx tsx perf/solids.ts`, on one core, in one run: ratios are what to compare.',
  '',
  '| work on 50,000 triangles | ours, s | bare library, s | ratio |',
  '|---|---:|---:|---:|',
  `| a hull of 32 points, its error measured on all points (bare: the full hull) | ${ours.toFixed(2)} | ` +
    `${bareHull.toFixed(2)} | ${(ours / bareHull).toFixed(2)} |`,
  `| a split into 8 hulls of 32 points (bare: as many and as large as they come) | ${split.toFixed(2)} | ` +
    `${bareSplit.toFixed(2)} | ${(split / bareSplit).toFixed(2)} |`,
  `| ways through, view against solids | ${openings.toFixed(2)} | | |`,
  '',
  'The hull of 32 points holds ' +
    `${(((hull ? enclosedVolume(hull.mesh) : 0) / (full ? enclosedVolume(full) : 1)) * 100).toFixed(1)} % of the ` +
    `full hull’s volume and misses no point by more than ${hull?.error.toFixed(3)} of a ball of ` +
    `${Math.max(...mesh.positions).toFixed(1)} in radius.`,
  '',
  `The yard with 200 solids, twenty of them loose, and the figure walking: ${perSecond.toFixed(0)} steps a ` +
    'second on one core (wanted: 60).',
  '',
]
writeFileSync(new URL('./solids.md', import.meta.url), lines.join('\n'))
console.log(lines.join('\n'))
