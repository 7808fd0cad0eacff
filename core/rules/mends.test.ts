import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import type { TriangleSoup } from '../geometry/shapes/convex-hull.ts'
import { getRootExtras, setRootExtras } from '../item/extras.ts'
import { itemScene, listViewParts } from '../item/parts.ts'
import { writeAttribute } from '../item/primitive-arrays.ts'
import { oddItems } from '../test-support/odd-items.ts'
import { ball, documentOf, turnedOver, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { together } from '../test-support/shapes.ts'
import { runStep } from '../test-support/step-runs.ts'
import { checkItem } from './registry.ts'
import type { Finding } from './rule.ts'

// A modder presses Mend and relies on it: what was told is gone, or less, and nothing new blocks.

const findings = (document: Document, kind = 'prop'): Finding[] =>
  checkItem({ document, rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, kind) }).findings
const told = (all: readonly Finding[], rule: string): Finding[] => all.filter((finding) => finding.rule === rule)

function saying(document: Document, said: Partial<ReturnType<typeof getRootExtras>>): Document {
  const root = document.getRoot()
  setRootExtras(root, { ...getRootExtras(root), ...said })
  return document
}

/** With an attribute on every surface, the same at each corner. */
function withAttribute(document: Document, semantic: string, value: readonly number[]): Document {
  for (const { mesh } of listViewParts(document))
    for (const primitive of mesh.listPrimitives()) {
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      const values = Float32Array.from({ length: corners * value.length }, (_, at) => value[at % value.length])
      writeAttribute(document, primitive, semantic, values, value.length as 3)
    }
  return document
}

function moved(document: Document, change: (node: ReturnType<Document['createNode']>) => unknown): Document {
  for (const node of itemScene(document).listChildren()) change(node)
  return document
}

const sliver = (): TriangleSoup => ({
  positions: Float32Array.of(0, 0, 3, 1, 0, 3, 0.5, 0.0005, 3),
  indices: Uint32Array.of(0, 1, 2),
})

/** A box whose top lacks one of its two triangles. */
function openBox(): TriangleSoup {
  const { positions, indices } = unitBox()
  return { positions, indices: indices.slice(3) }
}

const faults: [rule: string, step: string, what: string, make: () => Document, kind?: string][] = [
  ['triangle-budget', 'reduce-triangles', 'a ball of 25,000 triangles', () => documentOf({ buoy: ball(2, 80) })],
  ['inward-faces', 'turn-outward', 'a pot that is inside out', () => documentOf({ pot: turnedOver(ball(1, 16)) })],
  [
    'double-triangles',
    'clean-mesh',
    'a box that stands in its place twice',
    () => documentOf({ crate: together(unitBox(), unitBox()) }),
  ],
  ['slivers', 'clean-mesh', 'a box with a splinter', () => documentOf({ crate: together(unitBox(), sliver()) })],
  ['holes', 'clean-mesh', 'a box that lacks a triangle', () => documentOf({ crate: openBox() })],
  ['normals-missing', 'even-normals', 'a box without normals', () => documentOf({ crate: unitBox() })],
  [
    'normal-length',
    'even-normals',
    'normals of no length',
    () => withAttribute(documentOf({ crate: unitBox() }), 'NORMAL', [0, 0, 0]),
  ],
  [
    'item-too-large',
    'scale-to-game',
    'a box of two thousand metres, which is said to be in metres and is in millimetres',
    () =>
      saying(documentOf({ dyke: boxMesh({ min: [0, 0, 0], max: [2000, 2000, 2000] }) }), {
        units: { metresPerUnit: 0.001, from: 'chosen' },
      }),
  ],
  [
    'axes-not-turned',
    'turn-axes',
    'a box that lies on its side',
    () => saying(documentOf({ crate: unitBox() }), { axes: { up: '+z', forward: '-y', from: 'declared' } }),
  ],
  [
    'unit-not-scaled',
    'scale-to-game',
    'a box in centimetres',
    () => saying(documentOf({ crate: unitBox() }), { units: { metresPerUnit: 0.01, from: 'declared' } }),
  ],
  ['far-from-origin', 'place-origin', 'a buoy out at sea', () => documentOf({ buoy: ball(1, 8, [9000, 0, 9000]) })],
  [
    'transform-not-baked',
    'bake-transforms',
    'a box that its node scales',
    () => moved(documentOf({ crate: unitBox() }), (node) => node.setScale([2, 1, 1])),
  ],
  [
    'level-missing',
    'levels-and-shadow',
    'a ball that is wanted coarser from afar',
    () => documentOf({ buoy: ball(2, 30) }),
  ],
  ['shadow-missing', 'levels-and-shadow', 'a ball without a shadow', () => documentOf({ buoy: ball(2, 30) })],
  ['name-form', 'clean-names', 'a name with blanks', () => documentOf({ 'Old gate.001': unitBox() })],
  ['material-tag', 'tag-materials', 'a material of nobody knows what', () => documentOf({ oak: unitBox() })],
  ['solid-missing', 'fit-solids', 'a ball to bump into', () => documentOf({ buoy: ball(2, 40) })],
  ['map-missing', 'plain-colours', 'a material without a picture', () => documentOf({ oak: unitBox() })],
]

describe('a mend', () => {
  it.each(faults)('of %s, which is %s, mends %s', async (rule, step, _what, make, kind = 'prop') => {
    const document = make()
    const before = findings(document, kind)
    const [first] = told(before, rule)
    expect(first, before.map((finding) => finding.rule).join(' ')).toBeDefined()
    expect(first.mend?.step).toBe(step)
    const { after, summary } = await runStep(step, document, first.mend?.parameters ?? {}, {
      kind: kindOf(tarnAndTiller, kind),
    })
    expect(summary.changed).toBe(true)
    const left = findings(after, kind)
    expect(told(left, rule)).toEqual([])
    const blocked = new Set(before.filter(({ severity }) => severity === 'blocks').map((finding) => finding.rule))
    // A next thing may come to light, but none that keeps the item out and that no step mends.
    const fresh = left.filter((finding) => finding.severity === 'blocks' && !blocked.has(finding.rule))
    expect(fresh.filter((finding) => finding.mend === null)).toEqual([])
  })
})

describe('mends of items as strangers make them', () => {
  it.each(oddItems)('of %s leave no more of what they mend than there was', async (_what, make) => {
    const document = make()
    const all = findings(document)
    const tried = new Set<string>()
    for (const { rule, mend } of all) {
      if (!mend || tried.has(rule)) continue
      tried.add(rule)
      const { after } = await runStep(mend.step, document, mend.parameters).catch((error: unknown) => {
        // A step may find that it cannot; then it says so in a sentence, and nothing is changed.
        expect(error, rule).toHaveProperty('name', 'PlainError')
        return { after: document }
      })
      const weightOf = (list: readonly Finding[]): number =>
        told(list, rule).reduce((sum, { distance = 0 }) => sum + 1 + distance, 0)
      expect(weightOf(findings(after)), `${rule}, mended by ${mend.step}`).toBeLessThanOrEqual(weightOf(all))
    }
  })
})
