import { describe, expect, it } from 'vitest'
import { countTriangles, listViewParts } from '../../core/item/parts'
import { ball, documentOf, unitBox } from '../../core/test-support/meshes'
import { ladderOf, pickedTriangles } from './item-states'
import { ladderSchema } from './messages'

describe('levels for the page', () => {
  it('tell the triangles of each surface by its own corners, and count what is left alone', async () => {
    const document = documentOf({ crate: ball(1, 30), lid: ball(1, 20, [0, 3, 0]), nail: unitBox() })
    const [crate, lid] = listViewParts(document)
    crate.mesh.addPrimitive(lid.mesh.listPrimitives()[0])
    lid.node.dispose()
    const ladder = ladderSchema.parse(await ladderOf(document, ['nail'], async () => undefined))
    expect(ladder.levels[0].triangles).toBe(countTriangles(listViewParts(document)))
    for (const level of ladder.levels) {
      expect(level.parts.map((part) => part.name)).toEqual(['crate'])
      const [first, second] = level.parts[0].surfaces
      expect(Math.max(...first)).toBeLessThan(ball(1, 30).positions.length / 3)
      expect(Math.max(...second)).toBeLessThan(ball(1, 20).positions.length / 3)
      expect((first.length + second.length) / 3 + 12).toBe(level.triangles)
    }
  })
})

describe('picked triangles for the page', () => {
  it('stand where the part stands', () => {
    const document = documentOf({ box: unitBox() })
    listViewParts(document)[0].node.setTranslation([10, 0, 0])
    const corners = pickedTriangles(document, [
      { part: 'box', point: [10.5, 1, 0.5], growth: 'flat', angleDegrees: 10 },
    ])
    expect(corners.length).toBe(18)
    for (let at = 0; at < corners.length; at += 3) {
      expect(corners[at]).toBeGreaterThanOrEqual(10)
      expect(corners[at + 1]).toBe(1)
    }
    expect(
      pickedTriangles(document, [{ part: 'mast', point: [0, 0, 0], growth: 'piece', angleDegrees: 0 }]).length,
    ).toBe(0)
  })
})
