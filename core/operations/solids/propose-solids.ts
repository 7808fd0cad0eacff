import { boundsSize, mergedTriangles, partBounds } from '../../item/measure.ts'
import { countMeshTriangles, countTriangles, listMovingNodes, listViewParts, type Part } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { convexHull } from '../../geometry/shapes/convex-hull.ts'
import { longestPieceSide } from '../../geometry/mesh/pieces.ts'
import type { Rulebook } from '../../game/schema.ts'
import { addSolidParameters, type AddSolidParameters } from './add-solid-parameters.ts'
import type { Proposal, StepContext } from '../context.ts'
import { formatCount } from '../../support/wording.ts'

/** A hull that holds this much more than the part closes gaps that one could walk through. */
const HOLLOW_SHARE = 0.62
/** A box that is this much filled is as good as a hull and cheaper. */
const BOXY_SHARE = 0.9
const MOST_MESH_TRIANGLES = 1200
const SPLIT_HULLS = 4

/** More parts than these are given solids in groups, by one step. */
const MOST_ONE_BY_ONE = 12

/** The triangles above which the game wants solids of an item that has none; null where it wants none. */
function neededAbove({ document, kind }: StepContext): number | null {
  const needed = kind.solids?.neededAboveTriangles ?? null
  if (needed === null || countTriangles(listViewParts(document)) <= needed || listSolids(document).length > 0)
    return null
  return needed
}

/** Parts that one bumps into: higher, wider or deeper than a step of the figure, and in one piece. */
function partsToBumpInto({ document, rulebook }: StepContext): Part[] {
  const small = rulebook.space.figure.stepHeight
  return listViewParts(document).filter(
    (part) => boundsSize(partBounds(part)).some((side) => side > small) && !isScattered(part, small),
  )
}

/**
 * How solids are given to an item whose parts do not get one each: since they are too many, or all of them too small to
 * bump into and the game wants a solid all the same; null where each part gets its own, or none is wanted.
 *
 * @example const reason = groupedSolids(context)?.reason
 */
export function groupedSolids(context: StepContext): { most: number; reason: string } | null {
  const needed = neededAbove(context)
  return needed === null ? null : grouping(partsToBumpInto(context).length, needed, context)
}

/** The same for so many parts to bump into, where solids are needed above so many triangles. */
function grouping(parts: number, needed: number, { rulebook }: StepContext): { most: number; reason: string } | null {
  const wanted = `Over ${formatCount(needed)} triangles the game wants something to bump into; `
  const { mostPerItem } = rulebook.solids
  if (parts === 0)
    return { most: 1, reason: `${wanted}each of its pieces is smaller than a step, so one solid stands for all.` }
  if (parts <= Math.min(MOST_ONE_BY_ONE, mostPerItem / SPLIT_HULLS)) return null
  return {
    most: mostPerItem,
    reason:
      `${wanted}it has ${formatCount(parts)} parts to bump into and takes ${mostPerItem} solids: what lies ` +
      'together shares one.',
  }
}

/**
 * A solid for every part that is large enough to bump into. A part that fills its hull gets a hull, one that
 * fills its box a box; one with openings gets its own mesh, reduced, where the kind allows it.
 *
 * @example const proposals = proposeSolids(context, (part) => surfaceOfPart(part, document, rulebook))
 */
export function proposeSolids(
  context: StepContext,
  surfaceOf: (part: Part) => string | null,
): Proposal<AddSolidParameters>[] {
  const { document, rulebook, kind } = context
  const parts = listViewParts(document)
  const triangles = countTriangles(parts)
  const needed = neededAbove(context)
  if (needed === null) return []
  const sized = partsToBumpInto(context)
  if (grouping(sized.length, needed, context) !== null) return []
  const room = Math.max(60, ((kind.mesh?.withSolids ?? triangles * 1.25) - triangles) * 0.8)
  const moving = listMovingNodes(document)
  const loose = (kind.solids?.massKilograms ?? null) !== null
  return sized.map((part) => {
    const { fill, boxFill } = fillShares(part)
    const share = Math.floor((room * countMeshTriangles(part.mesh)) / triangles)
    const hollow = fill < HOLLOW_SHARE && kind.solids?.shapes.includes('mesh') === true && !moving.has(part.node)
    // What may be no mesh is split into hulls where one would stand for much that is not there.
    const hulls = !hollow && fill < HOLLOW_SHARE && boxFill <= BOXY_SHARE ? SPLIT_HULLS : 1
    const shape = hollow ? 'mesh' : boxFill > BOXY_SHARE ? 'box' : 'hull'
    const surface = surfaceOf(part) ?? rulebook.materials.surfaces[0].name
    const why = {
      mesh: `it fills ${percent(fill)} of its hull, so a hull or box would close its openings`,
      hull:
        hulls > 1
          ? `it fills ${percent(fill)} of its hull, so it is split into several`
          : `it fills ${percent(fill)} of its hull`,
      box: `it fills ${percent(boxFill)} of its box`,
    }[shape]
    return {
      parameters: addSolidParameters.parse({
        part: part.name,
        shape,
        surface,
        layers: loose ? looseLayers(rulebook) : rulebook.solids.defaultLayers,
        weighing: loose ? 'volume' : 'hand',
        massKilograms: massOf(part, surface, context),
        points: rulebook.solids.hullPoints,
        hulls,
        triangles: Math.max(48, Math.min(MOST_MESH_TRIANGLES, share)),
      }),
      reason: `Over ${formatCount(needed)} triangles the game wants something to bump into; ${part.name}: ${why}.`,
    }
  })
}

/**
 * The layers for what moves and is handled, where the game has them.
 * @example const layers = kind.loose ? looseLayers(rulebook) : []
 */
export const looseLayers = ({ solids }: Rulebook): string[] => {
  const named = solids.layers.filter(({ means }) => means === 'moves' || means === 'handled').map(({ name }) => name)
  return named.length > 0 ? named : solids.defaultLayers
}

/** For things that move: the part's volume times the density of its surface kind, within what the kind may weigh. */
function massOf(part: Part, surface: string, { rulebook, kind }: StepContext): number {
  const limits = kind.solids?.massKilograms
  if (!limits) return 0
  const density = rulebook.materials.surfaces.find((each) => each.name === surface)?.density ?? 1000
  const cubicMetres =
    Math.abs(part.mesh.listPrimitives().reduce((sum, primitive) => sum + enclosedVolume(readPrimitive(primitive)), 0)) *
    rulebook.space.unit.metres ** 3
  return Number(Math.min(limits.most, Math.max(limits.least, cubicMetres * density)).toPrecision(3))
}

const percent = (share: number): string => `${Math.round(share * 100)} %`

/** A part that hangs together only in pieces smaller than a step, such as pins and nails. */
function isScattered(part: Part, small: number): boolean {
  const { positions, indices } = mergedTriangles([part])
  return longestPieceSide(positions, indices) <= small
}

/** How much of its convex hull and of its box a part fills, 0 to 1. */
function fillShares(part: Part): { fill: number; boxFill: number } {
  const primitives = part.mesh.listPrimitives().map(readPrimitive)
  const volume = Math.abs(primitives.reduce((sum, arrays) => sum + enclosedVolume(arrays), 0))
  const positions = new Float32Array(primitives.reduce((sum, arrays) => sum + arrays.positions.length, 0))
  let at = 0
  for (const arrays of primitives) {
    positions.set(arrays.positions, at)
    at += arrays.positions.length
  }
  const hull = convexHull(positions, 64)
  const hullVolume = hull ? enclosedVolume(hull) : 0
  const box = enclosedVolume(boxMesh(partBounds(part)))
  return {
    fill: hullVolume > 0 ? Math.min(1, volume / hullVolume) : 1,
    boxFill: box > 0 ? Math.min(1, volume / box) : 1,
  }
}
