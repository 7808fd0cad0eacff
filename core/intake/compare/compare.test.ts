import { describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { bringIn } from '../../crate/bring-in.ts'
import { readNewer } from '../../crate/newer.ts'
import { compareWithBrought, compareWithStock, newParts } from '../../crate/official.ts'
import { identityMatrix } from '../../maths/axes.ts'
import { listViewParts } from '../../item/parts.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { demoSources, textFile } from '../../test-support/sources.ts'
import { compareWithOfficial } from './against-official.ts'
import { whatChanged } from './what-changed.ts'

const ship = (): Document => {
  const document = documentOf({ hull: ball(4, 8), mast: unitBox(), flag: ball(1, 6) })
  const [, mast, flag] = listViewParts(document)
  mast.node.setTranslation([0, 5, 0])
  flag.node.setTranslation([0, 9, 0])
  return document
}
const part = (document: Document, name: string) => listViewParts(document).find((each) => each.name === name)?.node
const statesOf = (comparison: ReturnType<typeof compareWithOfficial>) =>
  Object.fromEntries(comparison.parts.map((each) => [each.name, each.state]))

describe('against the official object', () => {
  it('finds all parts untouched whatever they are called', () => {
    const scene = ship()
    part(scene, 'mast')?.setName('Object.042')
    expect(statesOf(compareWithOfficial(scene, ship()))).toEqual({
      hull: 'untouched',
      'Object.042': 'untouched',
      flag: 'untouched',
    })
  })

  it('tells what moved, what has another shape in the same spot, what is new and what is gone', () => {
    const scene = documentOf({ hull: ball(4, 8), mast: unitBox(), ball: ball(4, 12), lamp: ball(0.3, 5) })
    part(scene, 'mast')?.setTranslation([2, 5, 0])
    part(scene, 'lamp')?.setTranslation([0, 20, 0])
    const official = documentOf({ hull: ball(4, 8), mast: unitBox(), core: ball(4, 10), flag: ball(1, 6) })
    part(official, 'mast')?.setTranslation([0, 5, 0])
    part(official, 'flag')?.setTranslation([0, 9, 0])
    const comparison = compareWithOfficial(scene, official)
    expect(statesOf(comparison)).toEqual({ hull: 'untouched', mast: 'moved', ball: 'changed', lamp: 'new' })
    expect(comparison.gone).toEqual(['flag'])
  })

  it('compares in the game’s space, whatever unit each is in', () => {
    const [inSpans, inMetres] = [ship(), ship()]
    changeBasis(inMetres, identityMatrix(), 0.5)
    setRootExtras(inMetres.getRoot(), {
      ...getRootExtras(inMetres.getRoot()),
      units: { metresPerUnit: 1, from: 'declared' },
    })
    expect(compareWithBrought(inMetres, inSpans, tarnAndTiller).parts.every((each) => each.state === 'untouched')).toBe(
      true,
    )
  })

  it('takes from the bow pennants only what is not the ferry’s', async () => {
    const [{ document }] = await bringIn(demoSources('bow_pennants'), 'addition', {}, [])
    const comparison = await compareWithStock(
      document,
      { rulebook: tarnAndTiller, stock: null },
      'ferry',
      async () => null,
    )
    expect(newParts(comparison)).toEqual([
      'Pennant pole',
      'Pennant line',
      ...[1, 2, 3, 4, 5, 6, 7].map((number) => `Pennant ${number}`),
    ])
    expect(statesOf(comparison)).toMatchObject({
      ferry_hull: 'untouched',
      ferry_cabin: 'changed',
      ferry_rail_03: 'moved',
    })
    expect(comparison.gone).toEqual([])
  })
})

describe('a newer source', () => {
  it('is the same when nothing changed', () => {
    const change = whatChanged(ship(), ship())
    expect(change.parts.every((each) => each.state === 'same')).toBe(true)
    expect(change.triangles.before).toBe(change.triangles.after)
  })

  it('lists parts that were added, went, moved or took another shape', () => {
    const after = documentOf({ hull: ball(4, 10), mast: unitBox(), anchor: unitBox() })
    part(after, 'mast')?.setTranslation([1, 5, 0])
    const change = whatChanged(ship(), after)
    expect(Object.fromEntries(change.parts.map((each) => [each.name, each.state]))).toEqual({
      hull: 'changed',
      mast: 'moved',
      flag: 'gone',
      anchor: 'added',
    })
  })

  it(
    'keeps textures and what was said, takes the mesh of the same name, and leaves the item alone until it is ' +
      'accepted',
    async () => {
      const [{ item, files }] = await bringIn(
        demoSources('boathouse_gate'),
        'prop',
        { metresPerUnit: 0.01, up: '+z' },
        [],
      )
      const bytesOf = async (sha256: string) => files.find((each) => each.sha256 === sha256)?.file.bytes ?? null
      const newer = textFile(
        'saved again/BOATHOUSE_GATE.obj',
        'mtllib Boathouse gate.v2.mtl\no Arch stone.001\nv 0 0 0\nv 100 0 0\nv 0 100 0\nusemtl Iron strap\nf 1 2 3\n',
      )
      const found = await readNewer(item, [newer], bytesOf)
      expect(found.main).toBe(newer.path)
      expect(found.sources).toHaveLength(item.sources.length)
      expect(found.change.triangles).toEqual({ before: 38_098, after: 1 })
      expect(found.change.parts.find((each) => each.name === 'Left leaf')).toMatchObject({ state: 'gone', after: null })
      expect(item.main).toBe('boathouse_gate.obj')
    },
  )

  it('is refused in a sentence when it cannot be read, or when nobody knows which mesh is meant', async () => {
    const [{ item, files }] = await bringIn(demoSources('mooring_bell'), 'mover', {}, [])
    const bytesOf = async (sha256: string) => files.find((each) => each.sha256 === sha256)?.file.bytes ?? null
    await expect(
      readNewer(item, [textFile('mooring_bell.glb', 'no glb at all, though called one')], bytesOf),
    ).rejects.toThrow(/does not begin like a GLB/)
    await expect(readNewer(item, [textFile('a.obj', ''), textFile('b.obj', '')], bytesOf)).rejects.toThrow(
      /none of 2 meshes is called mooring_bell\.glb/,
    )
  })
})
