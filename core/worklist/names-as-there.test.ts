import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { listViewParts } from '../item/parts.ts'
import { documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { stepById } from '../steps/registry.ts'
import { namesAsThere, namesIn } from './names-as-there.ts'
import { prepareWorklist } from './prepare.ts'
import { proposeStep, settingsAt } from './propose-step.ts'
import { memoryStore } from './result-store.ts'
import { runWorklist } from './run.ts'

const box = (least: number) => boxMesh({ min: [least, 0, 0], max: [least + 2, 2, 2] })
const options = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop'), store: memoryStore() }
const start = () => ({ key: 'names', document: documentOf({ 'Old Gate.001': box(0), Flag: box(4), post: box(8) }) })

const partNames = (document: Document): string[] => listViewParts(document).map(({ name }) => name)
const materialNames = (document: Document): string[] =>
  listViewParts(document).map(({ mesh }) => mesh.listPrimitives()[0].getMaterial()?.getName() ?? '')

/** The item as its source wrote it, and as one sees it at the end. */
async function bothStates() {
  const worklist = await prepareWorklist(start(), options)
  const { document: seen } = await runWorklist(start(), worklist, options)
  return { worklist, seen, there: start().document }
}

describe('names that a step is given', () => {
  it('are those that the parts have where the step stands, not those that one sees', async () => {
    const { worklist, seen } = await bothStates()
    expect(partNames(seen)).not.toContain('Old Gate.001')
    const { entries, at } = await proposeStep(start(), worklist, 'two-sided', { parts: partNames(seen) }, options)
    expect(worklist.findIndex(({ step }) => step === 'clean-names')).toBeGreaterThanOrEqual(at)
    expect(entries[0].parameters.parts).toEqual(['Old Gate.001', 'Flag', 'post'])
  })

  it('are the same in the settings of a step that is there', async () => {
    const { worklist, seen } = await bothStates()
    const [first] = partNames(seen)
    const place = { step: 'reduce-triangles', at: 1 }
    const settings = await settingsAt(
      start(),
      worklist,
      place,
      { leaveAlone: [first], weights: [{ part: first, weight: 2 }], share: 0.5 },
      options,
    )
    expect(settings).toEqual({
      leaveAlone: ['Old Gate.001'],
      weights: [{ part: 'Old Gate.001', weight: 2 }],
      share: 0.5,
    })
  })

  it('stay as they are where the step stands after the last renaming, or where nobody has them', async () => {
    const { seen, there } = await bothStates()
    const { parameters: schema } = stepById('two-sided')
    const parts = { parts: [...partNames(seen), 'mast'] }
    expect(namesAsThere(parts, schema, seen, seen, tarnAndTiller)).toBe(parts)
    expect(namesAsThere({ parts: ['mast'] }, schema, seen, there, tarnAndTiller)).toEqual({ parts: ['mast'] })
  })

  it('are told apart from words that mean something else', async () => {
    const { seen, there } = await bothStates()
    const { parameters: schema } = stepById('two-sided')
    const flagged = { parts: ['flag'], how: 'flag' }
    expect(namesAsThere(flagged, schema, seen, there, tarnAndTiller)).toEqual({ parts: ['Flag'], how: 'flag' })
    expect(namesIn(flagged, schema)).toEqual(['flag'])
    expect(namesIn({ how: 'flag' }, schema)).toEqual([])
  })

  it('of materials are theirs, though a part may be called the same', async () => {
    const document = documentOf({ Oak: box(0) })
    document.getRoot().listMaterials()[0].setName('Planks Old')
    const from = { key: 'oak', document }
    const worklist = [{ id: 'step-1', step: 'clean-names', on: true, parameters: {}, reason: null }]
    const { document: seen } = await runWorklist(from, worklist, options)
    const [seenName] = materialNames(seen)
    const { parameters: schema } = stepById('share-material')
    expect(namesAsThere({ from: seenName, to: seenName }, schema, seen, document, tarnAndTiller)).toEqual({
      from: 'Planks Old',
      to: 'Planks Old',
    })
  })
})
