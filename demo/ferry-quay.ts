import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, box, paintedMaterial, plainMaterial, yUp } from './glb-shapes.ts'
import { noise } from './noise.ts'
import { append, emptyMesh, type Point, type PolygonMesh } from './solid-shapes.ts'
import { stoneColour } from './paint.ts'

const brick = (u: number, v: number): [number, number, number] => {
  const row = Math.floor(v * 8)
  const across = (u * 4 + (row % 2) / 2) % 1
  const joint = across < 0.06 || (v * 8) % 1 < 0.12
  const level = (joint ? 150 : 118) + 26 * noise(u * 24, v * 24)
  return joint ? [level, level - 4, level - 14] : [level, level * 0.62, level * 0.5]
}

/**
 * The Ferry quay: a block of stone with a stair, a boat cellar that leads through it as a body whose faces look inward,
 * and a rail of open strips. Nothing says which of them is what. Metres.
 */
export async function quayGlb(): Promise<Uint8Array> {
  const document = createDocument('Ferry quay')
  const scene = document.getRoot().listScenes()[0]
  const stone = paintedMaterial(document, 'quay stone', 256, stoneColour)
  const cellar = paintedMaterial(document, 'cellar brick', 256, brick)
  const rail = plainMaterial(document, 'rail iron', [0.14, 0.16, 0.17])
  const add = (name: string, mesh: PolygonMesh, material: typeof stone): void =>
    void scene.addChild(document.createNode(name).setMesh(addMesh(document, name, yUp(mesh), material)))
  add('Quay block', box(12, 9, 3.2, [6, 5, 2]), stone)
  for (let step = 0; step < 10; step++)
    add(`Stair ${step + 1}`, moveAll(box(2.4, 0.42, 3.2 - 0.29 * (step + 1)), [3.6, -4.7 - 0.4 * step, 0]), stone)
  add('Boat cellar', inward(moveAll(box(3.2, 10, 2.5, [2, 5, 2]), [-2, 0, -0.1])), cellar)
  add('Rail', strips(), rail)
  return createIO().writeBinary(document)
}

function moveAll(mesh: PolygonMesh, by: Point): PolygonMesh {
  const copy = emptyMesh()
  append(copy, mesh, ([x, y, z]) => [x + by[0], y + by[1], z + by[2]])
  return copy
}

const inward = (mesh: PolygonMesh): PolygonMesh => ({
  ...mesh,
  faces: mesh.faces.map(({ points, uvs }) => ({ points: points.toReversed(), uvs: uvs.toReversed() })),
})

/** Three strips along the edge of the quay, seen from both sides and without ends. */
function strips(): PolygonMesh {
  const rail = emptyMesh()
  for (const height of [0.35, 0.7, 1.05]) {
    for (const side of [false, true]) {
      const base = rail.points.length
      for (const [x, z] of [
        [-2.8, 0],
        [2.2, 0],
        [2.2, 0.09],
        [-2.8, 0.09],
      ])
        rail.points.push([x, -4.35, 3.2 + height + z])
      const uvBase = rail.uvs.length
      rail.uvs.push([0, 0], [1, 0], [1, 1], [0, 1])
      const order = side ? [3, 2, 1, 0] : [0, 1, 2, 3]
      rail.faces.push({ points: order.map((at) => base + at), uvs: order.map((at) => uvBase + at) })
    }
  }
  return rail
}
