import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { touchReport } from '../../crate/touch-test.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { mergedTriangles, partBounds } from '../../item/measure.ts'
import { countMeshCorners, listViewParts, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import type { Triple } from '../../geometry/shapes/placed-shape.ts'
import { kindOf } from '../../game/load.ts'
import { readSolidName } from '../../game/solid-names.ts'
import { checkItem } from '../../rules/registry.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { shapeRefusal } from './add-solid.ts'

const box = (min: Triple, max: Triple) => boxMesh({ min, max })
const loose = kindOf(tarnAndTiller, 'loose')
const prop = kindOf(tarnAndTiller, 'prop')
const boundsOf = (part: Part): number[] => {
  const { min, max } = partBounds(part)
  return [...min, ...max].map((value) => Math.round(value * 1000) / 1000 + 0)
}
const solidsOf = (document: Document): string[] => listSolids(document).map(({ name }) => name)

describe('Add a solid', () => {
  it.each(['ball', 'capsule', 'box'] as const)('makes a %s that the loader reads by its own box', async (shape) => {
    const { after, summary } = await runStep('add-solid', documentOf({ ball: ball(2, 20) }), { shape, surface: 'iron' })
    const [solid] = listSolids(after)
    const { min, max } = partBounds(solid)
    for (let axis = 0; axis < 3; axis++) expect(max[axis] - min[axis]).toBeCloseTo(4, 1)
    expect(summary.details[1]).toMatch(/stands out by up to [\d.]+ spans/)
  })
  it('fits to several parts and to the whole item, in the space of the part it belongs to', async () => {
    const document = documentOf({
      a: box([0, 0, 0], [1, 1, 1]),
      b: box([4, 0, 0], [5, 3, 1]),
      c: box([9, 0, 0], [10, 1, 1]),
    })
    const some = await runStep('add-solid', document, { part: 'b', of: 'parts', parts: ['a', 'b'], shape: 'box' })
    expect(boundsOf(listSolids(some.after)[0])).toEqual([0, 0, 0, 5, 3, 1])
    expect(listSolids(some.after)[0].node.getParentNode()?.getName()).toBe('b')
    const all = await runStep('add-solid', document, { part: 'a', of: 'item', shape: 'box' })
    expect(boundsOf(listSolids(all.after)[0])).toEqual([0, 0, 0, 10, 3, 1])
  })
  it('fits to picked faces alone, and says when none are picked', async () => {
    const document = documentOf({ a: box([0, 0, 0], [4, 2, 1]) })
    const { after } = await runStep('add-solid', document, {
      part: 'a',
      of: 'faces',
      faces: [{ part: 'a', point: [2, 2, 0.5], growth: 'flat', angleDegrees: 10 }],
      shape: 'box',
    })
    expect(boundsOf(listSolids(after)[0]).slice(3)).toEqual([4, 2.004, 1])
    await expect(runStep('add-solid', document, { of: 'faces', shape: 'box' })).rejects.toThrow(
      /no faces are picked yet.*Click them in the yard/,
    )
  })
  it('moves, turns and sizes the shape about its own middle', async () => {
    const { after } = await runStep('add-solid', documentOf({ a: box([0, 0, 0], [4, 2, 1]) }), {
      shape: 'box',
      moved: [10, 1, 0],
      turnedDegrees: [0, 90, 0],
      sized: [2, 1, 1],
    })
    expect(boundsOf(listSolids(after)[0])).toEqual([11.5, 1, -3.5, 12.5, 3, 4.5])
  })
  it('splits what is hollow into hulls that leave it open, under the limit of points', async () => {
    const ell = {
      positions: Float32Array.from([...box([0, 0, 0], [4, 1, 1]).positions, ...box([0, 1, 0], [1, 4, 1]).positions]),
      indices: Uint32Array.from([
        ...box([0, 0, 0], [1, 1, 1]).indices,
        ...box([0, 0, 0], [1, 1, 1]).indices.map((corner) => corner + 8),
      ]),
    }
    const { after, summary } = await runStep('add-solid', documentOf({ ell }), { shape: 'hull', hulls: 2 })
    expect(summary.headline).toBe('2 hulls')
    expect(solidsOf(after)).toEqual(['solid_hull_01', 'solid_hull_02'])
    for (const solid of listSolids(after)) expect(countMeshCorners(solid.mesh)).toBeLessThanOrEqual(32)
    expect(listSolids(after).reduce((sum, solid) => sum + enclosedVolume(mergedTriangles([solid])), 0)).toBeLessThan(
      8.5,
    )
  })
  it('keeps only what can be touched of a copied mesh', async () => {
    const nested = {
      positions: Float32Array.from([...box([0, 0, 0], [4, 4, 4]).positions, ...box([1, 1, 1], [3, 3, 3]).positions]),
      indices: Uint32Array.from([
        ...box([0, 0, 0], [1, 1, 1]).indices,
        ...box([0, 0, 0], [1, 1, 1]).indices.map((corner) => corner + 8),
      ]),
    }
    const count = async (onlyOutside: boolean): Promise<number> =>
      mergedTriangles(
        listSolids((await runStep('add-solid', documentOf({ nested }), { shape: 'mesh', onlyOutside })).after),
      ).indices.length / 3
    expect([await count(false), await count(true)]).toEqual([24, 12])
  })
  it('weighs by volume and density within what the kind may weigh, and shares the mass of several hulls', async () => {
    const { after } = await runStep(
      'add-solid',
      documentOf({ a: box([0, 0, 0], [1, 1, 1]) }),
      { shape: 'box', surface: 'timber', weighing: 'volume' },
      { kind: loose },
    )
    // A span is half a metre: 0.125 m³ of 650 kg/m³.
    expect(listSolids(after)[0].extras.solid?.massKilograms).toBeCloseTo(81.25, 1)
    const heavy = await runStep(
      'add-solid',
      documentOf({ a: box([0, 0, 0], [9, 9, 9]) }),
      { shape: 'box', surface: 'iron', weighing: 'volume' },
      { kind: loose },
    )
    expect(listSolids(heavy.after)[0].extras.solid?.massKilograms).toBe(400)
  })
  it('says of each shape why it cannot be chosen', () => {
    expect(shapeRefusal('mesh', tarnAndTiller, loose)).toMatch(/convex shapes/)
    expect(shapeRefusal('cylinder', tarnAndTiller, prop)).toBe('Tarn & Tiller has no cylinder solids')
    expect(shapeRefusal('hull', tarnAndTiller, loose)).toBeNull()
    expect(shapeRefusal('box', tarnAndTiller, kindOf(tarnAndTiller, 'sign'))).toMatch(/takes no solids/)
  })
})

describe('solids that are there', () => {
  const withSolid = async (): Promise<Document> =>
    (await runStep('add-solid', documentOf({ a: box([1, 0, 0], [3, 2, 1]) }), { shape: 'box', surface: 'stone' })).after
  it('are moved, sized and made of something else; a gone one is said to be', async () => {
    const { after } = await runStep('change-solid', await withSolid(), {
      solid: 'solid_box_01',
      moved: [0, 5, 0],
      sized: [1, 2, 1],
      surface: 'iron',
      changeLayers: true,
      layers: ['walls'],
    })
    expect(boundsOf(listSolids(after)[0])).toEqual([1, 4, 0, 3, 8, 1])
    expect(listSolids(after)[0].extras.solid).toMatchObject({ surface: 'iron', layers: ['walls'] })
    expect((await runStep('change-solid', await withSolid(), { solid: 'solid_ball_09' })).summary.doesNotApply).toMatch(
      /solid_ball_09/,
    )
  })
  it('are doubled and mirrored, still facing outward', async () => {
    const { after } = await runStep('double-solid', await withSolid(), { solid: 'solid_box_01', mirrored: 'x' })
    const [first, second] = listSolids(after)
    expect(boundsOf(second)).toEqual([-3, 0, 0, -1, 2, 1])
    expect(enclosedVolume(mergedTriangles([second]))).toBeCloseTo(enclosedVolume(mergedTriangles([first])), 4)
    expect(getNodeExtras(second.node).solid).toEqual(getNodeExtras(first.node).solid)
    expect(second.name).toBe('solid_box_02')
  })
  it('are merged into one, with the mass of all', async () => {
    const one = (
      await runStep(
        'add-solid',
        documentOf({ a: box([0, 0, 0], [1, 1, 1]) }),
        { shape: 'box', weighing: 'hand', massKilograms: 3 },
        { kind: loose },
      )
    ).after
    const two = (await runStep('double-solid', one, { solid: 'solid_box_01', mirrored: 'no', moved: [3, 0, 0] })).after
    const { after, summary } = await runStep(
      'merge-solids',
      two,
      { solids: solidsOf(two), into: 'hull' },
      { kind: loose },
    )
    expect(summary.headline).toBe('2 → 1')
    expect(boundsOf(listSolids(after)[0])).toEqual([0, 0, 0, 4, 1, 1])
    expect(listSolids(after)[0].extras.solid).toMatchObject({ shape: 'hull', massKilograms: 6 })
    // One more after a merge gets a number of its own.
    const more = await runStep('double-solid', after, { solid: solidsOf(after)[0], mirrored: 'x' }, { kind: loose })
    expect(new Set(solidsOf(more.after)).size).toBe(2)
    await expect(
      runStep('merge-solids', two, { solids: solidsOf(two), into: 'mesh' }, { kind: loose }),
    ).rejects.toThrow(/convex shapes/)
  })
})

describe('solids that came with the source', () => {
  it.each([
    ['solid_box_01', true],
    ['solid_hull_12', true],
    ['solid_bx_01', false],
    ['soldi_box_01', false],
    ['Solid_Box_01', false],
    ['solid-mesh-3', false],
    ['solid_capsul_01.001', false],
  ])('%s is a name of one, exact: %s', (name, exact) => {
    expect(readSolidName(tarnAndTiller, name)?.exact).toBe(exact)
  })
  it.each(['solid_base', 'gate_box_01', 'solitude', 'box_01', 'arch_stone'])('%s is no name of one', (name) => {
    expect(readSolidName(tarnAndTiller, name)).toBeNull()
  })
  it('are taken for what they are: under their part, named right, not drawn', async () => {
    const document = documentOf({
      gate: box([0, 0, 0], [2, 2, 2]),
      post: box([8, 0, 0], [9, 2, 1]),
      solid_bx_1: box([8, 0, 0], [9, 2, 1]),
    })
    const before = checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings.find(
      ({ rule }) => rule === 'solid-near-name',
    )
    expect(before).toMatchObject({ severity: 'risky', where: 'solid_bx_1', mend: { step: 'recognise-solids' } })
    const [proposed] = proposals('recognise-solids', document)
    expect(proposed.reason).toMatch(/solid_bx_1 is not quite what the game reads/)
    const { after } = await runStep('recognise-solids', document, proposed.parameters)
    const [solid] = listSolids(after)
    expect(solid.name).toBe('solid_box_01')
    expect(solid.node.getParentNode()?.getName()).toBe('post')
    expect(boundsOf(solid)).toEqual([8, 0, 0, 9, 2, 1])
    expect(listViewParts(after).map(({ name }) => name)).toEqual(['gate', 'post'])
    expect(
      checkItem({ document: after, rulebook: tarnAndTiller, kind: prop }).findings.some(
        ({ rule }) => rule === 'solid-near-name',
      ),
    ).toBe(false)
  })
})

describe('what is said of solids', () => {
  it('one that sounds otherwise than it looks, and one that stands out, are noted', async () => {
    const document = documentOf({ a: box([0, 0, 0], [2, 2, 2]) })
    document.getRoot().listMaterials()[0].setName('planks@timber')
    const { after } = await runStep('add-solid', document, { shape: 'box', surface: 'iron', sized: [2, 1, 1] })
    const { findings } = checkItem({ document: after, rulebook: tarnAndTiller, kind: prop })
    expect(findings.find(({ rule }) => rule === 'solid-unlike')).toMatchObject({
      severity: 'note',
      mend: { step: 'change-solid', parameters: { surface: 'timber' } },
    })
    expect(findings.find(({ rule }) => rule === 'solid-stands-out')?.message).toMatch(
      /solid_box_01 stands 1 spans outside what one sees/,
    )
  })
  it('the report of a loose thing tells its mass, its centre and whether it rests', async () => {
    const { after } = await runStep(
      'add-solid',
      documentOf({ a: unitBox() }),
      { shape: 'box', weighing: 'hand', massKilograms: 5 },
      { kind: loose },
    )
    const report = await touchReport(after, tarnAndTiller, loose)
    expect(report.mass?.kilograms).toBe(5)
    report.mass?.centre.forEach((value, axis) =>
      expect(value).toBeCloseTo(partBounds(listSolids(after)[0]).min[axis] + 0.5, 2),
    )
    expect(report.rest?.put.verdict).toBe('rests')
    expect(report.bodies.map(({ id }) => id)).toEqual(['rowing_boat', 'gull'])
    expect(report.openings).toEqual([])
  })
})
