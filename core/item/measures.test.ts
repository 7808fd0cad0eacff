import type { Document } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { ball, documentOf, unitBox } from '../test-support/meshes.ts'
import { nodeOf } from '../test-support/moving-items.ts'
import { clipsApart, namedClips } from './clips-apart.ts'
import { getRootExtras, setNodeExtras, setRootExtras } from './extras.ts'
import {
  boundsSize,
  emptyBounds,
  growBounds,
  isEmptyBounds,
  mergedTriangles,
  partBounds,
  partsBounds,
  uniteBounds,
} from './measure.ts'
import { itemScene, listViewParts } from './parts.ts'
import { findStrays, type StrayKind } from './strays.ts'
import { likelyUnit, metresOrLikely, unitName, unitOfMetres } from './units.ts'

describe('boxes round things', () => {
  it('of nothing join to the other box, and have no size', () => {
    const box = { min: [1, 2, 3] as [number, number, number], max: [4, 6, 8] as [number, number, number] }
    expect(uniteBounds(emptyBounds(), box)).toEqual(box)
    expect(boundsSize(emptyBounds())).toEqual([0, 0, 0])
    expect(isEmptyBounds(partsBounds([]))).toBe(true)
    expect(boundsSize(box)).toEqual([3, 4, 5])
  })

  it('hold every point that they were grown by', () => {
    const points = fc.array(fc.float({ min: -100, max: 100, noNaN: true }), { minLength: 3, maxLength: 60 })
    fc.assert(
      fc.property(points, (values) => {
        const whole = values.slice(0, values.length - (values.length % 3))
        const bounds = emptyBounds()
        growBounds(bounds, Float32Array.from(whole), [2, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1])
        for (let at = 0; at < whole.length; at += 3) {
          const x = Math.fround(whole[at]) * 2 + 5
          expect(x).toBeGreaterThanOrEqual(bounds.min[0])
          expect(x).toBeLessThanOrEqual(bounds.max[0])
        }
      }),
    )
  })

  it('stand where their part stands', () => {
    const document = documentOf({ crate: unitBox() })
    nodeOf(document, 'crate').setTranslation([10, 0, 0]).setScale([2, 1, 1])
    expect(partBounds(listViewParts(document)[0])).toEqual({ min: [10, 0, 0], max: [12, 1, 1] })
  })
})

describe('parts run together', () => {
  it('keep their triangles, each with its part', () => {
    const { positions, indices, partOfTriangle } = mergedTriangles(
      listViewParts(documentOf({ crate: unitBox(), buoy: ball(1, 3) })),
    )
    expect(indices).toHaveLength((12 + 24) * 3)
    expect([...partOfTriangle].filter((part) => part === 0)).toHaveLength(12)
    expect(Math.max(...indices)).toBeLessThan(positions.length / 3)
  })

  it('are wound as they are drawn where a node mirrors them', () => {
    const document = documentOf({ crate: unitBox() })
    const volume = (): number => {
      const { positions, indices } = mergedTriangles(listViewParts(document))
      let sum = 0
      for (let at = 0; at < indices.length; at += 3) {
        const [a, b, c] = [0, 1, 2].map((corner) =>
          positions.subarray(indices[at + corner] * 3, indices[at + corner] * 3 + 3),
        )
        sum +=
          a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])
      }
      return sum / 6
    }
    expect(volume()).toBeCloseTo(1)
    nodeOf(document, 'crate').setScale([-1, 1, 1])
    expect(volume()).toBeCloseTo(1)
  })
})

describe('units of length', () => {
  it('have their usual names, others their length', () => {
    expect(unitName(0.01)).toBe('cm')
    expect(unitName(0.0254)).toBe('in')
    expect(unitName(0.37)).toBe('0.37 m')
    expect(unitOfMetres(0.5)).toBeNull()
  })

  it.each([
    [1.8, 'm'],
    [180, 'cm'],
    [1800, 'mm'],
    [91, 'cm'],
    [26.5, 'cm'],
    [71, 'cm'],
    [1e9, 'mm'],
    [1e-9, 'm'],
  ])('a thing of %s is most likely in %s', (extent, unit) => {
    // A chair and a jug in centimetres would be giants in inches, which no size tells from them.
    expect(likelyUnit(extent).id).toBe(unit)
  })

  it('are what was said, likely or not', () => {
    expect(metresOrLikely({ metresPerUnit: 1000, from: 'declared' }, 1.8)).toBe(1000)
    expect(metresOrLikely({ metresPerUnit: null, from: 'unknown' }, 180)).toBe(0.01)
  })
})

describe('what came along with a model', () => {
  const strays = (document: Document): [string, StrayKind][] =>
    findStrays(document).map(({ name, what }) => [name, what])
  const add = (document: Document, name: string) => {
    const node = document.createNode(name)
    itemScene(document).addChild(node)
    return node
  }

  it('is nothing of a plain thing', () => {
    expect(strays(documentOf({ crate: unitBox(), lid: boxMesh({ min: [0, 1, 0], max: [1, 1.1, 1] }) }))).toEqual([])
  })

  it('is a camera, a lamp, an empty', () => {
    const document = documentOf({ crate: unitBox() })
    add(document, 'Camera').setCamera(document.createCamera())
    const lights = document.createExtension(KHRLightsPunctual)
    add(document, 'Sun').setExtension('KHR_lights_punctual', lights.createLight())
    add(document, 'Empty')
    expect(strays(document)).toEqual([
      ['Camera', 'camera'],
      ['Sun', 'lamp'],
      ['Empty', 'empty'],
    ])
  })

  it('is no empty that is something to the game', () => {
    const document = documentOf({ crate: unitBox() })
    setNodeExtras(add(document, 'handle'), { role: 'attach-point' })
    expect(strays(document)).toEqual([])
  })

  it('is a dark flat sheet under it, and not a light one or one with a picture', () => {
    const shaded = (colour: [number, number, number, number]): Document => {
      const document = documentOf({
        crate: boxMesh({ min: [0, 0, 0], max: [4, 3, 4] }),
        Shade: boxMesh({ min: [-1, -0.001, -1], max: [5, 0, 5] }),
      })
      const shade = listViewParts(document)[1].mesh.listPrimitives()[0].getMaterial()
      shade?.setBaseColorFactor(colour)
      return document
    }
    expect(strays(shaded([0, 0, 0, 1]))).toEqual([['Shade', 'ground shade']])
    expect(strays(shaded([0.8, 0.8, 0.8, 1]))).toEqual([])
  })

  it('is what stands twice in one place, and not what only has the same box', () => {
    const twice = documentOf({ crate: unitBox(), 'crate.001': unitBox() })
    expect(findStrays(twice)).toMatchObject([
      { name: 'crate.001', what: 'double', detail: 'is crate a second time, in the same place' },
    ])
    const other = unitBox()
    // The same box and as many triangles, of another shape.
    other.positions = other.positions.map((value, at) => (at < 9 && at % 3 === 0 ? 0.5 : value))
    expect(strays(documentOf({ crate: unitBox(), other }))).toEqual([])
  })

  it('is what lies far from all the rest, the lesser of two', () => {
    const document = documentOf({ hull: ball(2, 12), gull: ball(0.2, 4, [300, 0, 0]) })
    expect(strays(document)).toEqual([['gull', 'far part']])
    expect(strays(documentOf({ hull: ball(2, 12), oar: ball(0.2, 4, [6, 0, 0]) }))).toEqual([])
  })
})

describe('clips of an item', () => {
  function moving(...clips: [name: string, node: string, path: 'translation' | 'rotation'][]): Document {
    const document = documentOf({ lid: unitBox(), bell: unitBox() })
    for (const [name, node, path] of clips)
      document
        .createAnimation(name)
        .addChannel(document.createAnimationChannel().setTargetNode(nodeOf(document, node)).setTargetPath(path))
    return document
  }

  it('have each a name of its own', () => {
    const document = moving(['walk', 'lid', 'translation'], ['walk', 'bell', 'translation'], ['', 'lid', 'rotation'])
    expect(namedClips(document).map(({ name }) => name)).toEqual(['walk', 'walk (2)', 'clip'])
  })

  it('go together where they move other things, or one thing in another way', () => {
    const document = moving(['open', 'lid', 'rotation'], ['ring', 'bell', 'rotation'], ['lift', 'lid', 'translation'])
    expect(clipsApart(document)).toEqual(['open', 'ring', 'lift'])
  })

  it('that move one thing in one way do not: the first stays, or the one that was said', () => {
    const document = moving(['open', 'lid', 'rotation'], ['shut', 'lid', 'rotation'], ['ring', 'bell', 'rotation'])
    expect(clipsApart(document)).toEqual(['open', 'ring'])
    expect(clipsApart(document, 'shut')).toEqual(['shut', 'ring'])
    expect(clipsApart(document, 'nobody')).toEqual(['open', 'ring'])
  })
})

describe('what is known of a whole item', () => {
  it('is kept with it, and nothing of it is lost by another note', () => {
    const document = documentOf({ crate: unitBox() })
    const root = document.getRoot()
    setRootExtras(root, { ...getRootExtras(root), lookNames: ['plain', 'dusk'] })
    expect(getRootExtras(root)).toMatchObject({ lookNames: ['plain', 'dusk'], axes: { up: '+y' } })
  })
})
