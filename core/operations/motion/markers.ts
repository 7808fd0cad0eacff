import type { Document, Node } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { createRayCaster } from '../../geometry/surface/ray-caster.ts'
import { marker as markerKind } from '../../item/annotations/marker/marker.ts'
import { listPlaces } from '../../item/annotations/places.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { mergedTriangles, partsBounds } from '../../item/measure.ts'
import { itemScene, listViewParts } from '../../item/parts.ts'
import { movedNodes, nearestAbove } from './groups.ts'
import { lowestOverMotion } from './pose.ts'

type Marker = Rulebook['markers'][number]
type Place3 = [number, number, number]

/** A marker of an item, and how it stands to what it is measured by. */
export interface StandingMarker {
  name: string
  node: Node
  marker: Marker
  /** Whether the game knows it by its name. */
  isRead: boolean
  /** In the scene, in game units, while nothing has moved yet. */
  at: [number, number, number]
  /** How far it is above what is under it, where the game asks for that; null with nothing under it. */
  above?: number | null
  /** What moves it while clips play; null for a marker that stays where it is. */
  ridesOn: Node | null
  /** What moves under it while clips play, where it may ride and does not. */
  leftBy: Node | null
  /** How far it is below the lowest that the item ever reaches, where the game asks for that. */
  below?: number
}

/** Share of the height that is asked for by which a marker may be off. */
const HEIGHT_SLACK = 0.25

/**
 * The markers of an item with their heights: above what is under them while nothing has moved, below the lowest point
 * of the whole motion. One that is sunk is looked for from as far above as it should stand.
 *
 * @example const sunk = standingMarkers(document, rulebook).filter(({ above }) => (above ?? 0) < 0)
 */
export function standingMarkers(document: Document, rulebook: Rulebook): StandingMarker[] {
  const { markers } = rulebook
  const places = listPlaces(document).flatMap(({ name, node, extras }) => {
    const marker = extras.role === 'marker' ? markers.find((each) => each.name === extras.marker) : undefined
    return marker ? [{ name, node, marker }] : []
  })
  if (places.length === 0) return []
  const asked = places.some(({ marker }) => marker.aboveGround !== null)
  const { positions, indices } = mergedTriangles(asked ? listViewParts(document) : [])
  const caster = createRayCaster(positions, indices)
  const moved = movedNodes(document)
  let rider: ReturnType<typeof riderOver> | null = null
  const riderUnder = (at: Place3, above: number): Node | null =>
    moved.size === 0 ? null : (rider ??= riderOver(document, moved))(at, above)
  const lowest = places.some(({ marker }) => marker.belowLowest) ? lowestOverMotion(document) : Infinity
  return places.map(({ name, node, marker }) => {
    const [x, y, z] = node.getWorldTranslation()
    const at: [number, number, number] = [x, y, z]
    const isRead = markerKind.recognise(node, rulebook)?.marker === marker.name
    const ridesOn = nearestAbove(node, (each) => moved.has(each))
    const leftBy = marker.mayRideGroup && !ridesOn ? riderUnder(at, marker.aboveGround ?? 0) : null
    const made: StandingMarker = { name, node, marker, isRead, at, ridesOn, leftBy }
    if (marker.aboveGround !== null) {
      const hit = caster.first([x, y + marker.aboveGround, z], [0, -1, 0])
      made.above = hit ? hit.distance - marker.aboveGround : null
    }
    if (marker.belowLowest && lowest !== Infinity) made.below = lowest - y
    return made
  })
}

/** Finds what moves right under a place: not further below than the marker may stand above it. */
function riderOver(document: Document, moved: ReadonlySet<Node>): (at: Place3, above: number) => Node | null {
  const parts = listViewParts(document)
  const carrier = new Map(parts.map((part) => [part, nearestAbove(part.node, (each) => moved.has(each))]))
  const casters = new Map(
    [...new Set([null, ...carrier.values()])].map((node) => {
      const { positions, indices } = mergedTriangles(parts.filter((part) => carrier.get(part) === node))
      return [node, createRayCaster(positions, indices)]
    }),
  )
  if (casters.size < 2) return () => null
  return ([x, y, z], above) => {
    let nearest: { node: Node | null; distance: number } | null = null
    for (const [node, caster] of casters) {
      const hit = caster.first([x, y + above, z], [0, -1, 0])
      if (hit && (!nearest || hit.distance < nearest.distance)) nearest = { node, distance: hit.distance }
    }
    return nearest && nearest.distance - above <= above * (1 + HEIGHT_SLACK) ? nearest.node : null
  }
}

/**
 * By how much a marker is to be lifted; null where it is right, or has nothing to be measured by.
 * @example const lift = liftOf(standing) ?? 0
 */
export function liftOf({ marker, above, below }: StandingMarker): number | null {
  const wanted = marker.aboveGround
  if (wanted !== null && typeof above === 'number' && Math.abs(above - wanted) > wanted * HEIGHT_SLACK)
    return wanted - above
  const range = marker.belowLowest
  if (range && below !== undefined && (below < range.least || below > range.most))
    return below - (range.least + range.most) / 2
  return null
}

/**
 * How many of each marker are missing.
 * @example const missing = missingMarkers(standingMarkers(document, rulebook), rulebook)
 */
export function missingMarkers(standing: readonly StandingMarker[], { markers }: Rulebook): Marker[] {
  return markers.flatMap((marker) => {
    const count = standing.filter((each) => each.marker.name === marker.name).length
    return Array.from({ length: Math.min(MOST_MADE, Math.max(0, marker.least - count)) }, () => marker)
  })
}

/** A rulebook that asks for more than that of each is not meant for what one has. */
const MOST_MADE = 16
/** Markers are put along the longer side, the first and the last this share of it from its ends. */
const FROM_THE_ENDS = 0.08
/** Places across at which ground is looked for, from the middle outward, as shares of the width. */
const ACROSS = [0.5, 0.4, 0.6, 0.25, 0.75, 0.1, 0.9]

/**
 * Puts the missing markers on the item: those that stand on something along its longer side in the order of the
 * rulebook, those below everything under its middle.
 * @returns names of the markers that were made
 *
 * @example const names = makeMarkers(document, rulebook, missing)
 */
export function makeMarkers(document: Document, rulebook: Rulebook, missing: readonly Marker[]): string[] {
  const parts = listViewParts(document)
  if (parts.length === 0) return []
  const { min, max } = partsBounds(parts)
  const { positions, indices } = mergedTriangles(parts)
  const caster = createRayCaster(positions, indices)
  const along = max[2] - min[2] >= max[0] - min[0] ? 2 : 0
  const standing = missing.filter(({ belowLowest }) => !belowLowest)
  const lowest = lowestOverMotion(document)
  return missing.map((marker) => {
    const number = standing.indexOf(marker)
    const share = standing.length < 2 ? 0.5 : number / (standing.length - 1)
    const forward = min[along] + (max[along] - min[along]) * (FROM_THE_ENDS + share * (1 - 2 * FROM_THE_ENDS))
    const place = marker.belowLowest
      ? [
          (min[0] + max[0]) / 2,
          lowest - (marker.belowLowest.least + marker.belowLowest.most) / 2,
          (min[2] + max[2]) / 2,
        ]
      : onGround(marker.aboveGround ?? 0)
    const facts = { marker: marker.name }
    const before = listPlaces(document).filter(({ extras }) => extras.marker === marker.name).length
    const name = markerKind.packedName(rulebook, facts, { parentName: '', ownName: marker.name, before })
    const node = document.createNode(name).setTranslation(place as [number, number, number])
    setNodeExtras(node, { role: 'marker', ...facts })
    itemScene(document).addChild(node)
    return name

    function onGround(above: number): number[] {
      for (const across of ACROSS) {
        const side = 2 - along
        const from = [0, max[1] + 1, 0]
        from[along] = forward
        from[side] = min[side] + (max[side] - min[side]) * across
        const hit = caster.first(from, [0, -1, 0])
        if (hit) return [from[0], from[1] - hit.distance + above, from[2]]
      }
      return [(min[0] + max[0]) / 2, max[1] + above, (min[2] + max[2]) / 2]
    }
  })
}
