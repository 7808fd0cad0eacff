import { describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { kindOf } from '../../game/load.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { countPrimitiveTriangles, countTriangles, listViewParts } from '../../item/parts.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { loadPack } from '../../trial/load-pack.ts'
import { prepareItem } from '../../crate/prepare-item.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { runWorklist } from '../../worklist/run.ts'

const kind = kindOf(tarnAndTiller, 'ground')
const options = { rulebook: tarnAndTiller, kind, store: memoryStore(0) }
const stock = 'stock/rope_col.dds'

/** A quay and a kerb, of stone and of moss. */
function quay(): Document {
  const document = documentOf({
    quay: boxMesh({ min: [-6, 0, -6], max: [6, 1, 6] }),
    kerb: boxMesh({ min: [-6, 1, 5], max: [6, 2, 6] }),
  })
  const [first, second] = listViewParts(document)
  first.mesh.listPrimitives()[0].setMaterial(document.createMaterial('stone'))
  second.mesh.listPrimitives()[0].setMaterial(document.createMaterial('moss'))
  return document
}

const laid = async (parameters: object): Promise<Document> => {
  const entry = {
    id: 'step-1',
    step: 'lay-finish',
    on: true,
    reason: null,
    parameters: { by: 'slope', fromDegrees: 0, toDegrees: 0, material: '', faces: [], lay: 'moss', ...parameters },
  }
  const { document, outcomes } = await runWorklist(
    { key: JSON.stringify(parameters), document: quay() },
    [entry],
    options,
  )
  expect(outcomes[0].state).toBe('done')
  expect(countTriangles(listViewParts(document))).toBe(24)
  return document
}

/** Triangles of each part by their material. */
const finishes = (document: Document): Record<string, Record<string, number>> =>
  Object.fromEntries(
    listViewParts(document).map(({ name, mesh }) => [
      name,
      Object.fromEntries(
        mesh.listPrimitives().map((primitive) => {
          const material = primitive.getMaterial()
          return [material ? baseNameOf(material, tarnAndTiller) : '', countPrimitiveTriangles(primitive)]
        }),
      ),
    ]),
  )

describe('a finish', () => {
  it('is laid on level ground, on walls or on ceilings by how far they lean', async () => {
    expect(finishes(await laid({ toDegrees: 30 }))).toEqual({ quay: { stone: 10, moss: 2 }, kerb: { moss: 12 } })
    expect(finishes(await laid({ fromDegrees: 80, toDegrees: 100 })).quay).toEqual({ stone: 4, moss: 8 })
    expect(finishes(await laid({ fromDegrees: 170, toDegrees: 180 })).quay).toEqual({ stone: 10, moss: 2 })
    expect(finishes(await laid({ fromDegrees: 20, toDegrees: 60 })).quay).toEqual({ stone: 12 })
  })

  it('is laid in place of a material, and on faces that are pointed at', async () => {
    expect(finishes(await laid({ by: 'material', material: 'moss', lay: 'stone' }))).toEqual({
      quay: { stone: 12 },
      kerb: { stone: 12 },
    })
    const pick = { part: 'quay', point: [0, 1, 0], growth: 'flat', angleDegrees: 5 }
    const picked = finishes(await laid({ by: 'faces', faces: [pick] }))
    expect(picked.quay).toEqual({ stone: 10, moss: 2 })
  })

  it('may be a picture that the game has, which the loader finds in its stock', async () => {
    const document = await laid({ toDegrees: 30, lay: stock })
    expect(finishes(document).quay).toEqual({ stone: 10, rope_col: 2 })
    const { result } = await prepareItem(
      { key: 'stock', document },
      { ...options, store: memoryStore() },
      { itemName: 'quay' },
    )
    const { bytes } = await packItems([{ name: 'quay', kind, document: result.document }], tarnAndTiller, 'quay')
    const { loads, log } = loadPack(bytes, tarnAndTiller)
    expect([loads, log.filter(({ level }) => level === 'refused')]).toEqual([true, []])
  })

  it('that is not there is told', async () => {
    const parameters = { lay: 'brick', by: 'slope', fromDegrees: 0, toDegrees: 30, material: '', faces: [] }
    const entry = { id: 'step-1', step: 'lay-finish', on: true, reason: null, parameters }
    const { outcomes } = await runWorklist({ key: 'gone', document: quay() }, [entry], options)
    expect(outcomes).toMatchObject([{ state: 'done', record: { doesNotApply: expect.stringMatching(/brick/) } }])
  })
})
