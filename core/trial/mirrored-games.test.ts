import { beforeAll, describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { bringIn, startKey } from '../crate/bring-in.ts'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import { enclosedVolume } from '../geometry/shapes/box-mesh.ts'
import { createSurfaceFinder } from '../geometry/surface/surface-distance.ts'
import { decodeAnyImage } from '../pictures/open-image.ts'
import type { Pixels } from '../pictures/pixels.ts'
import { sampleWithEdges } from '../pictures/sample.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { mirroredGames } from '../test-support/mirrored-games.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources } from '../test-support/sources.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { runWorklist } from '../worklist/run.ts'
import { inScene } from './check-mesh.ts'
import type { LoadedItem } from './load-item.ts'
import { loadPack } from './load-pack.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { walkFigure, type Point } from './walk.ts'

const loaded = new Map<string, Promise<LoadedItem>>()

/** The same for each item and game once. */
function through(folder: Parameters<typeof demoSources>[0], kindId: string, rulebook: Rulebook): Promise<LoadedItem> {
  const key = `${folder} ${rulebook.id}`
  const known = loaded.get(key) ?? goThrough(folder, kindId, rulebook)
  loaded.set(key, known)
  return known
}

/** A demo item through Prepare, check, pack and the loader of one game. */
async function goThrough(
  folder: Parameters<typeof demoSources>[0],
  kindId: string,
  rulebook: Rulebook,
): Promise<LoadedItem> {
  const kind = kindOf(rulebook, kindId)
  // A game that differs in axes and hand alone prepares in the same space; the bell shows it, the others need not wait
  // for it again.
  const sameInside = rulebook.space.unit.name === 'span' && rulebook.files.mesh.writer === 'glb' && kindId !== 'mover'
  const document = await prepared(folder, kindId, sameInside ? tarnAndTiller : rulebook)
  const open = checkItem({ document, rulebook, kind }).findings.filter(({ severity }) => severity !== 'note')
  expect(open.map(({ message }) => message)).toEqual([])
  const pack = await packItems([{ name: folder, kind, document }], rulebook, folder)
  const trial = loadPack(pack.bytes, rulebook)
  const told = trial.log.filter(({ level }) => level !== 'told')
  expect(told.map(({ code, message }) => `${code} ${message}`)).toEqual([])
  expect(trial.loads).toBe(true)
  return trial.items[0]
}

const documents = new Map<string, Promise<Document>>()

function prepared(folder: Parameters<typeof demoSources>[0], kindId: string, rulebook: Rulebook): Promise<Document> {
  const key = `${folder} ${rulebook.id}`
  const known = documents.get(key) ?? prepare(folder, kindId, rulebook)
  documents.set(key, known)
  return known
}

async function prepare(
  folder: Parameters<typeof demoSources>[0],
  kindId: string,
  rulebook: Rulebook,
): Promise<Document> {
  const reading = folder === 'boathouse_gate' ? { metresPerUnit: 0.01, up: '+z' as const } : {}
  const [{ item, document }] = await bringIn(demoSources(folder), kindId, reading, [])
  const options = { rulebook, kind: kindOf(rulebook, kindId), store: memoryStore() }
  const start = { key: startKey(item), document }
  const result = await runWorklist(start, await prepareWorklist(start, options), options)
  expect(result.failed).toBe(false)
  return result.document
}

interface Soup {
  positions: Float32Array
  indices: Uint32Array
}

/** Triangles of nodes in metres, in the yard's space, which is the same for all games. */
function inMetres(nodes: readonly LoadedNode[], { space }: Rulebook): Soup {
  const positions: number[] = []
  const indices: number[] = []
  for (const node of nodes)
    for (const primitive of node.primitives) {
      const first = positions.length / 3
      for (const value of inScene(node, primitive.positions)) positions.push(value * space.unit.metres)
      for (const corner of primitive.indices) indices.push(corner + first)
    }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

/** How far the corners of one surface lie from another, at worst. */
function furthest(from: Soup, to: Soup): number {
  const finder = createSurfaceFinder(to)
  let worst = 0
  for (let at = 0; at < from.positions.length; at += 3) {
    const [x, y, z] = from.positions.subarray(at, at + 3)
    worst = Math.max(worst, finder.nearest(x, y, z)?.distance ?? Infinity)
  }
  return worst
}

const sizeOf = ({ positions }: Soup): number => {
  const ends = [0, 1, 2].map((axis) => positions.filter((_, at) => at % 3 === axis))
  return Math.max(
    ...ends.map((values) => values.reduce((a, b) => Math.max(a, b)) - values.reduce((a, b) => Math.min(a, b))),
  )
}

type Painter = (triangle: number, point: readonly number[]) => number[] | null

/** Tells the colour at a place of a triangle, as the loaded maps and UVs have it; triangles count through all nodes. */
async function painter(item: LoadedItem, rulebook: Rulebook, soup: Soup): Promise<Painter> {
  const role = rulebook.maps.roles[0].role
  const pictures = new Map<string, Pixels>()
  for (const { name, maps } of item.materials.values()) {
    const bytes = maps.get(role)
    if (bytes) pictures.set(name, (await decodeAnyImage(bytes)).pixels)
  }
  const triangles = item.view.flatMap(({ primitives }) =>
    primitives.flatMap(({ material, uvs, indices }) =>
      Array.from({ length: indices.length / 3 }, (_, number) => ({
        picture: pictures.get(material ?? ''),
        uvs: [0, 1, 2].map((corner) => {
          const at = indices[number * 3 + corner] * 2
          return uvs ? [uvs[at], uvs[at + 1]] : [0, 0]
        }),
      })),
    ),
  )
  return (triangle, point) => {
    const { picture, uvs } = triangles[triangle]
    if (!picture) return null
    const weights = barycentric(soup, triangle, point)
    const [u, v] = [0, 1].map((axis) => weights.reduce((sum, weight, corner) => sum + weight * uvs[corner][axis], 0))
    const sample = new Float32Array(4)
    sampleWithEdges(picture, u, v, ['repeat', 'repeat'], sample)
    return [...sample.slice(0, 3)]
  }
}

/** How much each corner of a triangle counts at a point of it. */
function barycentric({ positions, indices }: Soup, triangle: number, point: readonly number[]): number[] {
  const corners = [0, 1, 2].map((corner) => {
    const at = indices[triangle * 3 + corner] * 3
    return [positions[at], positions[at + 1], positions[at + 2]]
  })
  const area = (a: readonly number[], b: readonly number[], c: readonly number[]): number => {
    const [p, q] = [b, c].map((each) => each.map((value, axis) => value - a[axis]))
    return Math.hypot(p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0])
  }
  const [a, b, c] = corners
  const parts = [area(point, b, c), area(point, c, a), area(point, a, b)]
  const whole = parts[0] + parts[1] + parts[2] || 1
  return parts.map((part) => part / whole)
}

/** How far the colours of two loaded items lie apart at the same places, on average, of 255. */
async function coloursApart(
  [item, game, soup]: [LoadedItem, Rulebook, Soup],
  [other, otherGame, otherSoup]: [LoadedItem, Rulebook, Soup],
): Promise<number> {
  const [here, there] = [await painter(item, game, soup), await painter(other, otherGame, otherSoup)]
  const [self, finder] = [createSurfaceFinder(soup), createSurfaceFinder(otherSoup)]
  const count = soup.indices.length / 3
  let [sum, looked] = [0, 0]
  for (let number = 0; number < 400; number++) {
    const triangle = Math.floor((number * count) / 400)
    const point = [0, 1, 2].map((axis) =>
      [0, 1, 2].reduce(
        (total, corner) => total + soup.positions[soup.indices[triangle * 3 + corner] * 3 + axis] / 3,
        0,
      ),
    )
    // Where two surfaces lie in one place either may be found.
    if (self.nearest(point[0], point[1], point[2])?.triangle !== triangle) continue
    const near = finder.nearest(point[0], point[1], point[2])
    const [own, theirs] = [here(triangle, point), near && there(near.triangle, near.point)]
    if (!own || !theirs) continue
    sum += own.reduce((total, value, channel) => total + Math.abs(value - theirs[channel]) / 3, 0)
    looked++
  }
  expect(looked).toBeGreaterThan(100)
  return sum / looked
}

describe.each([
  ['boathouse_gate', 'prop'],
  ['mooring_bell', 'mover'],
  ['galley_stove', 'fitting'],
] as const)('%s, in a game and its mirrors', (folder, kindId) => {
  // Files that are written otherwise are tried on the smaller things.
  const games = mirroredGames.filter(({ files }) => files.mesh.writer !== 'dae' || folder !== 'boathouse_gate')
  let first: LoadedItem
  let whole: Soup
  beforeAll(async () => {
    first = await through(folder, kindId, tarnAndTiller)
    whole = inMetres(first.view, tarnAndTiller)
  })

  it.each(games.map((game) => [game.id, game] as const))('is the same when %s has loaded it', async (_id, game) => {
    const item = await through(folder, kindId, game)
    const soup = inMetres(item.view, game)
    const size = sizeOf(whole)
    expect(item.view.map(({ name }) => name)).toEqual(first.view.map(({ name }) => name))
    // Which edges a reduction takes hangs on the last digit of a place, which another unit rounds otherwise: there
    // its own shift counts.
    const rounded = folder === 'boathouse_gate' && game.space.unit.metres !== tarnAndTiller.space.unit.metres
    expect(furthest(soup, whole) / size).toBeLessThan(rounded ? 5e-3 : 1e-4)
    expect(furthest(whole, soup) / size).toBeLessThan(rounded ? 5e-3 : 1e-4)
    const volume = enclosedVolume(whole)
    expect(Math.abs(enclosedVolume(soup) - volume)).toBeLessThan(1e-3 * Math.abs(volume))
    expect(await coloursApart([item, game, soup], [first, tarnAndTiller, whole])).toBeLessThan(4)
    const told = ({ solids }: LoadedItem) =>
      solids.map(({ name, shape, surface, layers }) => [name, shape, surface, layers])
    expect(told(item)).toEqual(told(first))
    const placed = ({ solids }: LoadedItem, { space }: Rulebook): number[] =>
      solids
        .flatMap(({ middle, half }) => [...middle, ...[...half].sort((a, b) => a - b)])
        .map((value) => value * space.unit.metres)
    const expected = placed(first, tarnAndTiller)
    for (const [at, value] of placed(item, game).entries())
      expect(Math.abs(value - expected[at])).toBeLessThan(rounded ? 5e-2 : 1e-3)
  })

  it.each(games.map((game) => [game.id, game] as const))(
    'moves and is walked through alike in %s',
    async (_id, game) => {
      const item = await through(folder, kindId, game)
      // A clip of matrices has more keys than were asked for: those that were are among them.
      if (game.files.mesh.writer === 'dae') expectMotionWithin(item, game, first)
      else expect(motionOf(item, game)).toEqual(motionOf(first, tarnAndTiller))
      if (folder !== 'boathouse_gate') return
      const walk = async (loaded: LoadedItem, rulebook: Rulebook) => {
        const at = (x: number, z: number): Point => [x / rulebook.space.unit.metres, 0, z / rulebook.space.unit.metres]
        const through_ = await walkFigure(loaded.solids, rulebook, at(0, -2.5), at(0, 2.5))
        const against = await walkFigure(loaded.solids, rulebook, at(1.2, -2.5), at(1.2, 2.5))
        return [through_.arrived, against.arrived]
      }
      expect(await walk(item, game)).toEqual(await walk(first, tarnAndTiller))
      expect(await walk(item, game)).toEqual([true, false])
    },
  )
})

/** What clips do, in metres: node, seconds and values of each key. */
function motionOf({ clips }: LoadedItem, { space }: Rulebook): unknown {
  return clips.map(({ channels }) =>
    channels.map(({ node, path, times, values }) => ({
      node: node.name,
      path,
      times: [...times].map((time) => Math.round(time * 1e4)),
      values: [...values].map(
        (value) => Math.round(value * (path === 'translation' ? space.unit.metres : 1) * 1e3) / 1e3 + 0,
      ),
    })),
  )
}

/** Every key of a thing in the first game is a key of it in another, with the same value. */
function expectMotionWithin({ clips }: LoadedItem, { space }: Rulebook, first: LoadedItem): void {
  expect(clips).toHaveLength(first.clips.length)
  for (const [number, { channels }] of first.clips.entries())
    for (const { node, path, times, values } of channels) {
      const other = clips[number].channels.find((each) => each.node.name === node.name && each.path === path)
      const size = path === 'rotation' ? 4 : 3
      times.forEach((seconds, key) => {
        const at = other?.times.findIndex((each) => Math.abs(each - seconds) < 1e-4) ?? -1
        expect(at).toBeGreaterThanOrEqual(0)
        const metres = path === 'translation' ? [space, tarnAndTiller.space].map(({ unit }) => unit.metres) : [1, 1]
        const [made, meant] = [
          [...(other?.values.subarray(at * size, at * size + size) ?? [])].map((value) => value * metres[0]),
          [...values.subarray(key * size, key * size + size)].map((value) => value * metres[1]),
        ]
        // A turn and its opposite are one.
        const sign = path === 'rotation' && made.reduce((sum, value, axis) => sum + value * meant[axis], 0) < 0 ? -1 : 1
        made.forEach((value, axis) => expect(value * sign).toBeCloseTo(meant[axis], 3))
      })
    }
}
