import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { setMaterialTag } from '../game/material-tag.ts'
import { listPlaces } from '../item/annotations/places.ts'
import { setNodeExtras } from '../item/extras.ts'
import { openPack } from '../pack/open-pack.ts'
import { openItem } from '../pack/take-item.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { variousGames } from '../test-support/various-games.ts'
import { loadPack } from './load-pack.ts'

describe.each(variousGames)('attach points, in %s', (_, rulebook) => {
  const kind = kindOf(rulebook, 'fitting')
  const options = { rulebook, kind }
  /** A stove: a box with a pot on it, made ready but for its points. */
  const stove = async (): Promise<Document> => {
    const body = boxMesh({ min: [-1, 0, -1], max: [1, 2, 1] })
    let document = documentOf({ body, pot: ball(0.3, 8, [0, 2.4, 0]) })
    for (const material of document.getRoot().listMaterials())
      setMaterialTag(document, material, { base: material.getName(), surface: 'iron', flags: [] }, rulebook)
    const ready = [['plain-colours'], ['even-normals'], ['clean-names'], ['tag-materials']] as const
    for (const [step] of ready) document = (await runStep(step, document, {}, options)).after
    return document
  }
  const withPoint = async (at: number[], looks: string): Promise<Document> =>
    (await runStep('put-point', await stove(), { name: 'Flue', at: [at], looks }, options)).after
  const judge = async (document: Document) => {
    const named = (await runStep('clean-names', document, {}, options)).after
    const { findings } = checkItem({ document: named, ...options })
    const { bytes } = await packItems([{ name: 'stove', kind, document: named }], rulebook, 'stove')
    return {
      rules: findings.flatMap(({ rule }) => (rule.startsWith('attach-') ? [rule] : [])),
      codes: loadPack(bytes, rulebook).log.flatMap(({ code }) => (code.startsWith('point.') ? [code] : [])),
    }
  }

  it.each([
    ['on the side, looking off it', [1, 1, 0.2], 'outward', [], []],
    ['beside it, looking along it', [1.3, 1, 0.2], '+y', [], []],
    ['beside it, looking back from afar', [2.5, 1, 0.2], '-x', [], []],
    ['on the side, looking in', [1.001, 1, 0.2], '-x', ['attach-facing-in'], ['point.inward']],
    ['within it', [0.3, 1, 0.2], '+y', ['attach-inside'], ['point.inside']],
    ['within the pot', [0.05, 2.4, 0.03], '+y', ['attach-inside'], ['point.inside']],
  ])('%s: rule and loader say the same', async (_what, at, looks, rules, codes) => {
    expect(await judge(await withPoint(at, looks))).toEqual({ rules, codes })
  })

  it('is put where it was clicked, looks straight off the surface, and is named as the game wants', async () => {
    const document = (await runStep('clean-names', await withPoint([1, 1, 0.2], 'outward'), {}, options)).after
    const [{ node, name }] = listPlaces(document)
    expect(name).toBe('at_flue')
    const world = node.getWorldMatrix()
    expect([world[12], world[13], world[14]].map((value) => Number(value.toFixed(5)))).toEqual([1, 1, 0.2])
    expect([world[8], world[9], world[10]].map((value) => Math.round(value * 1e5) / 1e5 + 0)).toEqual([1, 0, 0])
  })

  it.each([
    ['within', [0.7, 1, 0.2], '+y', [1, 1, 0.2]],
    ['looking in', [1.001, 1, 0.2], '-x', [1.001, 1, 0.2]],
  ])('%s is settled: outside, looking away, no further than it has to', async (_what, at, looks, expected) => {
    const { after, summary } = await runStep('settle-points', await withPoint(at, looks), {}, options)
    expect(summary.changed).toBe(true)
    const [{ node }] = listPlaces(after)
    node.getWorldTranslation().forEach((value, axis) => expect(value).toBeCloseTo(expected[axis], 4))
    expect(await judge(after)).toEqual({ rules: [], codes: [] })
  })

  const pointNamed = async (name: string): Promise<Document> =>
    (await runStep('put-point', await stove(), { name, at: [[1, 1, 0.2]], looks: 'outward' }, options)).after
  const say = async (document: Document, settings: object = {}) =>
    runStep('say-what-joins', document, { point: '', joins: '', width: 0, ...settings }, options)

  it.each([
    ['what its name says', 'Chimney 2', null, [], []],
    ['nothing', 'Odd place', null, ['attach-untold'], ['point.untold']],
    [
      'a word that the game does not know',
      'Flue',
      { joins: 'magnet', width: null },
      ['attach-untold'],
      ['point.untold'],
    ],
    ['a width that nothing has', 'Flue', { joins: 'pipe', width: 9 }, ['attach-wide'], ['point.wide']],
    ['a width that there is', 'Flue', { joins: 'pipe', width: 1.1 }, [], []],
  ])('takes %s: rule and loader say the same', async (_what, name, joint, rules, codes) => {
    const document = await pointNamed(name)
    const [{ node, extras }] = listPlaces(document)
    if (joint) setNodeExtras(node, { ...extras, joint })
    expect(await judge(document)).toEqual({ rules, codes })
  })

  it('says what joins: by its name, else the first that the game knows, and tells which', async () => {
    const document = await pointNamed('Odd place')
    const { after, summary } = await say(document)
    expect(summary.details.join(' ')).toMatch(/takes pipe, the first that the game knows: its name says nothing/)
    expect(await judge(after)).toEqual({ rules: [], codes: [] })
    const [{ name }] = listPlaces(document)
    const chosen = (await say(document, { point: name, joins: 'hook', width: 0.4 })).after
    expect(listPlaces(chosen)[0].extras.joint).toEqual({ joins: 'hook', width: 0.4 })
    expect((await say(chosen)).summary.changed).toBe(false)
  })

  it('is known again when the pack is opened', async () => {
    const shelf = await pointNamed('Shelf')
    const [{ name: point }] = listPlaces(shelf)
    const document = (await say(shelf, { point, width: 2 })).after
    const clean = (await runStep('clean-names', document, {}, options)).after
    const named = (await runStep('compress-maps', clean, {}, options)).after
    const { bytes } = await packItems([{ name: 'stove', kind, document: named }], rulebook, 'stove')
    const opened = await openItem(await openPack(bytes, 'stove.zip', [rulebook]), 'stove')
    expect(listPlaces(opened).map(({ name, extras }) => [name, extras.joint])).toEqual(
      listPlaces(named).map(({ name, extras }) => [name, extras.joint]),
    )
    expect(listPlaces(opened)[0].extras.joint?.joins).toBe('ledge')
    // The loader stands it where the bench had it.
    const { items, log } = loadPack(bytes, rulebook)
    expect(log.filter(({ level }) => level === 'refused')).toEqual([])
    const [loaded] = items[0].points
    expect(loaded.extras).toMatchObject({ joins: 'ledge', width: 2 })
    listPlaces(named)[0]
      .node.getWorldMatrix()
      .forEach((value, at) => expect(loaded.world[at]).toBeCloseTo(value, 5))
  })
})

it('a kind without attach points gets none, and says so', async () => {
  const options = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'prop') }
  const document = documentOf({ body: ball(1, 6) })
  const { after, summary } = await runStep(
    'put-point',
    document,
    { name: 'x', at: [[0, 1, 0]], looks: 'outward' },
    options,
  )
  expect(listPlaces(after)).toEqual([])
  expect(summary.details[0]).toMatch(/no attach points/)
})
