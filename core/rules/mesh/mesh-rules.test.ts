import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { listViewParts } from '../../item/parts.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { kindOf } from '../../game/load.ts'
import type { Kind } from '../../game/schema.ts'
import { ball, documentOf, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { sheet, together } from '../../test-support/shapes.ts'
import { faceRules } from './faces.ts'
import { levelRules } from './levels.ts'
import { spaceRules } from '../fit/space.ts'
import { surfaceRules } from './surfaces.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const ground: Kind = kindOf(tarnAndTiller, 'ground')
const context = (document: Document, kind = prop) => ({
  document,
  rulebook: tarnAndTiller,
  kind,
  itemName: 'item',
  slot: null,
})
const rules = (findings: { rule: string }[]): string[] => findings.map((finding) => finding.rule)

/** A box without one of its sides: 0 −x, 1 +x, 2 −y, 3 +y, 4 −z, 5 +z. */
function openBox(side: number, size: [number, number, number]) {
  const box = boxMesh({ min: [0, 0, 0], max: size })
  return { positions: box.positions, indices: box.indices.filter((_, index) => Math.floor(index / 6) !== side) }
}

describe('faces', () => {
  it('tells what is inside out from what is open, and marks places of each', () => {
    const document = documentOf({
      wrong: turnedOver(ball(2, 16)),
      open: {
        ...openBox(5, [3, 3, 3]),
        positions: openBox(5, [3, 3, 3]).positions.map((value, at) => (at % 3 === 0 ? value + 6 : value)),
      },
    })
    const findings = faceRules
      .check(context(document))
      .filter((finding) => ['inward-faces', 'inside-seen'].includes(finding.rule))
    expect(findings.map(({ rule, where, severity, mend }) => [rule, where, severity, mend?.step])).toEqual([
      ['inward-faces', 'wrong', 'risky', 'turn-outward'],
      ['inside-seen', 'open', 'risky', 'two-sided'],
    ])
    for (const { place } of findings) expect(place.spots.length).toBeGreaterThan(0)
    expect(Math.min(...findings[1].place.spots.map(([x]) => x))).toBeGreaterThanOrEqual(6 - 1e-3)
  })

  it('makes a note of what only a figure’s eyes see', () => {
    // A large closed hall with a low slot at eye height, behind which one sees the inside of the far wall.
    const eye = tarnAndTiller.space.figure.eyeHeight
    const hall = boxMesh({ min: [-6, 0, -6], max: [6, 12, 6] })
    const closed = {
      positions: hall.positions,
      indices: hall.indices.filter((_, index) => Math.floor(index / 6) !== 5),
    }
    const wall = (low: number, high: number) => boxMesh({ min: [-6, low, 5.99], max: [6, high, 6] })
    const document = documentOf({ hall: closed, below: wall(0, eye - 0.3), above: wall(eye + 0.3, 12) })
    const [finding] = faceRules.check(context(document)).filter(({ rule }) => rule === 'inside-seen')
    expect(finding).toMatchObject({ severity: 'note', where: 'hall' })
    expect(finding.message).toMatch(/From a figure’s eyes, 3\.1 up, one looks into hall/)
    const whole = documentOf({ hall })
    expect(rules(faceRules.check(context(whole)))).toEqual(['normals-missing'])
  })
})

describe('surfaces', () => {
  it('asks a kind that is read as a body to be closed, and says where it is not', () => {
    const document = documentOf({ rock: openBox(3, [2, 2, 2]) })
    const untold = (shown: Document) => ({ ...context(shown, ground), rulebook: { ...tarnAndTiller, bodies: null } })
    const hole = surfaceRules.check(untold(document)).find(({ rule }) => rule === 'holes')
    expect(hole).toMatchObject({ title: 'Not closed', value: '1', where: 'rock' })
    expect(hole?.place.spots).toHaveLength(1)
    expect(hole?.place.spots[0][1]).toBe(2)
    expect(rules(surfaceRules.check(untold(documentOf({ rock: unitBox() }))))).not.toContain('holes')
  })

  it('does not tell of each border of a thing that is built of sheets', () => {
    const blinds = documentOf({
      blinds: together(
        ...Array.from({ length: 41 }, (_, at) => ({
          ...sheet(1, 1),
          positions: sheet(1, 1).positions.map((value, each) => (each % 3 === 2 ? at * 0.2 : value)),
        })),
      ),
    })
    expect(rules(surfaceRules.check(context(blinds)))).not.toContain('holes')
    expect(rules(surfaceRules.check(context(documentOf({ flag: sheet(2, 2) }))))).toContain('holes')
  })

  it('puts the marks where the part stands, not where its mesh was made', () => {
    const grid = sheet(4, 4)
    const document = documentOf({
      fin: {
        positions: Float32Array.from([...grid.positions, 1.5, 1, 2]),
        indices: Uint32Array.from([...grid.indices, 6, 7, 25]),
      },
    })
    listViewParts(document)[0].node.setTranslation([0, 0, 30])
    const crowded = surfaceRules.check(context(document)).find(({ rule }) => rule === 'crowded-edges')
    expect(crowded?.place.spots[0][2]).toBeCloseTo(30)
  })

  it('has nothing to say of a kind without a mesh, or of one that may have many nodes', () => {
    const document = documentOf({ a: unitBox(), b: ball(1, 6, [4, 0, 0]) })
    expect(surfaceRules.check(context(document, { ...prop, mesh: null }))).toEqual([])
    expect(rules(surfaceRules.check(context(document)))).toEqual(['one-node'])
    expect(
      surfaceRules.check(context(document, { ...prop, mesh: prop.mesh && { ...prop.mesh, oneNodePerObject: false } })),
    ).toEqual([])
  })
})

describe('thin pieces', () => {
  it('are told apart from thin parts, and a flat one has no size at which it would pass', () => {
    const flat = documentOf({
      label: together(ball(1, 8), {
        positions: Float32Array.from([4, 0, 0, 5, 0, 0, 6, 0, 0]),
        indices: Uint32Array.from([0, 1, 2]),
      }),
    })
    const finding = spaceRules.check(context(flat)).find(({ rule }) => rule === 'thin-pieces')
    expect(finding?.mend).toBeNull()
    expect(finding?.message).toMatch(/\(flat\)/)
    expect(rules(spaceRules.check(context(documentOf({ ball: ball(1, 8) }))))).not.toContain('thin-pieces')
  })
})

describe('levels', () => {
  it('are not asked of what is small or of a kind without them', () => {
    const small = documentOf({ box: unitBox() })
    expect(levelRules.check(context(small))).toEqual([])
    expect(levelRules.check(context(documentOf({ ball: ball(2, 40) }), { ...prop, levelsAsked: false }))).toEqual([])
    expect(rules(levelRules.check(context(documentOf({ ball: ball(2, 40) }))))).toEqual([
      'level-missing',
      'level-missing',
      'shadow-missing',
    ])
  })
})
