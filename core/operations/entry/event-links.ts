import type { Document } from '@gltf-transform/core'
import { eventInWords } from '../../game/catalogue/event-words.ts'
import { partsBounds } from '../../item/measure.ts'
import { isUnder, listViewParts } from '../../item/parts.ts'
import { entryOf } from './set-entry.ts'

type Place = [number, number, number]

/**
 * An event of an item as it would be drawn: from the middle of what sets it off to the middle of what it does it to.
 */
export interface EventLink {
  from: Place
  /** Null where it is done to something that is not of the item. */
  to: Place | null
  text: string
}

/**
 * The events of an item between the middles of its parts and groups, in the working space.
 * @example for (const { from, to } of eventLinks(document)) drawLine(from, to)
 */
export function eventLinks(document: Document): EventLink[] {
  const { events } = entryOf(document)
  const parts = listViewParts(document)
  if (events.length === 0 || parts.length === 0) return []
  const middle = (name: string | undefined): Place | null => {
    const own = name === undefined ? parts : parts.filter(({ node }) => isUnder(node, name))
    if (own.length === 0) return null
    const { min, max } = partsBounds(own)
    return min.map((low, axis) => (low + max[axis]) / 2) as Place
  }
  return events.flatMap((event) => {
    const from = middle(event.at)
    return from ? [{ from, to: middle(event.to), text: eventInWords(event, 'item') }] : []
  })
}
