import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { inScene } from './check-mesh.ts'
import { trianglesOf, type SortedNodes } from './sorted-nodes.ts'
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
}

/** Reads the solids; one without surface, or without mass where things are loose, is skipped with a complaint. */
export function readSolids(file: string, sorted: SortedNodes, rulebook: Rulebook, kind: Kind, log: TrialLog): LoadedSolid[] {
  const read: LoadedSolid[] = []
  if (sorted.solids.length > rulebook.solids.mostPerItem) log.refuse('solid.count', file, `${sorted.solids.length} solids; ${rulebook.solids.mostPerItem} are read.`)
  for (const node of sorted.solids) {
    const shape = node.name.split('_')[1] ?? ''
    const { surface, layers, mass } = node.extras
    if (rulebook.solids.childOfPart && !sorted.view.some((part) => part === node.parent)) log.refuse('solid.place', file, `${node.name} is not below a part.`)
    if (!kind.solids?.shapes.some((allowed) => allowed === shape)) log.refuse('solid.shape', file, `${node.name}: a ${kind.id} takes no ${shape}.`)
    const primitive = node.primitives[0]
    const points = primitive.positions.length / 3
    if (shape === 'hull' && points > rulebook.solids.hullPoints) log.refuse('solid.points', file, `${node.name} has ${points} points; ${rulebook.solids.hullPoints} are read.`)
    const range = kind.solids?.massKilograms
    if (range && typeof mass === 'number' && (mass < range.least || mass > range.most)) log.refuse('solid.mass', file, `${node.name} weighs ${mass} kg.`)
    if (typeof surface !== 'string') {
      log.complain('solid.skipped', file, `${node.name} has no surface and is skipped.`)
      continue
    }
    if (kind.solids?.fixed === false && typeof mass !== 'number') {
      log.complain('solid.skipped', file, `${node.name} has no mass and is skipped.`)
      continue
    }
    if (!rulebook.materials.surfaces.some((known) => known.name === surface)) log.refuse('solid.surface', file, `${node.name}: there is no surface ${surface}.`)
    const layerNames = Array.isArray(layers) ? layers.filter((layer) => typeof layer === 'string') : []
    for (const layer of layerNames) if (!rulebook.solids.layers.some((known) => known.name === layer)) log.complain('solid.layer', file, `${node.name}: there is no layer ${layer}.`)
    read.push({ name: node.name, shape, surface, layers: layerNames, massKilograms: typeof mass === 'number' ? mass : null, positions: inScene(node, primitive.positions), indices: primitive.indices })
  }
  const needed = kind.solids?.neededAboveTriangles ?? null
  if (needed !== null && trianglesOf(sorted.view) > needed && read.length === 0) log.refuse('solid.missing', file, `Over ${needed} triangles and no solid that is read.`)
  return read
}
