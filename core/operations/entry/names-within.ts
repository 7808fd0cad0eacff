import type { Document, Node } from '@gltf-transform/core'
import type { Kind } from '../../game/schema.ts'
import type { OwnNames } from '../../game/catalogue/references.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { listLooks } from '../../item/looks.ts'
import { listViewParts } from '../../item/parts.ts'

/** What an entry may name of its own item. */
export type NamesWithin = { [target in keyof OwnNames]: string[] }

/**
 * The names of all that an entry may point to within an item, as they are packed.
 * @param looks names of its looks where they are not those of the document
 *
 * @example namesWithin(document, kind, 'mooring_bell').clip // ['swing']
 */
export function namesWithin(
  document: Document,
  kind: Pick<Kind, 'attachPoints' | 'markers'>,
  itemName: string,
  looks?: readonly string[],
): NamesWithin {
  const parts = listViewParts(document)
  const places = listPlaces(document)
  const ofRole = (role: string): string[] => named(places.filter(({ extras }) => extras.role === role))
  return {
    part: named(parts),
    group: [...new Set(parts.flatMap(({ node }) => above(node)))]
      .filter((node) => node.getName() !== itemName || node.getParentNode() !== null || node.getMesh() !== null)
      .map((node) => node.getName()),
    point: kind.attachPoints ? ofRole('attach-point') : [],
    marker: kind.markers ? ofRole('marker') : [],
    light: ofRole('light'),
    clip: document
      .getRoot()
      .listAnimations()
      .map((clip) => clip.getName()),
    look: [...(looks ?? listLooks(document))],
  }
}

const named = (things: readonly { name: string }[]): string[] => [...new Set(things.map(({ name }) => name))]

function above(node: Node): Node[] {
  const parent = node.getParentNode()
  return parent ? [parent, ...above(parent)] : []
}
