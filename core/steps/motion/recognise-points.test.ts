import { describe, expect, it } from 'vitest'
import { bringIn, startKey } from '../../crate/bring-in.ts'
import { kindOf } from '../../game/load.ts'
import type { Rulebook } from '../../game/schema.ts'
import { documentFromGlb } from '../../item/io.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
import { openPack } from '../../pack/open-pack.ts'
import { takeItem } from '../../pack/take-item.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { mirroredGames } from '../../test-support/mirrored-games.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { demoSources } from '../../test-support/sources.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { prepareWorklist } from '../../worklist/prepare.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { runWorklist } from '../../worklist/run.ts'

/**
 * Places of the Sluice walk, in metres: as its source has them, but for a sunk stamp and a floor limit that is too
 * high.
 */
const source: Record<string, number[]> = {
  start: [0, 1.12, -1.6],
  arrive_01: [0, 1.12, 17.2],
  floor_limit: [0, -2.5, 6],
  // It rides the first gate, which comes first in the scene.
  stamp_01: [0, 1.52, 2.6],
  ...Object.fromEntries(
    Array.from({ length: 6 }, (_, stamp) => [
      `stamp_0${stamp + 2}`,
      [stamp % 2 === 0 ? 0.4 : -0.4, 1.42, Math.floor(stamp / 2) * 5.2 + (stamp % 2) * 1.4],
    ]),
  ),
}

async function prepared(rulebook: Rulebook) {
  const kind = kindOf(rulebook, 'course')
  const [{ item, document }] = await bringIn(demoSources('sluice_walk'), 'course', {}, [])
  const options = { rulebook, kind, store: memoryStore() }
  const start = { key: startKey(item), document }
  const result = await runWorklist(start, await prepareWorklist(start, options), options)
  return { kind, document: result.document }
}

const placesOf = (document: Parameters<typeof listPlaces>[0], metres: number): Record<string, number[]> =>
  Object.fromEntries(
    listPlaces(document).map(({ name, node }) => [name, node.getWorldTranslation().map((value) => value * metres)]),
  )

function expectPlaces(found: Record<string, number[]>): void {
  expect(Object.keys(found).sort()).toEqual(Object.keys(source).sort())
  for (const [name, place] of Object.entries(source))
    place.forEach((value, axis) => expect(found[name][axis]).toBeCloseTo(value, 4))
}

describe('nodes without a mesh', () => {
  it.each([tarnAndTiller, ...mirroredGames.filter(({ kinds }) => kinds.some(({ markers }) => markers))])(
    'come through all steps, the pack of $title and back, where the source has them',
    async (rulebook) => {
      const { kind, document } = await prepared(rulebook)
      expectPlaces(placesOf(document, rulebook.space.unit.metres))
      const pack = await packItems([{ name: 'walk', kind, document }], rulebook, 'walk')
      const taken = await takeItem(openPack(pack.bytes, 'walk.zip', [rulebook]), 'walk')
      expectPlaces(placesOf(await documentFromGlb(taken), rulebook.space.unit.metres))
    },
    60_000,
  )

  it('are asked for by kind: markers by name, or one letter off, attach points whatever they are called', async () => {
    const document = documentOf({ oak: unitBox() })
    for (const name of ['Strat', 'flue', 'group']) itemScene(document).addChild(document.createNode(name))
    listSceneNodes(document)
      .find((node) => node.getName() === 'group')
      ?.addChild(document.createNode('shelf').setTranslation([0, 2, 0]))
    const kinds = ['course', 'fitting', 'prop'].map((id) => kindOf(tarnAndTiller, id))
    const found: Record<string, string[]> = {}
    for (const kind of kinds) {
      const { after } = await runStep('recognise-points', document, undefined, { kind })
      found[kind.id] = listPlaces(after).map(({ name, extras }) => `${name}: ${extras.marker ?? extras.role}`)
    }
    expect(found).toEqual({
      course: ['Strat: start'],
      fitting: ['Strat: attach-point', 'flue: attach-point', 'shelf: attach-point'],
      prop: [],
    })
  })
})
