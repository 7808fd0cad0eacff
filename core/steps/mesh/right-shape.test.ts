import { describe, expect, it } from 'vitest'
import { readItem } from '../../intake/read-item.ts'
import { mergedTriangles, partsBounds } from '../../item/measure.ts'
import { countTriangles, listViewParts } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { accessorToFloats, writeAttribute } from '../../item/primitive-arrays.ts'
import { surfaceArea } from '../../geometry/surface/sample-surface.ts'
import { ball, documentOf } from '../../test-support/meshes.ts'
import { sheet } from '../../test-support/shapes.ts'
import { textFile } from '../../test-support/sources.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

/** Volume by the divergence theorem: what is torn or inside out shows at once. */
function volumeOf(document: Awaited<ReturnType<typeof readItem>>['document']): number {
  const { positions, indices } = mergedTriangles(listViewParts(document))
  let volume = 0
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) =>
      positions.subarray(indices[at + corner] * 3, indices[at + corner] * 3 + 3),
    )
    volume +=
      (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6
  }
  return volume
}

/** A box of six quads, 2 × 3 × 4, written by hand. */
const quadBox =
  'v 0 0 0\nv 2 0 0\nv 2 3 0\nv 0 3 0\nv 0 0 4\nv 2 0 4\nv 2 3 4\nv 0 3 4\nf 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2 ' +
  '3 7 6\nf 3 4 8 7\nf 4 1 5 8\n'

describe('quads and larger polygons', () => {
  const places: [string, number[], number[]][] = [
    ['moved', [1, 1, 1], [0, 0, 0, 1]],
    ['turned', [1, 1, 1], [0.5, 0.5, 0.5, 0.5]],
    ['mirrored', [-1, 1, 1], [0, 0.6, 0, 0.8]],
    ['mirrored and stretched', [1, -2, 0.5], [0, 0, 0, 1]],
  ]
  it.each(places)('stay whole on a node that is %s', async (_name, scale, rotation) => {
    const { document } = await readItem('box.obj', [textFile('box.obj', quadBox)])
    listViewParts(document)[0]
      .node.setTranslation([5, 1, 2])
      .setScale(scale as [number, number, number])
      .setRotation(rotation as [number, number, number, number])
    const wanted = 24 * Math.abs(scale[0] * scale[1] * scale[2])
    const { after: baked } = await runStep('bake-transforms', document)
    const { after } = await runStep('triangulate', baked)
    expect(countTriangles(listViewParts(after))).toBe(12)
    expect(volumeOf(after)).toBeCloseTo(wanted, 3)
  })

  it('stay whole where some of them were taken away before they are cut', async () => {
    const { document } = await readItem('box.obj', [textFile('box.obj', quadBox)])
    const [surface] = listViewParts(document)[0].mesh.listPrimitives()
    // One half of the first quad is gone: what is left of it stays a triangle.
    const indices = surface.getIndices()
    indices?.setArray((indices.getArray() ?? new Uint16Array()).slice(3))
    const { positions, indices: before } = mergedTriangles(listViewParts(document))
    const { after } = await runStep('triangulate', document)
    const cut = mergedTriangles(listViewParts(after))
    expect(cut.indices.length).toBe(33)
    expect(surfaceArea(cut.positions, cut.indices)).toBeCloseTo(surfaceArea(positions, before), 4)
  })
})

describe('what a step leaves alone', () => {
  it('keeps every triangle of a detailed thing that is smaller than a hand', async () => {
    const document = documentOf({ bead: ball(0.01, 60) })
    const before = countTriangles(listViewParts(document))
    const { after } = await runStep('weld', document)
    expect(countTriangles(listViewParts(after))).toBe(before)
  })

  it('proposes no new normals where the source has them, and new ones only where it has none', async () => {
    const document = documentOf({ given: ball(1, 8), bare: ball(1, 8, [4, 0, 0]) })
    const [given, bare] = listViewParts(document)
    const tilted = Float32Array.from(
      { length: accessorToFloats(given.mesh.listPrimitives()[0].getAttribute('POSITION') as never).length },
      (_, at) => [0.6, 0, 0.8][at % 3],
    )
    writeAttribute(document, given.mesh.listPrimitives()[0], 'NORMAL', tilted, 3)
    const [proposed] = proposals('even-normals', document)
    const { after } = await runStep('even-normals', document, proposed.parameters)
    expect([
      ...accessorToFloats(listViewParts(after)[0].mesh.listPrimitives()[0].getAttribute('NORMAL') as never),
    ]).toEqual([...tilted])
    expect(
      listViewParts(after)
        .find(({ name }) => name === bare.name)
        ?.mesh.listPrimitives()[0]
        .getAttribute('NORMAL'),
    ).not.toBeNull()
  })

  it('turns no floor over, whatever stands on it', () => {
    const floor = sheet(12, 12)
    const upward = {
      ...floor,
      positions: Float32Array.from(
        floor.positions,
        (_, at) =>
          [floor.positions[at], floor.positions[at + 1], floor.positions[at - 1]][at % 3] * (at % 3 === 2 ? -1 : 1),
      ),
    }
    expect(proposals('turn-outward', documentOf({ floor: upward }))).toEqual([])
  })
})

describe('levels', () => {
  it('keep a small flat part beside a large one whole', async () => {
    const square = {
      positions: Float32Array.from([-4, 0, -4, -4, 0, 4, 4, 0, 4, 4, 0, -4]),
      indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    }
    const document = documentOf({ floor: square, ball: ball(2, 30, [0, 2, 0]) })
    const { after, summary } = await runStep('levels-and-shadow', document)
    const [floor] = listViewParts(after)
    for (const level of [1, 2]) {
      const made = listLevelParts(after, level).filter(({ node }) => node.getParentNode() === floor.node)
      expect(partsBounds(made)).toEqual(partsBounds([floor]))
      expect(countTriangles(made)).toBe(2)
    }
    expect(summary.details[0]).toMatch(
      /lies 0\.0\d+ spans from the first at most; it is drawn from 30 spans on, where 0\.3 would be noticed/,
    )
  })
})
