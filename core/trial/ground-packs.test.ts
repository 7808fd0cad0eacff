import { describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { checkItem } from '../rules/registry.ts'
import { kindOf } from '../game/load.ts'
import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { shortEdges } from '../geometry/mesh/short-edges.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { packItems } from '../pack/pack-crate.ts'
import { documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { prepareItem } from '../crate/prepare-item.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { loadPack } from './load-pack.ts'
import { Yard } from './yard/yard.ts'
import type { YardInput } from './yard/yard-frame.ts'

/** A game whose cutter takes nothing under a tenth of its unit. */
const strict: Rulebook = rulebookSchema.parse({
  ...tarnAndTiller,
  id: 'tarn-cut',
  kinds: tarnAndTiller.kinds.map((kind) =>
    kind.id === 'ground' && kind.mesh ? { ...kind, mesh: { ...kind.mesh, shortestEdge: 0.1 } } : kind,
  ),
})

/** A quay to walk on, with a kerb as high as is said. */
const quay = (kerb: number): Document =>
  documentOf({
    quay: boxMesh({ min: [-6, 0, -6], max: [6, 1, 6] }),
    kerb: boxMesh({ min: [-6, 1, 5], max: [6, 1 + kerb, 6] }),
  })

async function packed(document: Document, rulebook: Rulebook) {
  const kind = kindOf(rulebook, 'ground')
  const { result } = await prepareItem(
    { key: 'quay', document },
    { rulebook, kind, store: memoryStore() },
    { itemName: 'quay' },
  )
  const { bytes } = await packItems([{ name: 'quay', kind, document: result.document }], rulebook, 'quay')
  const { findings } = checkItem({ document: result.document, rulebook, kind, itemName: 'quay', slot: null })
  return { findings, loaded: loadPack(bytes, rulebook), kind }
}

describe('level geometry', () => {
  it('is walked on in Trial, as its packed surfaces stand', async () => {
    const { loaded } = await packed(quay(0.5), tarnAndTiller)
    expect(loaded.loads).toBe(true)
    const [{ name, solids }] = loaded.items
    expect(solids.map((solid) => solid.shape)).toEqual(['mesh', 'mesh'])
    const yard = await Yard.open([{ name, solids, loose: false }], tarnAndTiller, [0, 1.2, 0])
    const still: YardInput = { walk: [0, 0, 0], look: [0, 0, 1], actions: [] }
    let height = NaN
    for (let step = 0; step < 90; step++) height = yard.step(still).feet[1]
    yard.close()
    expect(Math.abs(height - 1)).toBeLessThan(0.1)
  })

  it.each([
    { kerb: 0.04, fine: true },
    { kerb: 0.5, fine: false },
  ])('with a kerb of $kerb is too fine for the cutter: $fine, by check and by the loader', async ({ kerb, fine }) => {
    const kind = kindOf(strict, 'ground')
    const document = quay(kerb)
    const raw = checkItem({ document, rulebook: strict, kind, itemName: 'quay', slot: null }).findings
    const [found] = raw.filter(({ rule }) => rule === 'edge-too-fine')
    expect(found !== undefined).toBe(fine)
    if (fine) {
      expect(found.message).toMatch(/4 edges under 0\.1 spans, the shortest 0\.04, on kerb/)
      expect(found.place.spots.every(([, y]) => y > 1 && y < 1.04)).toBe(true)
    }
    const { loaded, findings } = await packed(document, strict)
    const complains = loaded.log.some(({ code }) => code === 'mesh.fine')
    expect(findings.some(({ rule }) => rule === 'edge-too-fine')).toBe(complains)
  })
})

describe('short edges', () => {
  it('are each told once, the shortest first, with their middle', () => {
    const { positions, indices } = boxMesh({ min: [0, 0, 0], max: [4, 0.25, 0.5] })
    const edges = shortEdges(positions, indices, 0.3)
    expect(edges.map(({ length }) => length)).toEqual([0.25, 0.25, 0.25, 0.25])
    expect(edges[0].middle[1]).toBeCloseTo(0.125)
    expect(shortEdges(positions, indices, 0.2)).toEqual([])
    expect(shortEdges(Float32Array.from([0, 0, 0, 0, 0, 0, 1, 0, 0]), Uint32Array.from([0, 1, 2]), 0.5)).toEqual([])
  })
})
