import type { Document, Node } from '@gltf-transform/core'
import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, addSwing, box, paintedMaterial, yUp } from './glb-shapes.ts'
import { append, emptyMesh } from './solid-shapes.ts'
import { ironColour, timberColour } from './paint.ts'

/** From the middle of one deck to the middle of the next; decks are 4 m long. */
const STRIDE = 5.2
/** Height of the gates’ boards above the feet of their posts: a stair above the decks. */
const HINGE_HEIGHT = 1.14
const GATES = 3

/**
 * The Sluice walk: decks over the water with three gates between them whose boards carry over the gaps; two of them
 * swing. One stamp is sunk into the planks, one rides a gate, the floor limit lies too high, and the third gate has no
 * motion. Metres.
 */
export async function sluiceGlb(): Promise<Uint8Array> {
  const document = createDocument('Sluice walk')
  const scene = document.getRoot().listScenes()[0]
  const timber = paintedMaterial(document, 'walk timber', 256, timberColour)
  const iron = paintedMaterial(document, 'gate iron', 128, ironColour)
  const deck = addMesh(document, 'deck', yUp(box(1.8, 4, 0.12, [4, 10, 1])), timber)
  const post = addMesh(document, 'post', yUp(box(0.2, 0.2, 2.2, [1, 1, 6])), timber)
  const leaf = addMesh(document, 'leaf', yUp(gateLeaf()), iron)
  for (let span = 0; span <= GATES; span++)
    scene.addChild(
      document
        .createNode(`Deck ${span + 1}`)
        .setMesh(deck)
        .setTranslation([0, 1, span * STRIDE]),
    )
  for (let gate = 0; gate < GATES; gate++) {
    // The hinges stand at the two sides by turns.
    const side = gate % 2 === 0 ? -1 : 1
    const z = (gate + 0.5) * STRIDE
    scene.addChild(
      document
        .createNode(`Gate post ${gate + 1}`)
        .setMesh(post)
        .setTranslation([side * 1.05, 0, z]),
    )
    const hinge = document.createNode(`Gate ${gate + 1}`).setTranslation([side * 0.9, HINGE_HEIGHT, z])
    const board = document.createNode(`Gate leaf ${gate + 1}`).setMesh(leaf)
    if (side > 0) board.setRotation([0, 1, 0, 0])
    scene.addChild(hinge.addChild(board))
    if (gate < 2) addSwing(document, `gate ${gate + 1} swings`, hinge, 6, 24, 0.9)
    if (gate === 0) hinge.addChild(place(document, 'stamp_07', [0.9, 0.38, 0]))
  }
  const marker = (name: string, at: [number, number, number]): void => void scene.addChild(place(document, name, at))
  marker('start', [0, 1.12, -1.6])
  marker('arrive', [0, 1.12, GATES * STRIDE + 1.6])
  for (let stamp = 0; stamp < 6; stamp++)
    marker(`stamp_${String(stamp + 1).padStart(2, '0')}`, [
      stamp % 2 === 0 ? 0.4 : -0.4,
      stamp === 3 ? 1.05 : 1.42,
      Math.floor(stamp / 2) * STRIDE + (stamp % 2) * 1.4,
    ])
  marker('floor_limit', [0, 0.6, 6])
  return createIO().writeBinary(document)
}

const place = (document: Document, name: string, at: [number, number, number]): Node =>
  document.createNode(name).setTranslation(at)

/** A board to stand on, from the hinge outward along x, with a rail at its hinge. */
function gateLeaf() {
  const leaf = emptyMesh()
  append(leaf, box(1.7, 0.8, 0.08, [8, 4, 1]), ([x, y, z]) => [x + 0.85, y, z])
  append(leaf, box(0.08, 0.7, 0.9, [1, 4, 5]), ([x, y, z]) => [x + 0.06, y, z + 0.08])
  return leaf
}
