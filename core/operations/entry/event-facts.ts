import type { Document, Node } from '@gltf-transform/core'
import type { EventCause, EventEffect } from '../../game/schema-catalogue.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { isUnder, listSceneNodes } from '../../item/parts.ts'

type Meaning = NonNullable<Rulebook['solids']['layers'][number]['means']>

/** Which layers let something be set off; every solid does in a game that says nothing of its layers. */
const meanings: Partial<Record<EventCause, readonly Meaning[]>> = {
  'walked-into': ['walked-on', 'stops'],
  handled: ['handled'],
  hit: ['stops', 'moves'],
}

/** What a thing of an item can do: be set off, and be seen to act. */
export interface EventFacts {
  /** Whether anything sets it off that way. */
  isSetOff: (cause: EventCause, thing: string | undefined) => boolean
  /** Whether something is seen or heard of it. */
  acts: (effect: EventEffect, thing: string | undefined) => boolean
}

/**
 * What the events of an item hang on: solids by what their layers mean, markers, clips and lights, of the whole item or
 * of what stands under one of its nodes.
 *
 * @example const isReached = eventFacts(document, rulebook, kind).isSetOff('handled', 'lid')
 */
export function eventFacts(document: Document, rulebook: Rulebook, kind: Kind): EventFacts {
  const isRead = (surface: string | null, mass: number | null): boolean =>
    surface !== null && (kind.solids?.fixed !== false || mass !== null)
  const solids = listSolids(document).filter(({ extras: { solid } }) =>
    solid ? isRead(solid.surface, solid.massKilograms) : false,
  )
  const layersSay = rulebook.solids.layers.some(({ means }) => means !== null)
  const meansOf = (layers: readonly string[]): Meaning[] =>
    rulebook.solids.layers.flatMap(({ name, means }) => (means !== null && layers.includes(name) ? [means] : []))
  const moved = nodesOfClips(document)
  const isMoved = (node: Node | null): boolean => node !== null && (moved.has(node) || isMoved(node.getParentNode()))
  const bends = (node: Node): boolean => node.getSkin()?.listJoints().some(isMoved) ?? false
  const places = listPlaces(document)
  const nodes = listSceneNodes(document)
  const isWithin = (node: Node, thing: string | undefined): boolean => thing === undefined || isUnder(node, thing)
  const ends = rulebook.markers.filter(({ does }) => does === 'ends').map(({ name }) => name)
  return {
    isSetOff(cause, thing) {
      const wanted = meanings[cause]
      if (wanted)
        return solids.some(
          ({ node, extras }) =>
            isWithin(node, thing) &&
            (!layersSay || meansOf(extras.solid?.layers ?? []).some((meaning) => wanted.includes(meaning))),
        )
      return (
        cause !== 'marker-reached' || (kind.markers && places.some(({ extras }) => ends.includes(extras.marker ?? '')))
      )
    },
    acts(effect, thing) {
      if (effect === 'plays-motion' || effect === 'plays-back')
        return nodes.some((node) => isWithin(node, thing) && (isMoved(node) || bends(node)))
      return (
        effect !== 'lights-up' || places.some(({ node, extras }) => extras.role === 'light' && isWithin(node, thing))
      )
    },
  }
}

const nodesOfClips = (document: Document): Set<Node> =>
  new Set(
    document
      .getRoot()
      .listAnimations()
      .flatMap((clip) => clip.listChannels())
      .flatMap((channel) => channel.getTargetNode() ?? []),
  )
