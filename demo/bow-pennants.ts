import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, addSwing, box, paintedMaterial, plainMaterial, yUp } from './glb-shapes.ts'
import { addFerry } from './official-ferry.ts'
import { emptyMesh, type PolygonMesh } from './solid-shapes.ts'

/** A three-cornered pennant of a few strips, hanging from a line. */
function pennant(): PolygonMesh {
  const mesh = emptyMesh()
  for (let row = 0; row <= 3; row++) {
    const half = 0.16 * (1 - row / 3)
    mesh.points.push([-half, 0.02 * row * row, -0.14 * row], [half, 0.02 * row * row, -0.14 * row])
    mesh.uvs.push([0.5 - half * 3, row / 3], [0.5 + half * 3, row / 3])
  }
  for (let row = 0; row < 3; row++) {
    const face = row === 2 ? [row * 2, row * 2 + 2, row * 2 + 1] : [row * 2, row * 2 + 2, row * 2 + 3, row * 2 + 1]
    mesh.faces.push({ points: face, uvs: face })
  }
  return mesh
}

/**
 * Bow pennants: a whole scene in metres with the official ferry inside, one rail post of it pushed aside and the cabin
 * made longer, and a line of pennants with a pole that sways. Only the pole, the line and the pennants are new.
 */
export async function pennantsGlb(): Promise<Uint8Array> {
  const document = createDocument('Bow pennants')
  const scene = document.getRoot().listScenes()[0]
  const ferry = addFerry(document, 1)
  ferry.find((node) => node.getName() === 'ferry_rail_03')?.setTranslation([1.3, 1.1, -1.2])
  const cabin = ferry.find((node) => node.getName() === 'ferry_cabin')
  cabin?.setMesh(
    addMesh(
      document,
      'ferry_cabin',
      yUp(box(1.8, 2.9, 1.9, [3, 5, 3])),
      plainMaterial(document, 'ferry_paint@timber', [0.12, 0.28, 0.24]),
    ),
  )
  const bunting = paintedMaterial(document, 'pennant cloth', 64, (u, v) =>
    Math.floor(u * 3 + v * 2) % 2 === 0 ? [176, 58, 52] : [222, 208, 176],
  )
  const wood = plainMaterial(document, 'pole wood', [0.4, 0.27, 0.14])
  const pole = document
    .createNode('Pennant pole')
    .setMesh(addMesh(document, 'pole', yUp(box(0.08, 0.08, 2.2, [1, 1, 4])), wood))
    .setTranslation([0, 1.2, -4])
  addSwing(document, 'pole sways', pole, 2, 24, 0.08)
  scene.addChild(pole)
  scene.addChild(
    document
      .createNode('Pennant line')
      .setMesh(addMesh(document, 'line', yUp(box(0.02, 5, 0.02, [1, 8, 1])), wood))
      .setTranslation([0, 3.3, -1.5]),
  )
  const cloth = addMesh(document, 'pennant', yUp(pennant()), bunting)
  for (let index = 0; index < 7; index++)
    scene.addChild(
      document
        .createNode(`Pennant ${index + 1}`)
        .setMesh(cloth)
        .setTranslation([0, 3.3, -3.8 + index * 0.72]),
    )
  return createIO().writeBinary(document)
}
