import type { Rulebook } from '../../game/schema.ts'
import type { LoadedMarker } from '../check-markers.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedMesh, LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from '../log.ts'
import type { LoadedEvent } from './read-entry.ts'

/** What events of an item are looked up in. */
export interface EventsWithin {
  nodes: readonly LoadedNode[]
  clips: LoadedMesh['clips']
  /** Solids that are read, by name, and the nodes that they are. */
  solids: readonly LoadedSolid[]
  /** Names of its parts and groups. */
  things: ReadonlySet<string>
  markers: readonly LoadedMarker[]
}

/**
 * Whether a node stands under a thing; every node does under the item as a whole.
 * @example const within = nodes.filter((node) => stands(node, event.at))
 */
export const stands = (node: LoadedNode, thing: string | undefined): boolean => {
  for (let at: LoadedNode | null = node; at; at = at.parent) if (thing === undefined || at.name === thing) return true
  return false
}

/**
 * Reads the events of an item: words, ends, whether anything sets them off and anything comes of them.
 * @example checkEvents(path, 'mooring_bell', entry.events, within, items, rulebook, log)
 */
export function checkEvents(
  path: string,
  itemName: string,
  events: readonly LoadedEvent[],
  within: EventsWithin,
  items: ReadonlyMap<string, string>,
  rulebook: Rulebook,
  log: TrialLog,
): void {
  const { when: causes, do: actions, most } = rulebook.behaviour.events
  if (events.length > most) log.refuse('event.count', path, `${events.length} events; ${most} are read.`)
  for (const [index, { when, at, do: does, to }] of events.entries()) {
    const which = `Event ${index + 1}`
    const cause = causes.find(({ word }) => word === when)
    const action = actions.find(({ word }) => word === does)
    if (!cause) log.refuse('event.when', path, `${which}: nothing happens that is called ${when}.`)
    if (!action) log.refuse('event.do', path, `${which}: nothing is done that is called ${does}.`)
    const isAt = at === undefined || within.things.has(at)
    if (!isAt) log.refuse('event.at', path, `${which}: there is no ${at} in ${itemName}.`)
    const isOwn = to === undefined || within.things.has(to)
    if (!isOwn && to !== itemName && !items.has(to)) log.refuse('event.to', path, `${which}: there is no ${to}.`)
    if (cause && isAt && !happens(cause.cause, at, within, rulebook))
      log.complain('event.never', path, `${which}: nothing sets it off.`)
    const thing = isOwn ? to : undefined
    if (action && (isOwn || to === itemName) && !shows(action.effect, thing, within))
      log.complain('event.nothing', path, `${which}: nothing comes of it.`)
  }
}

/**
 * Whether a solid is on a layer by which something is set off; on any in a game that says nothing of its layers.
 * @example const isReached = solids.some((solid) => setsOff('handled', solid, rulebook))
 */
export function setsOff(
  cause: 'walked-into' | 'handled' | 'hit',
  { layers }: Pick<LoadedSolid, 'layers'>,
  { solids }: Rulebook,
): boolean {
  if (solids.layers.every(({ means }) => means === null)) return true
  const meant = { 'walked-into': ['walked-on', 'stops'], handled: ['handled'], hit: ['stops', 'moves'] }[cause]
  return solids.layers.some(({ name, means }) => means !== null && meant.includes(means) && layers.includes(name))
}

function happens(
  cause: Rulebook['behaviour']['events']['when'][number]['cause'],
  thing: string | undefined,
  { nodes, solids, markers }: EventsWithin,
  rulebook: Rulebook,
): boolean {
  if (cause === 'marker-reached') return markers.some(({ does }) => does === 'ends')
  if (cause === 'follows' || cause === 'other') return true
  return solids.some((solid) => {
    const node = nodes.find(({ name }) => name === solid.name)
    return node && stands(node, thing) && setsOff(cause, solid, rulebook)
  })
}

function shows(
  effect: Rulebook['behaviour']['events']['do'][number]['effect'],
  thing: string | undefined,
  { nodes, clips }: EventsWithin,
): boolean {
  const own = nodes.filter((node) => stands(node, thing))
  if (effect === 'lights-up') return own.some(({ light }) => light !== null)
  if (effect !== 'plays-motion' && effect !== 'plays-back') return true
  const driven = new Set(clips.flatMap(({ channels }) => channels.map(({ node }) => node)))
  const isDriven = (node: LoadedNode | null): boolean => node !== null && (driven.has(node) || isDriven(node.parent))
  return own.some((node) => isDriven(node) || node.skeleton.some(({ bone }) => isDriven(bone)))
}
