import type { Document } from '@gltf-transform/core'
import { mergedTriangles } from '../item/measure.ts'
import { countMeshCorners, countMeshTriangles, listViewParts } from '../item/parts.ts'
import { listSolids } from '../item/annotations/solid/list.ts'
import { approachItem, type Approach } from '../geometry/surface/approach.ts'
import { massOrHull } from '../geometry/shapes/mass.ts'
import { standOut, type StandOut } from '../geometry/shapes/stand-out.ts'
import { createSurfaceFinder } from '../geometry/surface/surface-distance.ts'
import { findOpenings, type Opening } from '../geometry/walk/openings.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { finenessOf, walkerOf } from '../rules/solids/bumped-into.ts'
import { restOf, type RestResult } from '../trial/yard/rest.ts'
import { yardSolids } from './yard-solids.ts'

/** What it is like to bump into an item, computed. Lengths in game units. */
export interface TouchReport {
  openings: Opening[]
  bodies: ({ id: string; title: string } & Approach)[]
  solids: {
    name: string
    shape: string
    surface: string | null
    layers: string[]
    massKilograms: number | null
    triangles: number
    points: number
    outside: number
    inside: number
  }[]
  /** All loose solids together; null where nothing weighs. */
  mass: { kilograms: number; centre: [number, number, number] } | null
  /** Put down where it stands, and dropped; null for what is fixed. */
  rest: { put: RestResult; dropped: RestResult & { from: number } } | null
}

/** How high a thing is dropped from, in metres: off a table. */
const DROP_METRES = 1

/**
 * Compares what one bumps into with what one sees.
 * @example const { openings } = await touchReport(document, rulebook, kind)
 */
export async function touchReport(document: Document, rulebook: Rulebook, kind: Kind): Promise<TouchReport> {
  const view = mergedTriangles(listViewParts(document))
  const solids = listSolids(document)
  const shapes = solids.map((solid) => mergedTriangles([solid]))
  const loaded = yardSolids(document)
  const weighing = loaded.filter((solid) => solid.massKilograms !== null)
  const height = heightOf(view.positions)
  const finder = createSurfaceFinder(view)
  const bodies = []
  if (solids.length > 0)
    for (const { id, title, shape, size, moves } of rulebook.solids.bodies)
      bodies.push({
        id,
        title,
        ...(await approachItem(view, shapes, {
          shape,
          size,
          heights: moves === 'air' ? [height * 0.25, height * 0.55, height * 0.85] : [0],
        })),
      })
  const drop = DROP_METRES / rulebook.space.unit.metres
  return {
    openings: kind.solids?.fixed && solids.length > 0 ? findOpenings(view, shapes, walkerOf(rulebook)) : [],
    bodies,
    solids: solids.map((solid, index) => {
      const { outside, inside } = standOut(view, shapes[index], finenessOf(solid), finder)
      const facts = solid.extras.solid
      return {
        name: solid.name,
        shape: facts?.shape ?? 'mesh',
        surface: facts?.surface ?? null,
        layers: facts?.layers ?? [],
        massKilograms: facts?.massKilograms ?? null,
        triangles: countMeshTriangles(solid.mesh),
        points: countMeshCorners(solid.mesh),
        outside,
        inside,
      }
    }),
    mass: weighing.length > 0 ? wholeMass(weighing) : null,
    rest:
      kind.solids?.fixed === false && weighing.length > 0
        ? { put: await restOf(loaded, rulebook, 0), dropped: { from: drop, ...(await restOf(loaded, rulebook, drop)) } }
        : null,
  }
}

/**
 * For each solid where it stands out or lies in, to be drawn in colours.
 * @example const worst = standOuts(document).map(({ name, outside }) => [name, outside])
 */
export function standOuts(document: Document): (StandOut & { name: string })[] {
  const view = mergedTriangles(listViewParts(document))
  const finder = createSurfaceFinder(view)
  return listSolids(document).map((solid) => ({
    name: solid.name,
    ...standOut(view, mergedTriangles([solid]), finenessOf(solid), finder),
  }))
}

function wholeMass(solids: ReturnType<typeof yardSolids>): { kilograms: number; centre: [number, number, number] } {
  const kilograms = solids.reduce((sum, { massKilograms }) => sum + (massKilograms ?? 0), 0)
  const moment = [0, 0, 0]
  for (const solid of solids) {
    const centre = massOrHull(solid)?.centre ?? solid.middle
    centre.forEach((value, axis) => {
      moment[axis] += value * (solid.massKilograms ?? 0)
    })
  }
  return { kilograms, centre: moment.map((value) => value / (kilograms || 1)) as [number, number, number] }
}

function heightOf(positions: Float32Array): number {
  let [low, high] = [0, 0]
  for (let at = 1; at < positions.length; at += 3) {
    low = Math.min(low, positions[at])
    high = Math.max(high, positions[at])
  }
  return high - low
}
