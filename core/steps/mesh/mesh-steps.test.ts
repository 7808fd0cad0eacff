import { stepById } from '../registry.ts'
import { kindOf } from '../../game/load.ts'
import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { countMeshCorners, countTriangles, listViewParts } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { countLargePolygons } from '../../item/polygons.ts'
import { enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { meetEdges } from '../../geometry/mesh/edges.ts'
import { surfaceArea } from '../../geometry/surface/sample-surface.ts'
import { readItem } from '../../intake/read-item.ts'
import { ball, documentOf, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { dentedTube } from '../../test-support/shapes.ts'
import { textFile } from '../../test-support/sources.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { findMeshFaults } from '../../geometry/mesh/mesh-faults.ts'
import { plainShape } from '../../operations/meshes/derived-meshes.ts'
import { measurePartFacing } from '../../operations/meshes/measure-part-facing.ts'

const surfaceOf = (document: Document, part = 0) =>
  readPrimitive(listViewParts(document)[part].mesh.listPrimitives()[0])
const trianglesOf = (document: Document): number => countTriangles(listViewParts(document))

describe('Triangulate', () => {
  const concave = 'v 0 0 0\nv 4 0 0\nv 4 4 0\nv 2 1 0\nv 0 4 0\nf 1 2 3 4 5\n'

  it('cuts a concave polygon inside its outline, where a fan would not', async () => {
    const { document } = await readItem('a.obj', [textFile('a.obj', concave)])
    const fan = surfaceOf(document)
    const { after } = await runStep('triangulate', document)
    const cut = surfaceOf(after)
    expect(surfaceArea(cut.positions, cut.indices)).toBeCloseTo(10)
    expect(surfaceArea(cut.positions, Uint32Array.from([0, 1, 2, 0, 2, 3, 0, 3, 4]))).toBeGreaterThan(10.5)
    // A source is drawn rightly before the step too; the step makes it so for good.
    expect(surfaceArea(fan.positions, fan.indices)).toBeCloseTo(10)
    expect(countLargePolygons(after)).toBe(0)
  })

  it('is proposed while there are larger polygons, and not after', async () => {
    const { document } = await readItem('a.obj', [textFile('a.obj', concave)])
    expect(proposals('triangulate', document)).toHaveLength(1)
    const { after } = await runStep('triangulate', document)
    expect(proposals('triangulate', after)).toEqual([])
  })

  it('says so when there is nothing to cut', async () => {
    const { summary } = await runStep('triangulate', documentOf({ box: unitBox() }))
    expect(summary).toMatchObject({ headline: 'none left', changed: false })
  })
})

describe('Weld', () => {
  const unshared = (): Document => {
    const { positions, indices } = ball(1, 10)
    return documentOf({
      ball: {
        positions: Float32Array.from(
          [...indices].flatMap((corner) => [...positions.subarray(corner * 3, corner * 3 + 3)]),
        ),
        indices: Uint32Array.from(indices.keys()),
      },
    })
  }

  it('joins unshared corners and leaves triangles and shape as they were', async () => {
    const { before, after, summary } = await runStep('weld', unshared())
    expect(trianglesOf(after)).toBe(trianglesOf(before))
    expect(countMeshCorners(listViewParts(after)[0].mesh)).toBe(ball(1, 10).positions.length / 3)
    expect(enclosedVolume(surfaceOf(after))).toBeCloseTo(enclosedVolume(surfaceOf(before)), 5)
    expect(summary.headline).toMatch(/^−\d/)
  })

  it('keeps texture seams open in UV and shut in place', async () => {
    const document = documentOf({
      sheet: {
        positions: Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 1, 0.00001, 0, 2, 0, 0, 1, 1, 0]),
        indices: Uint32Array.from([0, 1, 2, 3, 4, 5]),
      },
    })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    writeAttribute(document, primitive, 'TEXCOORD_0', Float32Array.from([0, 0, 1, 0, 1, 1, 0, 0, 1, 0, 0, 1]), 2)
    const { after } = await runStep('weld', document, { distance: 0.001 })
    const { positions, indices } = surfaceOf(after)
    expect(positions.length / 3).toBe(6)
    // Both sides of the seam have the very same place now.
    expect([...positions.subarray(indices[1] * 3, indices[1] * 3 + 3)]).toEqual([
      ...positions.subarray(indices[3] * 3, indices[3] * 3 + 3),
    ])
  })

  it('says of triangles with area that they fell to the distance, and how much', async () => {
    const document = documentOf({
      sliver: {
        positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0.0001]),
        indices: Uint32Array.from([0, 1, 2, 0, 3, 1]),
      },
    })
    const { after, summary } = await runStep('weld', document, { distance: 0.01 })
    expect(trianglesOf(after)).toBe(1)
    expect(summary.details.join(' ')).toMatch(/1 triangle narrower than the distance, 0.00005 square spans in all/)
  })

  it('is not proposed for a mesh that is welded', async () => {
    const { after } = await runStep('weld', unshared())
    expect(proposals('weld', after)).toEqual([])
    expect(proposals('weld', unshared())).toHaveLength(1)
  })
})

describe('Turn faces outward', () => {
  const mixed = (): Document => documentOf({ right: ball(1, 8), wrong: turnedOver(ball(1, 8, [4, 0, 0])) })

  it('turns the part that is inside out and says how many', async () => {
    const { after, summary } = await runStep('turn-outward', mixed())
    expect(enclosedVolume(surfaceOf(after, 0))).toBeGreaterThan(0)
    expect(enclosedVolume(surfaceOf(after, 1))).toBeGreaterThan(0)
    const triangles = ball(1, 8).indices.length / 3
    expect(summary.headline).toBe(`${triangles} turned`)
    expect(summary.details).toContain(`wrong: ${triangles} triangles turned.`)
  })

  it('names the worst part in its reason, and is not proposed afterwards', async () => {
    expect(proposals('turn-outward', mixed())[0].reason).toMatch(
      /% of what one sees are backs of faces, most of all on wrong/,
    )
    const { after } = await runStep('turn-outward', mixed())
    expect(proposals('turn-outward', after)).toEqual([])
  })

  it('leaves parts alone that are to be left alone', async () => {
    const { after } = await runStep('turn-outward', mixed(), { leaveAlone: ['wrong'] })
    expect(enclosedVolume(surfaceOf(after, 1))).toBeLessThan(0)
  })

  it('turns normals with their faces', async () => {
    const { after: lit } = await runStep('even-normals', documentOf({ ball: turnedOver(ball(1, 8)) }), {
      tangents: false,
    })
    const { after } = await runStep('turn-outward', lit)
    const { positions, normals } = surfaceOf(after)
    for (let at = 0; at < positions.length; at += 3) {
      const along =
        positions[at] * (normals?.[at] ?? 0) +
        positions[at + 1] * (normals?.[at + 1] ?? 0) +
        positions[at + 2] * (normals?.[at + 2] ?? 0)
      expect(along).toBeGreaterThan(0)
    }
  })

  it('does not count the backs of a two-sided material', () => {
    const document = documentOf({ sail: turnedOver(ball(1, 8)) })
    expect(measurePartFacing(listViewParts(document)).share).toBe(1)
    document.getRoot().listMaterials()[0].setDoubleSided(true)
    expect(measurePartFacing(listViewParts(document)).share).toBe(0)
  })
})

describe('Reduce triangles', () => {
  const dense = (): Document => documentOf({ large: ball(4, 60), small: ball(1, 40, [9, 0, 0]) })

  it('lands at or a little under the count', async () => {
    const { after } = await runStep('reduce-triangles', dense(), { targetTriangles: 3000 })
    expect(trianglesOf(after)).toBeLessThanOrEqual(3000)
    expect(trianglesOf(after)).toBeGreaterThan(2700)
  })

  it('keeps parts whole that are left alone, and takes it from the others', async () => {
    const { before, after } = await runStep('reduce-triangles', dense(), {
      targetTriangles: 8000,
      leaveAlone: ['small'],
    })
    expect(countTriangles([listViewParts(after)[1]])).toBe(countTriangles([listViewParts(before)[1]]))
    expect(trianglesOf(after)).toBeLessThanOrEqual(8000)
  })

  it('says how far the surface moved, and that is not far', async () => {
    const { after, summary } = await runStep('reduce-triangles', dense(), { targetTriangles: 6000 })
    const shift = Number(/moved by ([\d.]+) spans at most/.exec(summary.details[0])?.[1])
    expect(shift).toBeGreaterThan(0)
    expect(shift).toBeLessThan(0.2)
    expect(enclosedVolume(surfaceOf(after)) / ((4 / 3) * Math.PI * 64)).toBeGreaterThan(0.97)
  })

  it('leaves a closed mesh closed', async () => {
    const { after } = await runStep('reduce-triangles', dense(), { targetTriangles: 2000 })
    expect(meetEdges(surfaceOf(after).indices)).toMatchObject({ borderEdges: 0, nonManifoldEdges: 0 })
  })

  it('is proposed over the kind’s limit only, with room left', () => {
    const [proposal] = proposals('reduce-triangles', dense())
    expect(proposal.parameters['targetTriangles']).toBeLessThan(12_000)
    expect(proposal.reason).toMatch(/a prop may have 12,000/)
    expect(proposals('reduce-triangles', documentOf({ box: unitBox() }))).toEqual([])
  })

  it('changes nothing when the count is reached already', async () => {
    const { summary } = await runStep('reduce-triangles', documentOf({ box: unitBox() }), { targetTriangles: 100 })
    expect(summary).toMatchObject({ headline: '0', changed: false })
  })
})

describe('Even normals', () => {
  it('makes new normals and takes old tangents away that no map needs', async () => {
    const document = documentOf({ box: unitBox() })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    writeAttribute(document, primitive, 'TANGENT', new Float32Array(32), 4)
    const { after, summary } = await runStep('even-normals', document)
    const [made] = listViewParts(after)[0].mesh.listPrimitives()
    expect(made.getAttribute('NORMAL')?.getCount()).toBe(24)
    expect(made.getAttribute('TANGENT')).toBeNull()
    expect(summary.headline).toBe('38° edges')
  })

  it('is smooth all over at 180° and hard all over at 0°', async () => {
    const smooth = await runStep('even-normals', documentOf({ box: unitBox() }), { hardAngleDegrees: 180 })
    expect(surfaceOf(smooth.after).positions.length / 3).toBe(8)
    const hard = await runStep('even-normals', documentOf({ ball: ball(1, 8) }), { hardAngleDegrees: 0 })
    expect(surfaceOf(hard.after).positions.length / 3).toBeGreaterThan(200)
  })
})

describe('Levels', () => {
  it('makes each level and the shadow under its share, below the part it stands for', async () => {
    const { after, summary } = await runStep('levels-and-shadow', documentOf({ ball: ball(2, 50) }))
    const triangles = trianglesOf(after)
    expect(countTriangles(listLevelParts(after, 1))).toBeLessThanOrEqual(triangles * 0.5)
    expect(countTriangles(listLevelParts(after, 2))).toBeLessThanOrEqual(triangles * 0.2)
    expect(countTriangles(listShadowParts(after))).toBeLessThanOrEqual(triangles * 0.25)
    expect(listLevelParts(after, 1).map((part) => [part.name, part.node.getParentNode()?.getName()])).toEqual([
      ['ball_l1', 'ball'],
    ])
    expect(listShadowParts(after).map((part) => part.name)).toEqual(['ball_shadow'])
    expect(summary.headline).toBe('3 made')
  })

  it('keeps the shadow under its share where closing its holes adds to it', async () => {
    const { after } = await runStep('levels-and-shadow', documentOf({ ring: dentedTube(40, 4, 0.05) }))
    const [shadow] = listShadowParts(after)
    expect(countTriangles([shadow])).toBeLessThanOrEqual(trianglesOf(after) * 0.25)
    expect(findMeshFaults(plainShape(shadow).positions, plainShape(shadow).indices).openLoops).toEqual([])
  })

  it('replaces the levels of an earlier run', async () => {
    const once = await runStep('levels-and-shadow', documentOf({ ball: ball(2, 50) }))
    const twice = await runStep('levels-and-shadow', once.after, { level1: 0.3 })
    expect(listLevelParts(twice.after, 1)).toHaveLength(1)
    expect(countTriangles(listLevelParts(twice.after, 1))).toBeLessThanOrEqual(trianglesOf(twice.after) * 0.3)
  })

  it('makes as many levels as the game has', async () => {
    const rulebook = structuredClone(tarnAndTiller)
    rulebook.levels.chain.push({ level: 3, mostShare: 0.1, fromDistance: 200 })
    const { after, summary } = await runStep('levels-and-shadow', documentOf({ ball: ball(2, 50) }), {}, { rulebook })
    const shares = [1, 2, 3].map((level) => countTriangles(listLevelParts(after, level)) / trianglesOf(after))
    expect(shares.every((share, index) => share > 0 && share <= [0.5, 0.2, 0.1][index])).toBe(true)
    expect(summary.headline).toBe('4 made')
    expect(listLevelParts(after, 3).map(({ name }) => name)).toEqual(['ball_l3'])
  })

  it('still reads the two shares that earlier worklists name', async () => {
    const document = documentOf({ ball: ball(2, 50) })
    const parameters = { levelOne: 0.3, levelTwo: 0.1, shadow: 0.2 }
    const around = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop'), progress: async () => undefined }
    await stepById('levels-and-shadow').run({ document, parameters, ...around })
    const share = (level: number): number => countTriangles(listLevelParts(document, level)) / trianglesOf(document)
    expect([share(1) <= 0.3, share(1) > 0.25, share(2) <= 0.1]).toEqual([true, true, true])
  })

  it('keeps the shadow of a closed mesh closed', async () => {
    const { after } = await runStep('levels-and-shadow', documentOf({ ball: ball(2, 50) }))
    const [shadow] = listShadowParts(after)
    expect(meetEdges(readPrimitive(shadow.mesh.listPrimitives()[0]).indices).borderEdges).toBe(0)
  })

  it('is proposed above the rulebook’s count and for kinds that want levels', () => {
    expect(proposals('levels-and-shadow', documentOf({ ball: ball(2, 50) }))).toHaveLength(1)
    expect(proposals('levels-and-shadow', documentOf({ ball: ball(2, 10) }))).toEqual([])
    const course = tarnAndTiller.kinds.find((kind) => kind.id === 'course')
    expect(proposals('levels-and-shadow', documentOf({ ball: ball(2, 50) }), { kind: course })).toEqual([])
  })
})
