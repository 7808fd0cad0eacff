import type { Document, Node } from '@gltf-transform/core'
import { addMesh, addSwing, box, plainMaterial, yUp } from './glb-shapes.ts'
import { hull } from './ferry-shapes.ts'
import { turned } from './solid-shapes.ts'

/**
 * The game's own ferry, as its stock stand-in has it: hull, deck, cabin, funnel, rail posts and a wheel that turns.
 * @param unitsPerMetre 2 for game units, 1 for a scene in metres
 */
export function addFerry(document: Document, unitsPerMetre: number): Node[] {
  const scene = document.getRoot().listScenes()[0]
  const scaled = (mesh: ReturnType<typeof box>) => ({
    ...mesh,
    points: mesh.points.map(([x, y, z]): [number, number, number] => [
      x * unitsPerMetre,
      y * unitsPerMetre,
      z * unitsPerMetre,
    ]),
  })
  const paintwork = plainMaterial(document, 'ferry_paint@timber', [0.12, 0.28, 0.24])
  const deckwood = plainMaterial(document, 'ferry_deck@timber', [0.42, 0.3, 0.18])
  const iron = plainMaterial(document, 'ferry_iron@iron', [0.16, 0.16, 0.17])
  const place = (
    name: string,
    mesh: ReturnType<typeof box>,
    material: typeof iron,
    [x, y, z]: [number, number, number],
  ): Node => {
    const node = document
      .createNode(name)
      .setMesh(addMesh(document, name, yUp(scaled(mesh)), material))
      .setTranslation([x * unitsPerMetre, y * unitsPerMetre, z * unitsPerMetre])
    scene.addChild(node)
    return node
  }
  const nodes = [
    place('ferry_hull', hull(9, 3, 1.4, 18), paintwork, [0, 0, 0]),
    place('ferry_deck', box(2.4, 6.4, 0.1, [4, 8, 1]), deckwood, [0, 1, 0]),
    place('ferry_cabin', box(1.8, 2.2, 1.9, [3, 4, 3]), paintwork, [0, 1.1, 1.2]),
    place(
      'ferry_funnel',
      turned(
        [
          [0.24, 0],
          [0.22, 0.9],
          [0.3, 1],
        ],
        14,
        [1, 1],
      ),
      iron,
      [0, 3, 1.4],
    ),
  ]
  for (let post = 0; post < 8; post++)
    nodes.push(
      place(`ferry_rail_${String(post + 1).padStart(2, '0')}`, box(0.06, 0.06, 0.8), iron, [
        post % 2 === 0 ? 1.1 : -1.1,
        1.1,
        -2.8 + Math.floor(post / 2) * 1.4,
      ]),
    )
  const wheel = place(
    'ferry_wheel',
    turned(
      [
        [0.1, 0],
        [0.42, 0.02],
        [0.42, 0.08],
        [0.1, 0.1],
      ],
      16,
      [1, 1],
    ),
    deckwood,
    [0, 1.9, 0.05],
  )
  addSwing(document, 'wheel turns', wheel, 3, 20, 0.5)
  return [...nodes, wheel]
}
