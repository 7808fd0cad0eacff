import { writtenNames } from '../../test-support/written-names.ts'
import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { getPrimitiveExtras } from '../../item/extras.ts'
import { countTriangles, listViewParts } from '../../item/parts.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { kindOf } from '../../game/load.ts'
import { checkItem } from '../../rules/registry.ts'
import { ball, documentOf, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { dentedTube, moebiusStrip, sheet, together } from '../../test-support/shapes.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { runWorklist } from '../../worklist/run.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const names = (document: Document): string[] => listViewParts(document).map((part) => part.name)
const trianglesOf = (document: Document): number => countTriangles(listViewParts(document))
const surfaceOf = (document: Document, part = 0) =>
  readPrimitive(listViewParts(document)[part].mesh.listPrimitives()[0])
const rulesOf = (document: Document): string[] =>
  checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings.map((finding) => finding.rule)
const finding = (document: Document, rule: string) =>
  checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings.find((each) => each.rule === rule)
const openBox = () => {
  const walls = boxMesh({ min: [0, 0, 0], max: [2, 2, 2] })
  return { positions: walls.positions, indices: walls.indices.filter((_, index) => Math.floor(index / 6) !== 5) }
}

describe('Flip picked faces', () => {
  it('turns over just the side that was pointed at, as far as it is flat', async () => {
    const document = documentOf({ box: unitBox() })
    const { after, summary } = await runStep('flip-faces', document, {
      faces: [{ part: 'box', point: [0.4, 1, 0.6], growth: 'flat', angleDegrees: 20 }],
    })
    expect(summary.headline).toBe('2 flipped')
    expect(enclosedVolume(surfaceOf(after))).toBeCloseTo(1 - 2 / 3)
    expect(
      (
        await runStep('flip-faces', after, {
          faces: [{ part: 'box', point: [0.4, 1, 0.6], growth: 'flat', angleDegrees: 20 }],
        })
      ).after
        .getRoot()
        .listMeshes()[0]
        .listPrimitives()[0]
        .getIndices()
        ?.getArray(),
    ).toEqual(document.getRoot().listMeshes()[0].listPrimitives()[0].getIndices()?.getArray())
  })
  it('does not apply when its part is gone, and says what to do while nothing is picked', async () => {
    const document = documentOf({ box: unitBox() })
    expect(
      (
        await runStep('flip-faces', document, {
          faces: [{ part: 'mast', point: [0, 0, 0], growth: 'piece', angleDegrees: 0 }],
        })
      ).summary.doesNotApply,
    ).toMatch(/mast/)
    expect((await runStep('flip-faces', document)).summary.details[0]).toMatch(/click them in the yard/)
  })
})

describe('Two sides', () => {
  it('is what mends an inside that shows, by flag or by real faces', async () => {
    const document = documentOf({ trough: openBox() })
    expect(finding(document, 'inside-seen')).toMatchObject({ severity: 'risky', mend: { step: 'two-sided' } })
    expect(finding(document, 'inside-seen')?.place.spots.length).toBeGreaterThan(0)
    const flagged = await runStep('two-sided', document, { parts: ['trough'], how: 'flag' })
    const faced = await runStep('two-sided', document, { parts: ['trough'], how: 'faces' })
    for (const { after } of [flagged, faced]) expect(rulesOf(after)).not.toContain('inside-seen')
    expect(trianglesOf(flagged.after)).toBe(10)
    expect(trianglesOf(faced.after)).toBe(20)
    expect(listViewParts(flagged.after)[0].mesh.listPrimitives()[0].getMaterial()?.getDoubleSided()).toBe(true)
    expect(proposals('two-sided', document)[0].reason).toMatch(/inside of trough/)
    expect(proposals('two-sided', flagged.after)).toEqual([])
  })

  it('gives back faces normals of their own', async () => {
    const document = documentOf({ flat: sheet(2, 2) })
    writeAttribute(
      document,
      listViewParts(document)[0].mesh.listPrimitives()[0],
      'NORMAL',
      Float32Array.from({ length: 27 }, (_, at) => (at % 3 === 2 ? 1 : 0)),
      3,
    )
    const { normals, indices } = surfaceOf(
      (await runStep('two-sided', document, { parts: ['flat'], how: 'faces' })).after,
    )
    expect(normals?.[2]).toBe(1)
    expect(normals?.[27 + 2]).toBe(-1)
    expect(Math.max(...indices)).toBe(17)
  })

  it('leaves a material alone that other parts use, and makes a two-sided copy', async () => {
    const document = documentOf({ trough: openBox(), block: boxMesh({ min: [5, 0, 0], max: [6, 1, 1] }) })
    const [trough, block] = listViewParts(document)
    const shared = document.createMaterial('wood@timber')
    for (const part of [trough, block]) part.mesh.listPrimitives()[0].setMaterial(shared)
    const { after } = await runStep('two-sided', document, { parts: ['trough'], how: 'flag' })
    expect(writtenNames(after)).toEqual(['wood_sides@timber.both', 'wood@timber'])
    expect(listViewParts(after).map((part) => part.mesh.listPrimitives()[0].getMaterial()?.getDoubleSided())).toEqual([
      true,
      false,
    ])
  })

  it('mends a Möbius strip, which turning outward refuses', async () => {
    const document = documentOf({ band: moebiusStrip() })
    const { summary } = await runStep('turn-outward', document)
    expect(summary.changed).toBe(false)
    expect(summary.details.join(' ')).toMatch(/one side only.*no outside.*two-sided/)
    expect(finding(document, 'no-outside')).toMatchObject({ severity: 'note', mend: { step: 'two-sided' } })
    expect(rulesOf((await runStep('two-sided', document, { parts: ['band'], how: 'flag' })).after)).not.toContain(
      'no-outside',
    )
  })
})

describe('Clean the mesh', () => {
  it('drops what is double or has no area, and closes holes on request', async () => {
    const box = unitBox()
    const dirty = documentOf({
      box: {
        positions: Float32Array.from([...box.positions, 9, 9, 9]),
        indices: Uint32Array.from([...box.indices.slice(6), ...box.indices.slice(6, 9), 0, 0, 1]),
      },
    })
    expect(finding(dirty, 'double-triangles')).toMatchObject({ severity: 'note', value: '1' })
    expect(finding(dirty, 'holes')).toMatchObject({
      severity: 'note',
      mend: { step: 'clean-mesh', parameters: { holeEdges: 12 } },
    })
    expect(proposals('clean-mesh', dirty)[0].reason).toMatch(/1 double triangle and 1 without area/)
    const { after } = await runStep('clean-mesh', dirty, { holeEdges: 8 })
    const surface = surfaceOf(after)
    expect(enclosedVolume(surface)).toBeCloseTo(1)
    expect(surface.positions.length / 3).toBe(8)
    expect(rulesOf(after)).not.toContain('holes')
  })
  it('drops slivers only when asked', async () => {
    const flat = sheet(2, 2)
    const withSliver = documentOf({
      flat: {
        positions: Float32Array.from([...flat.positions, 0.5, 0.001, 0.05]),
        indices: Uint32Array.from([...flat.indices, 0, 1, 9]),
      },
    })
    expect((await runStep('clean-mesh', withSliver)).summary.headline).toBe('0')
    expect((await runStep('clean-mesh', withSliver, { slivers: true, sliverDegrees: 10 })).summary.headline).toBe('−1')
  })
})

describe('Even triangulation', () => {
  it('tells how bumpy it was and is, and keeps the count', async () => {
    const document = documentOf({ spar: dentedTube(24, 16, 0.05) })
    for (const primitive of listViewParts(document)[0].mesh.listPrimitives()) primitive.setMaterial(null)
    expect(proposals('even-triangulation', document)[0].reason).toMatch(
      /dent back and forth.*spar from [\d.]+° to [\d.]+°/,
    )
    const { after, summary } = await runStep('even-triangulation', document, { distanceLimit: 0.15 })
    expect(trianglesOf(after)).toBe(trianglesOf(document))
    const [before, now] = (/([\d.]+)° → ([\d.]+)°/.exec(summary.headline) ?? []).slice(1).map(Number)
    expect(now).toBeLessThan(before * 0.7)
    expect(summary.details[0]).toMatch(/edges flipped.*pair into quads.*nothing moved further than 0\.1/)
  })
  it('is not proposed for what is even, or has a texture on it', () => {
    expect(proposals('even-triangulation', documentOf({ ball: ball(1, 16) }))).toEqual([])
    const mapped = documentOf({ spar: dentedTube(24, 16, 0.05) })
    writeAttribute(
      mapped,
      listViewParts(mapped)[0].mesh.listPrimitives()[0],
      'TEXCOORD_0',
      new Float32Array(24 * 16 * 2),
      2,
    )
    expect(proposals('even-triangulation', mapped)).toEqual([])
  })
})

describe('Drop hidden faces', () => {
  it('takes away what is inside, tells how much, and leaves what shows through glass', async () => {
    const document = documentOf({ shell: ball(2, 16), core: ball(1, 8) })
    const { after, summary } = await runStep('drop-hidden', document)
    expect(names(after)).toEqual(['shell'])
    expect(summary.details.join(' ')).toMatch(/core: \d+ of \d+ could not be seen; the whole surface went/)
    listViewParts(document)[0].mesh.listPrimitives()[0].getMaterial()?.setAlphaMode('BLEND')
    expect((await runStep('drop-hidden', document)).summary).toMatchObject({ changed: false, headline: '0' })
  })
  it('leaves parts alone when told to', async () => {
    expect(
      (await runStep('drop-hidden', documentOf({ shell: ball(2, 16), core: ball(1, 8) }), { leaveAlone: ['core'] }))
        .summary.changed,
    ).toBe(false)
  })
})

describe('Thin pieces', () => {
  it('are found with their places and the scale at which they would pass', () => {
    const document = documentOf({ rig: together(ball(1, 8), boxMesh({ min: [3, 0, 0], max: [3.004, 5, 0.004] })) })
    const thin = finding(document, 'thin-pieces')
    expect(thin).toMatchObject({
      severity: 'note',
      value: '0.004',
      limit: '0.01',
      mend: { step: 'set-size', parameters: { by: 'factor' } },
    })
    expect(thin?.place.spots[0][0]).toBeCloseTo(3.002)
    expect(thin?.message).toMatch(/at 2\.5\d times the size/)
  })
})

describe('Tangents', () => {
  it('are made new whenever a later step changes what they lie on, and only then', async () => {
    const document = documentOf({ ball: ball(1, 12) })
    const primitive = listViewParts(document)[0].mesh.listPrimitives()[0]
    const count = readPrimitive(primitive).positions.length / 3
    writeAttribute(
      document,
      primitive,
      'TEXCOORD_0',
      Float32Array.from({ length: count * 2 }, (_, at) => ((at * 37) % 11) / 11),
      2,
    )
    primitive.getMaterial()?.setNormalTexture(document.createTexture('bumps'))
    const worklist = [
      {
        id: 'step-1',
        step: 'even-normals',
        on: true,
        parameters: { hardAngleDegrees: 180, keepGiven: false, tangents: true },
        reason: null,
      },
      { id: 'step-2', step: 'clean-names', on: true, parameters: {}, reason: null },
      { id: 'step-3', step: 'mirror', on: true, parameters: { across: 'x' }, reason: null },
    ]
    const { outcomes, document: after } = await runWorklist({ key: 'ball', document }, worklist, {
      rulebook: tarnAndTiller,
      kind: prop,
      store: memoryStore(),
    })
    const details = outcomes.map((outcome) =>
      outcome.state === 'done' ? outcome.record.details.join(' ') : outcome.state,
    )
    expect(details[1]).not.toMatch(/Tangents were made new/)
    expect(details[2]).toMatch(/Tangents were made for 1 surface/)
    const surface = listViewParts(after)[0].mesh.listPrimitives()[0]
    expect(surface.getAttribute('TANGENT')?.getCount()).toBe(surface.getAttribute('POSITION')?.getCount())
    expect(getPrimitiveExtras(surface).tangentsFor).toBeDefined()
  })
})

describe('Triangulate', () => {
  it('offers three ways to cut and keeps to the one that was chosen', async () => {
    const wrong = turnedOver(unitBox())
    expect((await runStep('triangulate', documentOf({ wrong }), { diagonal: 'flattest' })).summary.changed).toBe(false)
    await expect(runStep('triangulate', documentOf({ wrong }), { diagonal: 'sideways' })).rejects.toThrow()
  })
})
