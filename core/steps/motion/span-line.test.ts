import { describe, expect, it } from 'vitest'
import { prepareItem } from '../../crate/prepare-item.ts'
import { kindOf } from '../../game/load.ts'
import { partBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { loadPack } from '../../trial/load-pack.ts'
import { memoryStore } from '../../worklist/result-store.ts'

const ends = [
  [-4, 5, 0],
  [4, 5, 0],
]

describe('a line between places', () => {
  it('hangs between them, in its own part, as thick as is said', async () => {
    const { after, summary } = await runStep('span-line', documentOf({ post: unitBox() }), {
      name: 'Mooring line',
      places: ends,
      slackPercent: 10,
      width: 0.2,
    })
    expect(summary.details[0]).toMatch(/^mooring_line is 8\.\d+ spans long, with 13 rings and \d+ triangles\.$/)
    expect(summary.details[1]).toBe('It hangs 1.6 spans below the lowest of its places.')
    const line = listViewParts(after).find(({ name }) => name === 'mooring_line')
    const { min, max } = partBounds(line as NonNullable<typeof line>)
    expect(max[1]).toBeLessThan(5.11)
    expect(min[1]).toBeGreaterThan(3.2)
    expect(max[2]).toBeCloseTo(0.1, 2)
    expect([min[0], max[0]].map(Math.round)).toEqual([-4, 4])
  })
  it('goes through all its places, flat or drawn, and takes a material of the item', async () => {
    const document = documentOf({ post: unitBox() })
    const rope = document.createMaterial('rope@rope')
    listViewParts(document)[0].mesh.listPrimitives()[0].setMaterial(rope)
    for (const section of ['flat', 'drawn']) {
      const { after } = await runStep('span-line', document, {
        places: [...ends, [4, 8, 6]],
        section,
        width: 1,
        slackPercent: 0,
        material: 'rope',
      })
      const line = listViewParts(after)[1]
      expect(line.mesh.listPrimitives()[0].getMaterial()?.getName()).toBe('rope@rope')
      expect(partBounds(line).max[2]).toBeGreaterThan(5.9)
      expect(after.getRoot().listMaterials()).toHaveLength(document.getRoot().listMaterials().length)
    }
  })
  it('says what is missing, and makes nothing', async () => {
    for (const [places, words] of [
      [[], 'two or more'],
      [
        [
          [1, 1, 1],
          [1, 1, 1],
        ],
        'one spot',
      ],
    ] as const) {
      const { after, summary } = await runStep('span-line', documentOf({ post: unitBox() }), { places })
      expect(summary.changed).toBe(false)
      expect(summary.details[0]).toContain(words)
      expect(listViewParts(after)).toHaveLength(1)
    }
  })
  it('goes on to a pack that loads, in a material of its own', async () => {
    const kind = kindOf(tarnAndTiller, 'prop')
    const { after } = await runStep('span-line', documentOf({ post: unitBox() }), { places: ends })
    const { result, findings } = await prepareItem(
      { key: 'line', document: after },
      { rulebook: tarnAndTiller, kind, store: memoryStore() },
    )
    expect(findings.filter(({ severity }) => severity === 'blocks')).toEqual([])
    const { bytes } = await packItems([{ name: 'line', kind, document: result.document }], tarnAndTiller, 'x')
    expect(loadPack(bytes, tarnAndTiller).loads).toBe(true)
  })
})
