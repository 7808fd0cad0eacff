import type { Document } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { materialTag, setMaterialTag } from '../game/material-tag.ts'
import { kindOf } from '../game/load.ts'
import { moveItem } from '../geometry/mesh/move-item.ts'
import { turnItem } from '../geometry/mesh/turn-item.ts'
import { getRootExtras, setRootExtras } from '../item/extras.ts'
import { copyDocument } from '../item/io.ts'
import { boundsSize, partsBounds } from '../item/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../item/parts.ts'
import { readPrimitive, writeAttribute } from '../item/primitive-arrays.ts'
import { rotationMatrix } from '../maths/matrices.ts'
import { facingCard } from '../operations/motion/facing-card.ts'
import { openPack } from '../pack/open-pack.ts'
import { openItem } from '../pack/take-item.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { prepareDemo, tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { variousGames } from '../test-support/various-games.ts'
import { loadPack } from './load-pack.ts'

const kind = kindOf(tarnAndTiller, 'sign')

let board: Document
beforeAll(async () => {
  board = (await prepareDemo('timetable_board', 'sign')).result.document
})

const quarter = (degrees: number): number[] => rotationMatrix(0, 1, 0, (degrees * Math.PI) / 180)

/** What is done to the board, which rule says it and what the loader does; nothing for both where all is well. */
const changes: [string, (document: Document) => void, string[], string[]][] = [
  ['as it was prepared', () => undefined, [], []],
  ['turned a little', (document) => turnItem(document, quarter(4)), [], []],
  ['turned aside', (document) => turnItem(document, quarter(30)), ['facing-front'], ['facing.front']],
  ['its back forward', (document) => turnItem(document, quarter(180)), ['facing-front'], ['facing.front']],
  ['put aside', (document) => moveItem(document, [1, 0, 0]), ['facing-pivot'], ['facing.pivot']],
  ['hung low', (document) => moveItem(document, [0, -2, 0]), ['facing-height'], ['facing.height']],
  [
    'put aside, but turning about its middle',
    (document) => {
      moveItem(document, [1, 0, 0])
      setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), turns: 'freely' })
    },
    [],
    [],
  ],
  [
    'a roof of two halves',
    (document) => {
      const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
      const { positions, indices } = readPrimitive(primitive)
      const folded = positions.slice()
      // The two corners beside the fold, which only one triangle has, come forward and the others go back.
      for (const corner of new Set(indices))
        folded[corner * 3 + 2] += indices.filter((each) => each === corner).length === 1 ? 0.1 : -0.1
      writeAttribute(document, primitive, 'POSITION', folded, 3)
    },
    ['facing-flat'],
    ['facing.flat'],
  ],
  [
    'throwing a shadow',
    (document) => {
      const [material] = listUsedMaterials(document)
      const tag = materialTag(material, tarnAndTiller)
      setMaterialTag(document, material, { ...tag, flags: ['cut'] }, tarnAndTiller)
    },
    ['facing-shadow'],
    ['facing.shadow'],
  ],
]

describe.each(variousGames)('what faces the viewer, in %s', (_, rulebook) => {
  const judge = async (document: Document, of = kind) => {
    const { findings } = checkItem({ document, rulebook, kind: of })
    const { bytes } = await packItems([{ name: 'timetable_board', kind: of, document }], rulebook, 'boards')
    const trial = loadPack(bytes, rulebook)
    return {
      bytes,
      trial,
      rules: findings.flatMap(({ rule }) => (rule.startsWith('facing-') ? [rule] : [])),
      codes: trial.log.flatMap(({ code }) => (code.startsWith('facing.') ? [code] : [])),
    }
  }

  it.each(changes)('%s: rule and loader say the same', async (_what, change, rules, codes) => {
    const document = copyDocument(board)
    change(document)
    const judged = await judge(document)
    expect({ rules: judged.rules, codes: judged.codes }).toEqual({ rules, codes })
    expect(judged.trial.loads).toBe(true)
  })

  it('is told how it turns, and knows it again when the pack is opened', async () => {
    const document = copyDocument(board)
    setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), turns: 'freely' })
    const { bytes, trial } = await judge(document)
    expect(trial.items[0].turns).toBe('freely')
    const opened = await openItem(await openPack(bytes, 'boards.zip', [rulebook]), 'timetable_board')
    expect(getRootExtras(opened.getRoot()).turns).toBe('freely')
  })

  it('is refused where it turns as the game does not', async () => {
    const strict = structuredClone(rulebook)
    const own = kindOf(strict, 'sign')
    if (own.mesh?.facing) own.mesh.facing.turns = ['upright']
    const document = copyDocument(board)
    setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), turns: 'freely' })
    const { findings } = checkItem({ document, rulebook: strict, kind: own })
    expect(findings.find(({ rule }) => rule === 'facing-turns')?.severity).toBe('blocks')
    const { bytes } = await packItems([{ name: 'timetable_board', kind: own, document }], strict, 'boards')
    const { loads, log } = loadPack(bytes, strict)
    expect([loads, log.some(({ code }) => code === 'facing.turns')]).toEqual([false, true])
  })
})

describe('Face the viewer', () => {
  const options = { rulebook: tarnAndTiller, kind }
  const settings = { shape: 'own', material: '', turns: 'upright', lowest: 3.5 }

  it.each([
    ['turned', (document: Document): void => turnItem(document, quarter(100))],
    ['lying on its back', (document: Document): void => turnItem(document, rotationMatrix(1, 0, 0, -Math.PI / 2))],
    ['far off', (document: Document): void => moveItem(document, [40, -9, 7])],
  ])('brings a card that is %s to where the game wants it, as large as it was', async (_, spoil) => {
    const document = copyDocument(board)
    spoil(document)
    const { after } = await runStep('face-viewer', document, settings, options)
    const card = facingCard(after, tarnAndTiller, kind)
    expect(card?.frontDegrees).toBeLessThan(0.01)
    expect(card?.wander).toBeLessThan(1e-4)
    expect(card?.lowest).toBeCloseTo(3.5, 5)
    const sizes = [board, after].map((each) => boundsSize(partsBounds(listViewParts(each))))
    sizes[1].forEach((value, axis) => expect(value).toBeCloseTo(sizes[0][axis], 4))
  })

  it('makes a card of what is none, as high as that was, and tells what was given up', async () => {
    const document = documentOf({ crate: unitBox() })
    const { after } = await runStep(
      'face-viewer',
      document,
      { ...settings, shape: 'card', material: 'crate_material' },
      options,
    )
    const parts = listViewParts(after)
    expect(countTriangles(parts)).toBe(2)
    expect(boundsSize(partsBounds(parts))[1]).toBeCloseTo(boundsSize(partsBounds(listViewParts(document)))[1], 5)
    expect(getRootExtras(after.getRoot()).givenUp.map(({ message }) => message)).toEqual([
      'Its mesh became one flat card',
    ])
    expect(facingCard(after, tarnAndTiller, kind)).toMatchObject({ frontDegrees: 0, depthShare: 0, throwing: [] })
  })

  it('makes a card of what has no material at all, and tells that it had none', async () => {
    const document = documentOf({ crate: unitBox() })
    for (const material of document.getRoot().listMaterials()) material.dispose()
    const { after, summary } = await runStep('face-viewer', document, { ...settings, shape: 'card' }, options)
    expect(summary.changed).toBe(true)
    expect(listUsedMaterials(after)).toHaveLength(1)
    expect(facingCard(after, tarnAndTiller, kind)).toMatchObject({ frontDegrees: 0, depthShare: 0 })
    expect(getRootExtras(after.getRoot()).givenUp.map(({ what }) => what)).toEqual(['No material', 'Its shape'])
  })

  it('leaves alone what its kind does not turn', async () => {
    const { summary } = await runStep('face-viewer', documentOf({ crate: unitBox() }), settings, {
      rulebook: tarnAndTiller,
      kind: kindOf(tarnAndTiller, 'prop'),
    })
    expect(summary.changed).toBe(false)
  })
})
