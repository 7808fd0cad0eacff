import { getNodeExtras } from './extras.ts'
import type { Document, Node } from '@gltf-transform/core'
import { getRootExtras } from './extras.ts'
import { boundsSize, emptyBounds, isEmptyBounds, partBounds, uniteBounds, type Bounds } from './measure.ts'
import { countMeshTriangles, listMovingNodes, listSceneNodes, listViewParts, type Part } from './parts.ts'
import { accessorToFloats } from './primitive-arrays.ts'

/** What a thing in a source can be that is not the model. */
export const strayKinds = ['camera', 'lamp', 'empty', 'end bone', 'ground shade', 'double', 'far part'] as const
export type StrayKind = (typeof strayKinds)[number]

export interface Stray {
  node: Node
  name: string
  what: StrayKind
  /** The rest of a sentence: “lies 214 from the rest”. Empty where the kind says it all. */
  detail: string
}

const DARK = 0.12
const FLATNESS = 0.003
const MOST_SHADE_TRIANGLES = 64
/** Beyond this many parts, parts are not compared with each other. */
const MOST_COMPARED = 4000
/** A part is far when the gap to the rest is more than this many times the rest's diagonal. */
const FAR_GAP = 2

/**
 * Cameras, lamps, empties with nothing below them, bones at the ends that hold nothing, a flat dark plane under the
 * model, parts that stand twice in the same place, and parts far away from all others.
 *
 * @example const cameras = findStrays(document).filter(({ what }) => what === 'camera')
 */
export function findStrays(document: Document): Stray[] {
  const strays = nodeStrays(document)
  const parts = listViewParts(document)
  if (parts.length < 2 || parts.length > MOST_COMPARED) return strays
  const bounds = parts.map(partBounds)
  const rests = boundsOfOthers(bounds)
  const doubles = findDoubles(parts, bounds)
  parts.forEach((part, index) => {
    const { node, name } = part
    if (isGroundShade(document, part, bounds[index], rests[index]))
      strays.push({ node, name, what: 'ground shade', detail: '' })
    else if (doubles.has(index))
      strays.push({ node, name, what: 'double', detail: `is ${doubles.get(index)} a second time, in the same place` })
    else if (isFar(parts, bounds, rests, index))
      strays.push({ node, name, what: 'far part', detail: 'lies far away from all other parts' })
  })
  return strays
}

function nodeStrays(document: Document): Stray[] {
  const strays: Stray[] = []
  const moving = listMovingNodes(document)
  const joints = new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((skin) => skin.listJoints()),
  )
  for (const node of listSceneNodes(document)) {
    const name = node.getName()
    // What is something to the game is no stray because it has no mesh.
    if (node.getMesh() || getNodeExtras(node).role !== 'part') continue
    const isLeaf = node.listChildren().length === 0
    const parent = node.getParentNode()
    if (node.getCamera()) strays.push({ node, name, what: 'camera', detail: '' })
    else if (node.getExtension('KHR_lights_punctual')) strays.push({ node, name, what: 'lamp', detail: '' })
    else if (isLeaf && !joints.has(node) && parent && joints.has(parent))
      strays.push({ node, name, what: 'end bone', detail: 'ends a chain of bones and holds no point' })
    else if (isLeaf && !joints.has(node) && !moving.has(node)) strays.push({ node, name, what: 'empty', detail: '' })
  }
  return strays
}

/** For each box, the box around all others, by running unions from both ends. */
function boundsOfOthers(bounds: readonly Bounds[]): Bounds[] {
  const before = [emptyBounds()]
  for (const each of bounds) before.push(uniteBounds(before[before.length - 1], each))
  const others: Bounds[] = new Array<Bounds>(bounds.length)
  let after = emptyBounds()
  for (let index = bounds.length - 1; index >= 0; index--) {
    others[index] = uniteBounds(before[index], after)
    after = uniteBounds(after, bounds[index])
  }
  return others
}

/** Places of parts that repeat an earlier one, with that one's name. */
function findDoubles(parts: readonly Part[], bounds: readonly Bounds[]): Map<number, string> {
  const doubles = new Map<number, string>()
  const seen = new Map<number, { part: Part; bounds: Bounds; apart: number }[]>()
  for (const [index, part] of parts.entries()) {
    const triangles = countMeshTriangles(part.mesh)
    const alike = seen.get(triangles) ?? []
    seen.set(triangles, alike)
    const first = triangles > 0 ? alike.find((other) => sameBounds(other, bounds[index])) : undefined
    if (!first) alike.push({ part, bounds: bounds[index], apart: Math.max(...boundsSize(bounds[index]), 1e-9) * 1e-4 })
    else if (hasSamePoints(first.part, part)) doubles.set(index, first.part.name)
  }
  return doubles
}

/** Whether a box is another one, whose sides may lie so far apart. Asked of many pairs: no list is made for it. */
function sameBounds({ bounds, apart }: { bounds: Bounds; apart: number }, other: Bounds): boolean {
  for (let axis = 0; axis < 3; axis++) {
    if (!(Math.abs(bounds.min[axis] - other.min[axis]) < apart)) return false
    if (!(Math.abs(bounds.max[axis] - other.max[axis]) < apart)) return false
  }
  return true
}

/** Equal boxes and counts may still hold different shapes: the sums of all coordinates tell them apart. */
function hasSamePoints(original: Part, repeated: Part): boolean {
  const [first, second] = [original, repeated].map((part) =>
    part.mesh
      .listPrimitives()
      .map((primitive) => {
        const position = primitive.getAttribute('POSITION')
        return position ? accessorToFloats(position).reduce((sum, value) => sum + Math.abs(value), 0) : 0
      })
      .reduce((sum, value) => sum + value, 0),
  )
  return Math.abs(first - second) <= Math.abs(first) * 1e-4
}

/** Of two parts, the one with fewer triangles is the stray. */
function isFar(parts: readonly Part[], bounds: readonly Bounds[], rests: readonly Bounds[], index: number): boolean {
  const [own, rest] = [bounds[index], rests[index]]
  if (isEmptyBounds(own) || isEmptyBounds(rest)) return false
  const gap = Math.hypot(
    ...[0, 1, 2].map((axis) => Math.max(0, own.min[axis] - rest.max[axis], rest.min[axis] - own.max[axis])),
  )
  if (gap <= FAR_GAP * Math.hypot(...boundsSize(rest))) return false
  const triangles = countMeshTriangles(parts[index].mesh)
  return parts.length > 2 || triangles < countMeshTriangles(parts[1 - index].mesh)
}

/** A part without texture, dark, flat along the item's up axis, at or below everything else. */
function isGroundShade(document: Document, part: Part, bounds: Bounds, rest: Bounds): boolean {
  if (countMeshTriangles(part.mesh) > MOST_SHADE_TRIANGLES) return false
  for (const primitive of part.mesh.listPrimitives()) {
    const material = primitive.getMaterial()
    if (!material || material.getBaseColorTexture()) return false
    const [red, green, blue] = material.getBaseColorFactor()
    if (0.2126 * red + 0.7152 * green + 0.0722 * blue > DARK) return false
  }
  const { up } = getRootExtras(document.getRoot()).axes
  const size = boundsSize(bounds)
  const sides = boundsSize(rest)
  // A source whose axes are not known may lie either way, so each of the three axes is tried as its up.
  const declared = 'xyz'.indexOf(up[1])
  return [declared, 2, 1, 0].some((axis) => {
    const flat = size[axis] <= FLATNESS * Math.max(...size)
    const below = bounds.max[axis] <= rest.min[axis] + 0.02 * sides[axis]
    const above = axis === declared && up[0] === '-' && bounds.min[axis] >= rest.max[axis] - 0.02 * sides[axis]
    const wide = size.every((side, other) => other === axis || side > 0.3 * sides[other])
    return flat && wide && (below || above)
  })
}
