import type { Kind, Rulebook } from '../game/schema.ts'
import { boxOf, cornersOf, inScene, sidesOf } from './check-mesh.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import { isNearlySolid } from './solid-names.ts'
import { shapeInName, trianglesOf, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'

/** A collision shape as the game holds it, in the scene. */
export interface LoadedSolid {
  name: string
  shape: string
  surface: string
  layers: string[]
  massKilograms: number | null
  positions: Float32Array
  indices: Uint32Array
  /** How it is turned and where its middle lies. */
  rotation: [number, number, number, number]
  middle: [number, number, number]
  /** Half of its sides along its own axes. */
  half: [number, number, number]
  /** The node that it goes along with while clips play; none where it never moves. */
  node?: LoadedNode
}

/**
 * Reads the solids; one without surface, or without mass where things are loose, is skipped with a complaint.
 * @example const solids = readSolids(file, sorted, rulebook, kind, log)
 */
export function readSolids(
  file: string,
  sorted: SortedNodes,
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): LoadedSolid[] {
  const read: LoadedSolid[] = []
  for (const node of sorted.view)
    if (isNearlySolid(node.name, rulebook))
      log.complain('solid.name', file, `${node.name} is not quite the name of a solid; it is drawn.`)
  if (sorted.solids.length > rulebook.solids.mostPerItem)
    log.refuse('solid.count', file, `${sorted.solids.length} solids; ${rulebook.solids.mostPerItem} are read.`)
  for (const node of sorted.solids) {
    const shape = shapeInName(node.name, rulebook) ?? ''
    const { surface, layers, mass } = node.extras
    if (rulebook.solids.childOfPart && !sorted.view.some((part) => part === node.parent))
      log.refuse('solid.place', file, `${node.name} is not below a part.`)
    if (!kind.solids?.shapes.some((allowed) => allowed === shape))
      log.refuse('solid.shape', file, `${node.name}: a ${kind.id} takes no ${shape}.`)
    const primitive = node.primitives[0]
    const points = cornersOf(node)
    if (shape === 'hull' && points > rulebook.solids.hullPoints)
      log.refuse('solid.points', file, `${node.name} has ${points} points; ${rulebook.solids.hullPoints} are read.`)
    const range = kind.solids?.massKilograms
    if (range && typeof mass === 'number' && (mass < range.least || mass > range.most))
      log.refuse('solid.mass', file, `${node.name} weighs ${mass} kg.`)
    if (typeof surface !== 'string') {
      log.complain('solid.skipped', file, `${node.name} has no surface and is skipped.`)
      continue
    }
    if (kind.solids?.fixed === false && typeof mass !== 'number') {
      log.complain('solid.skipped', file, `${node.name} has no mass and is skipped.`)
      continue
    }
    const gap = gapBeside(node)
    if (gap > rulebook.solids.noticedGap)
      log.complain(
        'solid.apart',
        file,
        `${node.name} lies ${gap.toFixed(1)} beside ${node.parent?.name}; one bumps into nothing there.`,
      )
    if (!rulebook.materials.surfaces.some((known) => known.name === surface))
      log.refuse('solid.surface', file, `${node.name}: there is no surface ${surface}.`)
    const layerNames = Array.isArray(layers) ? layers.filter((layer) => typeof layer === 'string') : []
    for (const layer of layerNames)
      if (!rulebook.solids.layers.some((known) => known.name === layer))
        log.complain('solid.layer', file, `${node.name}: there is no layer ${layer}.`)
    read.push({
      name: node.name,
      shape,
      surface,
      layers: layerNames,
      massKilograms: typeof mass === 'number' ? mass : null,
      positions: inScene(node, primitive.positions),
      indices: primitive.indices,
      ...standingOf(node, primitive.positions),
      ...(node.moves ? { node } : {}),
    })
  }
  const needed = kind.solids?.neededAboveTriangles ?? null
  if (needed !== null && trianglesOf(sorted.view) > needed && read.length === 0)
    log.refuse('solid.missing', file, `Over ${needed} triangles and no solid that is read.`)
  return read
}

/** How much further a solid lies beside its part than the part is long; below zero where it is near. */
function gapBeside(node: LoadedNode): number {
  const part = node.parent && node.parent.primitives.length > 0 ? boxOf([node.parent]) : null
  if (!part) return 0
  const own = boxOf([node])
  const beside = [0, 1, 2].map((axis) => Math.max(own[axis] - part[axis + 3], part[axis] - own[axis + 3], 0))
  return Math.hypot(...beside) - sidesOf(part)[2]
}

/** Where a solid's own box lies: round shapes are told by it. */
function standingOf(node: LoadedNode, positions: Float32Array): Pick<LoadedSolid, 'rotation' | 'middle' | 'half'> {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < positions.length; at++) {
    low[at % 3] = Math.min(low[at % 3], positions[at])
    high[at % 3] = Math.max(high[at % 3], positions[at])
  }
  const centre = low.map((value, axis) => (value + high[axis]) / 2)
  const m = node.world
  const lengths = [0, 1, 2].map((column) => Math.hypot(m[column * 4], m[column * 4 + 1], m[column * 4 + 2]) || 1)
  return {
    middle: [0, 1, 2].map(
      (axis) => m[axis] * centre[0] + m[axis + 4] * centre[1] + m[axis + 8] * centre[2] + m[axis + 12],
    ) as LoadedSolid['middle'],
    half: low.map((value, axis) => ((high[axis] - value) / 2) * lengths[axis]) as LoadedSolid['half'],
    rotation: quaternionOf(m, lengths),
  }
}

/** The turn in a matrix whose columns have the given lengths; mirrored ones are told by their mesh alone. */
function quaternionOf(m: readonly number[], lengths: readonly number[]): LoadedSolid['rotation'] {
  const at = (row: number, column: number): number => m[column * 4 + row] / lengths[column]
  const w = Math.sqrt(Math.max(0, 1 + at(0, 0) + at(1, 1) + at(2, 2))) / 2
  const part = (value: number, sign: number): number => (Math.sqrt(Math.max(0, value)) / 2) * (sign < 0 ? -1 : 1)
  return [
    part(1 + at(0, 0) - at(1, 1) - at(2, 2), at(2, 1) - at(1, 2)),
    part(1 - at(0, 0) + at(1, 1) - at(2, 2), at(0, 2) - at(2, 0)),
    part(1 - at(0, 0) - at(1, 1) + at(2, 2), at(1, 0) - at(0, 1)),
    w,
  ]
}
