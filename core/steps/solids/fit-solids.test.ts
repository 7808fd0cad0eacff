import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../../game/load.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { partsBounds } from '../../item/measure.ts'
import { countMeshCorners, countTriangles, listViewParts } from '../../item/parts.ts'
import { checkItem } from '../../rules/registry.ts'
import { ball, documentOf } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const loose = kindOf(tarnAndTiller, 'loose')
const { mostPerItem, hullPoints } = tarnAndTiller.solids

/** A wall of many balls, as a cabinet has knobs. */
function wall(across: number, high: number, radius: number, rings = 4): Document {
  const parts: Record<string, TriangleSoup> = {}
  for (let at = 0; at < across * high; at++)
    parts[`knob_${at}`] = ball(radius, rings, [
      (at % across) * 3 * radius,
      radius + Math.floor(at / across) * 3 * radius,
      0,
    ])
  return documentOf(parts)
}
const rulesOf = (document: Document, kind = prop): string[] =>
  checkItem({ document, rulebook: tarnAndTiller, kind }).findings.flatMap(({ rule, stage }) =>
    stage === 'solids' ? [rule] : [],
  )

describe('Solids for groups of parts', () => {
  it('are proposed once for many parts, which then get none one by one', () => {
    const cabinet = wall(16, 10, 0.5)
    const [only, ...others] = proposals('fit-solids', cabinet)
    expect(others).toEqual([])
    expect(only.parameters).toMatchObject({ most: mostPerItem, points: hullPoints })
    expect(only.reason).toContain('160 parts')
    expect(proposals('add-solid', cabinet)).toEqual([])
  })

  it('are left alone where few parts each get their own', () => {
    const few = documentOf({ a: ball(2, 32), b: ball(2, 32, [9, 2, 0]) })
    expect(proposals('fit-solids', few)).toEqual([])
    expect(proposals('add-solid', few)).toHaveLength(2)
  })

  it('are left alone where boards are, large and of little volume, and not where there are only nails', () => {
    const board = boxMesh({ min: [0, 1, 0], max: [3, 1.02, 1] })
    const detail = ball(0.2, 34)
    const desk = documentOf({ board, lamp: detail })
    expect(proposals('fit-solids', desk)).toEqual([])
    expect(proposals('add-solid', desk).map(({ parameters }) => parameters)).toMatchObject([
      { part: 'board', shape: 'box' },
    ])
    const nail = ball(0.2, 12)
    const corners = nail.positions.length / 3
    const scattered: TriangleSoup = {
      positions: Float32Array.from({ length: nail.positions.length * 8 }, (_, at) =>
        at % 3 === 0 ? Math.floor(at / 3 / corners) : 0,
      ).map((offset, at) => offset + nail.positions[at % nail.positions.length]),
      indices: Uint32Array.from(
        { length: nail.indices.length * 8 },
        (_, at) => Math.floor(at / nail.indices.length) * corners + nail.indices[at % nail.indices.length],
      ),
    }
    const nails = documentOf({ nails: scattered })
    expect(proposals('add-solid', nails)).toEqual([])
    expect(proposals('fit-solids', nails)).toMatchObject([{ parameters: { most: 1 } }])
  })

  it('stay within the game’s number, points and triangles, and hold all there is', async () => {
    const { after } = await runStep('fit-solids', wall(16, 10, 0.5))
    const solids = listSolids(after)
    expect(solids.length).toBeGreaterThan(8)
    expect(solids.length).toBeLessThanOrEqual(mostPerItem)
    for (const { mesh } of solids) expect(countMeshCorners(mesh)).toBeLessThanOrEqual(hullPoints)
    const view = countTriangles(listViewParts(after))
    expect(view + countTriangles(solids)).toBeLessThanOrEqual(prop.mesh?.withSolids ?? 0)
    const [seen, bumped] = [partsBounds(listViewParts(after)), partsBounds(solids)]
    for (let axis = 0; axis < 3; axis++) {
      expect(bumped.min[axis]).toBeLessThan(seen.min[axis] + 0.2)
      expect(bumped.max[axis]).toBeGreaterThan(seen.max[axis] - 0.2)
    }
    expect(rulesOf(after)).not.toEqual(expect.arrayContaining(['solid-missing', 'solid-count', 'hull-points']))
  })

  it('is one for a thing whose parts are all smaller than a step', async () => {
    const small = tarnAndTiller.space.figure.stepHeight * 0.4
    const toy = documentOf({ toy: ball(small, 48, [0, small, 0]) })
    const [proposal] = proposals('fit-solids', toy)
    expect(proposal.reason).toMatch(/smaller than a step, so one solid stands for all/)
    const { after } = await runStep('fit-solids', toy, proposal.parameters)
    expect(listSolids(after)).toHaveLength(1)
    expect(rulesOf(after)).not.toContain('solid-missing')
  })

  it('is a box where the parts are flat, and where a box is as good', async () => {
    const sheet: TriangleSoup = {
      positions: Float32Array.from([0, 0, 0, 6, 0, 0, 6, 0, 6, 0, 0, 6]),
      indices: Uint32Array.from([0, 2, 1, 0, 3, 2]),
    }
    const { after, summary } = await runStep(
      'fit-solids',
      documentOf({ sheet, crate: boxMesh({ min: [20, 0, 0], max: [24, 4, 4] }) }),
    )
    expect(listSolids(after).map(({ extras }) => extras.solid?.shape)).toEqual(['box', 'box'])
    expect(summary.details[0]).toContain('2 boxes and 0 hulls')
  })

  it('weighs what is loose within what the kind may weigh', async () => {
    const { after } = await runStep('fit-solids', wall(4, 4, 0.4), {}, { kind: loose })
    const masses = listSolids(after).map(({ extras }) => extras.solid?.massKilograms ?? NaN)
    const range = loose.solids?.massKilograms ?? { least: 0, most: 0 }
    const whole = masses.reduce((sum, mass) => sum + mass, 0)
    expect(whole).toBeGreaterThanOrEqual(range.least)
    expect(whole).toBeLessThanOrEqual(range.most * 1.001)
    expect(rulesOf(after, loose)).not.toContain('solid-not-read')
  })
})
