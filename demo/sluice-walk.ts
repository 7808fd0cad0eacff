import { createDocument, createIO } from '../core/item/io.ts'
import { addMesh, addSwing, box, paintedMaterial, yUp } from './glb-shapes.ts'
import { ironColour, timberColour } from './paint.ts'

/**
 * The Sluice walk: planks over the water with three gates to cross, two of which swing. One stamp is sunk into the
 * planks, the floor limit lies too high, and the third gate has no motion. Metres.
 */
export async function sluiceGlb(): Promise<Uint8Array> {
  const document = createDocument('Sluice walk')
  const scene = document.getRoot().listScenes()[0]
  const timber = paintedMaterial(document, 'walk timber', 256, timberColour)
  const iron = paintedMaterial(document, 'gate iron', 128, ironColour)
  const deck = addMesh(document, 'deck', yUp(box(1.6, 4, 0.12, [4, 10, 1])), timber)
  const post = addMesh(document, 'post', yUp(box(0.2, 0.2, 2.2, [1, 1, 6])), timber)
  const leaf = addMesh(document, 'leaf', yUp(box(1.4, 0.08, 1.2, [6, 1, 5])), iron)
  for (let span = 0; span < 4; span++)
    scene.addChild(
      document
        .createNode(`Deck ${span + 1}`)
        .setMesh(deck)
        .setTranslation([0, 1, span * 4.2]),
    )
  for (let gate = 0; gate < 3; gate++) {
    const z = 2.1 + gate * 4.2
    scene.addChild(
      document
        .createNode(`Gate post ${gate + 1}`)
        .setMesh(post)
        .setTranslation([-0.95, 0, z]),
    )
    const hinge = document.createNode(`Gate ${gate + 1}`).setTranslation([-0.8, 1.2, z])
    hinge.addChild(
      document
        .createNode(`Gate leaf ${gate + 1}`)
        .setMesh(leaf)
        .setTranslation([0.75, 0, 0]),
    )
    scene.addChild(hinge)
    if (gate < 2) addSwing(document, `gate ${gate + 1} swings`, hinge, 4, 24, 0.9)
  }
  const marker = (name: string, place: [number, number, number]): void =>
    void scene.addChild(document.createNode(name).setTranslation(place))
  marker('start', [0, 1.12, -1.6])
  marker('arrive', [0, 1.12, 14.2])
  for (let stamp = 0; stamp < 6; stamp++)
    marker(`stamp_${String(stamp + 1).padStart(2, '0')}`, [
      stamp % 2 === 0 ? 0.4 : -0.4,
      stamp === 3 ? 1.05 : 1.42,
      stamp * 2.4,
    ])
  marker('floor_limit', [0, 0.6, 6])
  return createIO().writeBinary(document)
}
