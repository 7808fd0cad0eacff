import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, box, paintedMaterial, yUp } from './glb-shapes.ts'
import { grain } from './noise.ts'
import { ironColour } from './paint.ts'
import { append, emptyMesh, type PolygonMesh } from './solid-shapes.ts'

const ribs = 5
/** How high each rib is fastened to the wall, in metres: its origin. */
const fastenedAt = 2.24

/** Striped canvas. */
const canvasColour = (u: number, v: number): [number, number, number] => {
  const weave = 0.86 + 0.14 * grain(u * 90, v * 90)
  return (Math.floor(u * 10) % 2 === 0 ? [206, 196, 170] : [62, 98, 88]).map((value) => value * weave) as [
    number,
    number,
    number,
  ]
}

/** A cloth that hangs in arcs between its ribs: too few rows, so it is angular. */
function cloth(): PolygonMesh {
  const mesh = emptyMesh()
  const [across, along] = [ribs * 2 - 1, 4]
  for (let row = 0; row < along; row++) {
    for (let column = 0; column < across; column++) {
      const [u, v] = [column / (across - 1), row / (along - 1)]
      const sag = column % 2 === 1 ? 0.12 : 0
      mesh.points.push([(u - 0.5) * 3.2, v * 1.6, 2.3 - 0.7 * v * v - sag])
      mesh.uvs.push([u, v])
    }
  }
  for (let row = 0; row + 1 < along; row++) {
    for (let column = 0; column + 1 < across; column++) {
      const a = row * across + column
      const face = [a, a + 1, a + across + 1, a + across]
      mesh.faces.push({ points: face, uvs: face })
    }
  }
  return mesh
}

function rib(): PolygonMesh {
  const mesh = emptyMesh()
  for (let piece = 0; piece < 4; piece++) {
    const [v0, v1] = [piece / 4, (piece + 1) / 4]
    append(mesh, box(0.05, 1, 0.05), ([x, y, z]) => {
      const v = v0 + (v1 - v0) * (y + 0.5)
      return [x, v * 1.6, -0.7 * v * v + z]
    })
  }
  return mesh
}

/**
 * The Canvas awning: five ribs and a cloth of few rows, in metres; nothing says yet which rib holds which part of the
 * cloth.
 */
export async function awningGlb(): Promise<Uint8Array> {
  const document = createDocument('Canvas awning')
  const scene = document.getRoot().listScenes()[0]
  const iron = paintedMaterial(document, 'rib iron', 64, ironColour)
  const canvas = paintedMaterial(document, 'awning canvas', 256, canvasColour)
  const ribMesh = addMesh(document, 'rib', yUp(rib()), iron)
  for (let index = 0; index < ribs; index++)
    scene.addChild(
      document
        .createNode(`Rib ${index + 1}`)
        .setMesh(ribMesh)
        .setTranslation([(index / (ribs - 1) - 0.5) * 3.2, fastenedAt, 0]),
    )
  scene.addChild(document.createNode('Cloth').setMesh(addMesh(document, 'cloth', yUp(cloth()), canvas)))
  return createIO().writeBinary(document)
}
