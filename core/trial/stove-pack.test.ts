import { expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { prepareItem } from '../crate/prepare-item.ts'
import { kindOf } from '../game/load.ts'
import { boundsSize, partsBounds } from '../item/measure.ts'
import { listViewParts } from '../item/parts.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { demoSources } from '../test-support/sources.ts'
import { runStep } from '../test-support/step-runs.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { loadPack } from './load-pack.ts'

it('the stove gets a flue’s end, a shelf’s place and a glow, and loads with all three and no complaint', async () => {
  const kind = kindOf(tarnAndTiller, 'fitting')
  const options = { rulebook: tarnAndTiller, kind }
  const [{ item, files }] = await bringIn(demoSources('galley_stove'), kind.id, {}, [])
  const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
  const { result } = await prepareItem(start, { ...options, store: memoryStore() })
  const bounds = partsBounds(listViewParts(result.document))
  const [width] = boundsSize(bounds)
  const top = [0, bounds.max[1], 0]
  const side = [bounds.max[0], bounds.max[1] * 0.3, 0]
  let document = result.document
  for (const [step, parameters] of [
    ['put-point', { name: 'Flue', at: [top], looks: '+y' }],
    ['put-point', { name: 'Shelf', at: [side], looks: 'outward' }],
    ['say-what-joins', { point: '', joins: '', width: 0 }],
    [
      'put-light',
      {
        name: 'Glow',
        at: [[0, bounds.max[1] * 0.3, bounds.max[2] + 0.2]],
        colour: '#ff8030',
        candela: 40,
        range: width * 3,
        shines: 'all-round',
        towards: '-y',
        coneDegrees: 60,
      },
    ],
    ['clean-names', {}],
  ] as const)
    document = (await runStep(step, document, parameters, options)).after
  expect(checkItem({ document, ...options }).findings.filter(({ severity }) => severity !== 'note')).toEqual([])
  const { bytes } = await packItems([{ name: 'galley_stove', kind, document }], tarnAndTiller, 'stove')
  const { loads, log, items } = loadPack(bytes, tarnAndTiller)
  expect([loads, log.filter(({ level }) => level !== 'told')]).toEqual([true, []])
  expect(items[0].points.map(({ name, extras }) => [name, extras['joins']])).toEqual([
    ['at_flue', 'pipe'],
    ['at_shelf', 'ledge'],
  ])
  // The lamp that came along, and the glow that was put.
  expect(items[0].lights).toHaveLength(2)
})
