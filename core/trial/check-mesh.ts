import { says, type FlagsOf } from './flags.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { bodyWord, nameIsAccepted, trianglesOf, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'
import { checkBones } from './check-bones.ts'
import { checkCarried } from './check-carried.ts'
import { checkSurfaceValues } from './check-surface-values.ts'
import { mirrors } from './matrices.ts'
import { backsSeenShare, type Drawable } from './outside-view.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'

const SMALL = 1e-5
const MOST_BACKS = 0.01

/**
 * Root, names, budgets, sizes, facing and attributes of the mesh file.
 * @example checkMesh(file, nodes, sorted, rulebook, kind, flagsOf, log)
 */
export function checkMesh(
  file: string,
  nodes: readonly LoadedNode[],
  sorted: SortedNodes,
  rulebook: Rulebook,
  kind: Kind,
  flagsOf: FlagsOf,
  log: TrialLog,
): void {
  if (!kind.mesh) return
  const roots = nodes.filter((node) => node.parent === null)
  if (
    roots.length !== kind.models.length ||
    roots.some((root) => root.turned || root.primitives.length > 0 || Math.hypot(...root.translation) > SMALL)
  )
    log.refuse('mesh.root', file, 'The mesh needs one root at the origin without turn or scale.')
  checkNames(file, nodes, rulebook, log)
  const triangles = trianglesOf(sorted.view)
  if (triangles === 0) log.refuse('mesh.empty', file, 'There is nothing to draw.')
  if (kind.mesh.halfBlocks === null && triangles > kind.mesh.triangles)
    log.refuse('mesh.triangles', file, `${triangles} triangles; ${kind.mesh.triangles} are taken.`)
  const together = triangles + trianglesOf(sorted.solids)
  if (kind.mesh.withSolids !== null && together > kind.mesh.withSolids)
    log.refuse('mesh.together', file, `${together} triangles with solids; ${kind.mesh.withSolids} are taken.`)
  for (const node of sorted.view) {
    const corners = cornersOf(node)
    if (corners > kind.mesh.cornersPerPart)
      log.refuse('mesh.corners', file, `${node.name} has ${corners} corners; ${kind.mesh.cornersPerPart} are read.`)
    if (!node.moves && node.turned)
      log.complain('mesh.transform', file, `${node.name} is turned or scaled; that is skipped.`)
    if (node.primitives.some((primitive) => !primitive.normals))
      log.complain('mesh.normals', file, `${node.name} has no normals.`)
  }
  checkSections(file, sorted.view, kind.mesh.sections, log)
  checkCarried(file, nodes, kind, log)
  checkBones(file, nodes, kind, log)
  checkSurfaceValues(file, sorted, log)
  checkSizes(file, sorted.view, rulebook, log)
  // A room is seen from inside.
  const seen = sorted.view.filter(({ name }) => bodyWord(name, rulebook, kind) !== 'hollow')
  const share = backsSeenShare(
    seen.flatMap((node) => node.primitives.map((primitive) => drawable(node, primitive, rulebook, flagsOf))),
  )
  if (share > MOST_BACKS && !kind.mesh.facesViewer)
    log.complain(
      'mesh.backs',
      file,
      `From outside ${(share * 100).toFixed(1)} % of the picture shows backs of faces; there one looks through.`,
    )
}

/** Where the game draws by sections: how many there are, and how many corners each has. */
function checkSections(
  file: string,
  view: readonly LoadedNode[],
  limits: NonNullable<Kind['mesh']>['sections'],
  log: TrialLog,
): void {
  if (!limits) return
  const sections = view.flatMap((node) => node.primitives.map((section) => ({ node, section })))
  if (sections.length > limits.most)
    log.refuse('mesh.sections', file, `${sections.length} sections; ${limits.most} are read.`)
  for (const { node, section } of sections)
    if (section.positions.length / 3 > limits.corners)
      log.refuse(
        'mesh.section',
        file,
        `A section of ${node.name} has ${section.positions.length / 3} corners; ${limits.corners} are read.`,
      )
}

/**
 * Corners of all surfaces of a node; places that two surfaces share count once.
 * @example const corners = nodes.reduce((sum, node) => sum + cornersOf(node), 0)
 */
export const cornersOf = (node: LoadedNode): number =>
  [...new Map(node.primitives.map(({ places, positions }) => [places, positions.length / 3])).values()].reduce(
    (sum, count) => sum + count,
    0,
  )

function checkNames(file: string, nodes: readonly LoadedNode[], rulebook: Rulebook, log: TrialLog): void {
  const seen = new Set<string>()
  for (const node of nodes) {
    if (!nameIsAccepted(node.name, rulebook)) log.refuse('name.form', file, `The name “${node.name}” is not accepted.`)
    const isItemRoot = node.parent === null
    if (!isItemRoot && seen.has(node.name)) log.refuse('name.twice', file, `The name ${node.name} stands twice.`)
    if (!isItemRoot) seen.add(node.name)
  }
}

/**
 * Corner positions of a primitive in the scene.
 * @example const places = inScene(node, primitive.positions)
 */
export function inScene(node: LoadedNode, points: Float32Array): Float32Array {
  const m = node.world
  const moved = new Float32Array(points.length)
  for (let at = 0; at < points.length; at += 3) {
    for (let axis = 0; axis < 3; axis++)
      moved[at + axis] =
        m[axis] * points[at] + m[axis + 4] * points[at + 1] + m[axis + 8] * points[at + 2] + m[axis + 12]
  }
  return moved
}

function drawable(node: LoadedNode, primitive: LoadedPrimitive, rulebook: Rulebook, flagsOf: FlagsOf): Drawable {
  const flags = flagsOf(primitive.material ?? '')
  // A mirrored node shows the other side of its triangles as the front.
  const indices = mirrors(node.world) ? primitive.indices.slice().reverse() : primitive.indices
  return { positions: inScene(node, primitive.positions), indices, twoSided: says(flags, 'two-sided', rulebook) }
}

/**
 * Lowest x, y, z and highest x, y, z of the triangles of nodes in the scene.
 *
 * @example const [left, bottom, back, right, top, front] = boxOf(view)
 */
export function boxOf(nodes: readonly LoadedNode[]): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  for (const node of nodes) {
    for (const { positions } of node.primitives) {
      const points = inScene(node, positions)
      for (let at = 0; at < points.length; at++) {
        box[at % 3] = Math.min(box[at % 3], points[at])
        box[3 + (at % 3)] = Math.max(box[3 + (at % 3)], points[at])
      }
    }
  }
  return box
}

/**
 * The sides of a box, the shortest first.
 * @example const [shortest] = sidesOf(box)
 */
export const sidesOf = (box: readonly number[]): number[] =>
  [0, 1, 2].map((axis) => box[axis + 3] - box[axis]).sort((a, b) => a - b)

function checkSizes(file: string, view: readonly LoadedNode[], { space }: Rulebook, log: TrialLog): void {
  for (const node of view) {
    if (sidesOf(boxOf([node]))[1] < space.smallestDrawn)
      log.complain('mesh.thin', file, `${node.name} is thinner than ${space.smallestDrawn}; it is not drawn.`)
  }
  if (view.length === 0) return
  const all = boxOf(view)
  const longest = sidesOf(all)[2]
  if (longest > space.largestItem)
    log.complain('mesh.giant', file, `The item is ${longest.toFixed(1)} long; that is hardly meant.`)
  const away = Math.hypot(...[0, 1, 2].map((axis) => Math.max(all[axis], -all[axis + 3], 0)))
  if (away > space.largestItem)
    log.complain(
      'mesh.away',
      file,
      `The item begins ${away.toFixed(0)} from its origin; one places nothing and sees it far off.`,
    )
}
