import { describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { kindOf } from '../game/load.ts'
import { setRootExtras } from '../item/extras.ts'
import { itemScene } from '../item/parts.ts'
import { documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { applyCommand } from './commands.ts'
import { prepareItem } from './prepare-item.ts'
import { questionsOf } from './questions.ts'
import { newCrate, type CrateItem } from './schema.ts'

const item: CrateItem = {
  id: 'hull',
  name: 'Hull',
  kind: 'prop',
  main: 'hull.obj',
  sources: [{ path: 'hull.obj', sha256: 'a'.repeat(64), bytes: 3 }],
  reading: { links: {} },
  worklist: [],
  waivers: [],
}

const box = (size: number, x = 0) => boxMesh({ min: [x, 0, 0], max: [x + size, size, size] })

/** As a format is read that says neither unit nor axes. */
function undeclared(parts: Parameters<typeof documentOf>[0]): Document {
  const document = documentOf(parts)
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: null, from: 'unknown' },
    axes: { up: '+y', forward: '+z', from: 'customary' },
  })
  return document
}

function declared(parts: Parameters<typeof documentOf>[0]): Document {
  const document = documentOf(parts)
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: 1, from: 'declared' },
    axes: { up: '+y', forward: '+z', from: 'declared' },
  })
  return document
}

const ask = (document: Document, over: Partial<CrateItem> = {}) =>
  questionsOf({ ...item, ...over }, document, tarnAndTiller)
const asked = (document: Document, over: Partial<CrateItem> = {}): string[] => ask(document, over).map(({ id }) => id)

describe('what is asked before an item is taken for right', () => {
  it('is the kind, the axes and the unit where a file says none of them', () => {
    const questions = ask(undeclared({ hull: box(1) }))
    expect(questions.map(({ id }) => id)).toEqual(['kind', 'up', 'unit'])
    for (const { answers, chosen, answered } of questions) {
      expect(answers.length).toBeGreaterThanOrEqual(2)
      expect(answers.length).toBeLessThanOrEqual(4)
      expect(answers[0].id).toBe(chosen)
      expect(answered).toBe(false)
    }
  })

  it('is nothing where the file says all of it and a person said the kind', () => {
    expect(asked(declared({ hull: box(1) }), { answers: { kind: 'prop' } })).toEqual([])
  })

  it('tells each unit beside the figure', () => {
    const [unit] = ask(undeclared({ hull: box(1.7) })).filter(({ id }) => id === 'unit')
    const metre = unit.answers.find(({ id }) => id === 'm')
    expect(metre?.note).toBe('3.4 spans high, as the figure is')
    expect(metre?.change).toEqual({ reading: { metresPerUnit: 1 } })
    const size = metre?.picture?.of === 'size' ? metre.picture.metres : []
    expect(size.map((metres) => metres.toFixed(3))).toEqual(['1.700', '1.700', '1.700'])
  })

  it('is asked no more once it was answered, and the answer holds', () => {
    const crate = { ...newCrate('c', { rulebook: tarnAndTiller, stock: null }, []), items: [item] }
    const answered = applyCommand(crate, {
      do: 'answer',
      item: 'hull',
      question: 'up',
      answer: '+z -y',
      change: { reading: { up: '+z', forward: '-y' } },
    }).items[0]
    expect(answered.reading).toMatchObject({ up: '+z', forward: '-y' })
    expect(answered.answers).toEqual({ up: '+z -y' })
    const again = ask(undeclared({ hull: box(1) }), answered).find(({ id }) => id === 'up')
    expect(again).toMatchObject({ chosen: '+z -y', answered: true })
  })

  it('counts a kind that a person set as answered', () => {
    const crate = { ...newCrate('c', { rulebook: tarnAndTiller, stock: null }, []), items: [item] }
    const [set] = applyCommand(crate, { do: 'set-kind', item: 'hull', kind: 'loose' }).items
    expect(asked(declared({ hull: box(1) }), set)).toEqual([])
  })

  it('is whether a part far away is left out, which is kept until somebody says so', async () => {
    const document = declared({ hull: box(1), mast: box(0.5, 1), buoy: box(0.5, 40) })
    const question = ask(document, { answers: { kind: 'prop' } })[0]
    expect(question).toMatchObject({
      id: 'stray-farParts',
      title: 'Leave out the part far from the rest?',
      chosen: 'keep',
    })
    const leave = question.answers.find(({ id }) => id === 'leave-out')?.change.step
    const entry = { id: 'step-1', step: leave?.id ?? '', on: true, reason: null, byHand: true }
    const parameters = { cameras: true, lamps: true, empties: true, groundShade: true, ...leave?.parameters, parts: [] }
    const prepared = await prepareItem(
      { key: 'far', document },
      { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop'), store: memoryStore() },
      { decided: [{ ...entry, parameters }] },
    )
    const names = itemScene(prepared.result.document)
      .listChildren()
      .map((node) => node.getName())
    expect(names.some((name) => name.startsWith('hull'))).toBe(true)
    expect(names.some((name) => name.startsWith('buoy'))).toBe(false)
  })

  it('is what becomes of many small parts: kept, joined, or left out with the triangles that this saves', () => {
    const screws = Object.fromEntries(
      Array.from({ length: 6 }, (_, index) => [`screw_${index}`, box(0.02, index * 0.1)]),
    )
    const question = ask(declared({ hull: box(1), ...screws }), { answers: { kind: 'prop' } })[0]
    expect(question).toMatchObject({ id: 'pieces', title: '6 small parts: keep, join or leave out?', chosen: 'keep' })
    const leave = question.answers.find(({ id }) => id === 'leave-out')
    expect(leave?.note).toBe('saves 72 triangles')
    expect(leave?.change.step?.parameters).toEqual({ parts: Object.keys(screws) })
  })

  it('is not asked of what a person has set by hand', () => {
    const document = declared({ hull: box(1), mast: box(0.5, 1), buoy: box(0.5, 40) })
    const byHand = { id: 'step-1', step: 'drop-strays', on: true, parameters: {}, reason: null, byHand: true }
    expect(asked(document, { answers: { kind: 'prop' }, worklist: [byHand] })).toEqual([])
  })
})
