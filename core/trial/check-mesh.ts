import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { nameIsAccepted, trianglesOf, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'
import { backsSeenShare, type Drawable } from './outside-view.ts'
import type { LoadedNode, LoadedPrimitive } from './read-glb.ts'

const SMALL = 1e-5
const MOST_BACKS = 0.01

/** Root, names, budgets, sizes, facing and attributes of the mesh file. */
export function checkMesh(file: string, nodes: readonly LoadedNode[], sorted: SortedNodes, rulebook: Rulebook, kind: Kind, log: TrialLog): void {
  if (!kind.mesh) return
  const roots = nodes.filter((node) => node.parent === null)
  if (roots.length !== kind.models.length || roots.some((root) => turnedOrScaled(root) || Math.hypot(...root.translation) > SMALL)) log.refuse('mesh.root', file, 'The mesh needs one root at the origin without turn or scale.')
  checkNames(file, nodes, rulebook, log)
  const triangles = trianglesOf(sorted.view)
  if (triangles === 0) log.refuse('mesh.empty', file, 'There is nothing to draw.')
  if (triangles > kind.mesh.triangles) log.refuse('mesh.triangles', file, `${triangles} triangles; ${kind.mesh.triangles} are taken.`)
  const together = triangles + trianglesOf(sorted.solids)
  if (kind.mesh.withSolids !== null && together > kind.mesh.withSolids) log.refuse('mesh.together', file, `${together} triangles with solids; ${kind.mesh.withSolids} are taken.`)
  for (const node of sorted.view) {
    const corners = node.primitives.reduce((sum, primitive) => sum + primitive.positions.length / 3, 0)
    if (corners > kind.mesh.cornersPerPart) log.refuse('mesh.corners', file, `${node.name} has ${corners} corners; ${kind.mesh.cornersPerPart} are read.`)
    if (!node.moves && turnedOrScaled(node)) log.complain('mesh.transform', file, `${node.name} is turned or scaled; that is skipped.`)
    if (node.primitives.some((primitive) => !primitive.normals)) log.complain('mesh.normals', file, `${node.name} has no normals.`)
  }
  checkSizes(file, sorted.view, rulebook, log)
  const share = backsSeenShare(sorted.view.flatMap((node) => node.primitives.map((primitive) => drawable(node, primitive))))
  if (share > MOST_BACKS) log.complain('mesh.backs', file, `From outside ${(share * 100).toFixed(1)} % of the picture shows backs of faces; there one looks through.`)
}

export function turnedOrScaled(node: LoadedNode): boolean {
  return Math.hypot(node.rotation[0], node.rotation[1], node.rotation[2]) > SMALL || node.scale.some((value) => Math.abs(value - 1) > SMALL)
}

function checkNames(file: string, nodes: readonly LoadedNode[], rulebook: Rulebook, log: TrialLog): void {
  const seen = new Set<string>()
  for (const node of nodes) {
    if (!nameIsAccepted(node.name, rulebook)) log.refuse('name.form', file, `The name “${node.name}” is not accepted.`)
    const isItemRoot = node.parent === null
    if (!isItemRoot && seen.has(node.name)) log.refuse('name.twice', file, `The name ${node.name} stands twice.`)
    if (!isItemRoot) seen.add(node.name)
  }
}

/** Corner positions of a primitive in the scene. */
export function inScene(node: LoadedNode, points: Float32Array): Float32Array {
  const m = node.world
  const moved = new Float32Array(points.length)
  for (let at = 0; at < points.length; at += 3) {
    for (let axis = 0; axis < 3; axis++) moved[at + axis] = m[axis] * points[at] + m[axis + 4] * points[at + 1] + m[axis + 8] * points[at + 2] + m[axis + 12]
  }
  return moved
}

function drawable(node: LoadedNode, primitive: LoadedPrimitive): Drawable {
  const flags = (primitive.material ?? '').split('@')[1]?.split('.').slice(1) ?? []
  return { positions: inScene(node, primitive.positions), indices: primitive.indices, twoSided: flags.includes('both') }
}

function checkSizes(file: string, view: readonly LoadedNode[], rulebook: Rulebook, log: TrialLog): void {
  const all = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  for (const node of view) {
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
    for (const primitive of node.primitives) {
      const points = inScene(node, primitive.positions)
      for (let at = 0; at < points.length; at++) {
        box[at % 3] = Math.min(box[at % 3], points[at])
        box[3 + (at % 3)] = Math.max(box[3 + (at % 3)], points[at])
      }
    }
    const sides = [0, 1, 2].map((axis) => box[axis + 3] - box[axis]).sort((a, b) => a - b)
    if (sides[1] < rulebook.space.smallestDrawn) log.complain('mesh.thin', file, `${node.name} is thinner than ${rulebook.space.smallestDrawn}; it is not drawn.`)
    for (let axis = 0; axis < 3; axis++) {
      all[axis] = Math.min(all[axis], box[axis])
      all[axis + 3] = Math.max(all[axis + 3], box[axis + 3])
    }
  }
  const longest = Math.max(...[0, 1, 2].map((axis) => all[axis + 3] - all[axis]))
  if (longest > rulebook.space.largestItem) log.complain('mesh.giant', file, `The item is ${longest.toFixed(1)} long; that is hardly meant.`)
}
