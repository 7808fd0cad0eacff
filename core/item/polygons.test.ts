import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { sheet } from '../test-support/shapes.ts'
import { listViewParts } from './parts.ts'
import { countLargePolygons, dropFalsePolygons, POLYGON_ATTRIBUTE, polygonAttribute, readOutlines } from './polygons.ts'
import { writeAttribute, writeIndices } from './primitive-arrays.ts'

describe('polygons of a source', () => {
  /** A sheet of squares, each kept as a square, some of its triangles left out. */
  function squares(across: number, without: readonly number[] = [], turned = false): Document {
    const { positions } = sheet(across, 1)
    const corners = Array.from({ length: across }, (_, cell) => [
      cell,
      cell + 1,
      cell + across + 2,
      cell + across + 1,
    ]).flat()
    const apart = Float32Array.from(corners.flatMap((corner) => [...positions.subarray(corner * 3, corner * 3 + 3)]))
    const indices = Array.from({ length: across }, (_, cell) => {
      const a = cell * 4
      return [
        [a, a + 1, a + 2],
        [a, a + 2, a + 3],
      ]
    })
      .flat()
      .filter((_, triangle) => !without.includes(triangle))
      .flatMap((triangle) => (turned ? triangle.toReversed() : triangle))
    const document = documentOf({ sheet: { positions: apart, indices: Uint32Array.from(indices) } })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const sizes = new Uint8Array(across).fill(4)
    writeAttribute(document, primitive, POLYGON_ATTRIBUTE, polygonAttribute(sizes, across * 4), 3)
    writeIndices(document, primitive, Uint32Array.from(indices), across * 4)
    return document
  }
  const outlines = (document: Document) => readOutlines(listViewParts(document)[0].mesh.listPrimitives()[0])

  it('are read back whole, each in its order', () => {
    expect(countLargePolygons(squares(3))).toBe(3)
    const read = outlines(squares(3))
    expect([...(read?.starts ?? [])]).toEqual([0, 4, 8, 12])
    expect([...(read?.corners ?? [])]).toEqual([...Array(12).keys()])
    expect(read?.loose).toHaveLength(0)
  })

  it('are turned over with their triangles', () => {
    const read = outlines(squares(1, [], true))
    const order = [...(read?.corners ?? [])]
    // The same round, the other way.
    const at = order.indexOf(0)
    expect([0, 1, 2, 3].map((step) => order[(at + step) % 4])).toEqual([0, 3, 2, 1])
  })

  it('of which a triangle was taken away are loose triangles', () => {
    const read = outlines(squares(2, [1]))
    expect([...(read?.starts ?? [])]).toEqual([0, 4])
    expect([...(read?.loose ?? [])]).toEqual([0, 1, 2])
  })

  const renumbered = (document: Document, number: (of: number) => number): Document => {
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const values: ArrayLike<number> = primitive.getAttribute(POLYGON_ATTRIBUTE)?.getArray() ?? []
    writeAttribute(
      document,
      primitive,
      POLYGON_ATTRIBUTE,
      Float32Array.from(values, (value, at) => (at % 3 === 0 ? number(value) : value)),
      3,
    )
    return document
  }

  it('may leave out numbers, as many as they like', () => {
    const read = outlines(renumbered(squares(3), (number) => number * 5_000_000 + 7))
    expect(read).toEqual(outlines(squares(3)))
  })

  it.each([-1, 0.5, NaN])('are none where the number of one is %s', (wrong) => {
    const document = renumbered(squares(3), (number) => (number === 1 ? wrong : number))
    expect(outlines(document)).toBeNull()
    expect(countLargePolygons(document)).toBe(0)
    dropFalsePolygons(document)
    expect(listViewParts(document)[0].mesh.listPrimitives()[0].getAttribute(POLYGON_ATTRIBUTE)).toBeNull()
  })

  it('are none where one would have more corners than are read, or a corner that it has not', () => {
    for (const [place, size] of [
      [0, 3.9e9],
      [4, 4],
      [0, 0],
    ]) {
      const document = squares(1)
      const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
      writeAttribute(
        document,
        primitive,
        POLYGON_ATTRIBUTE,
        Float32Array.from({ length: 12 }, (_, at) => [0, place, size][at % 3]),
        3,
      )
      expect(outlines(document)).toBeNull()
    }
  })

  it('stay where they are right', () => {
    const document = squares(2)
    dropFalsePolygons(document)
    expect(countLargePolygons(document)).toBe(2)
  })

  it('are none where the source had triangles', () => {
    expect(outlines(documentOf({ crate: unitBox() }))).toBeNull()
    expect(countLargePolygons(documentOf({ crate: unitBox() }))).toBe(0)
  })
})
