import type { Kind, Rulebook } from '../game/schema.ts'
import { boxOf, inScene, sidesOf } from './check-mesh.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from './log.ts'
import { mirrors } from './matrices.ts'
import { bodyWord } from './sorted-nodes.ts'

/**
 * Complains of bodies that the game cannot cut as their names say.
 * @example checkBodies(file, view, rulebook, kind, log)
 */
export function checkBodies(
  file: string,
  view: readonly LoadedNode[],
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  if (!rulebook.bodies || kind.faceRoles.length === 0) return
  const standing = view.filter((node) => bodyWord(node.name, rulebook, kind) === 'solid').map((node) => boxOf([node]))
  for (const node of view) {
    const word = bodyWord(node.name, rulebook, kind)
    if (!kind.faceRoles.includes(word)) log.complain('body.word', file, `${node.name}: a ${kind.id} has no ${word}.`)
    if (word === 'trim') continue
    const volume = enclosed(node)
    if (volume === null) log.complain('body.open', file, `${node.name} is not closed and cannot be cut.`)
    else if (word === 'solid' && volume < 0)
      log.complain('body.side', file, `${node.name} is to stand there, and its faces look inward.`)
    else if (word === 'hollow' && volume > 0)
      log.complain('body.side', file, `${node.name} is a room, and its faces look outward.`)
    const box = word === 'hollow' ? boxOf([node]) : null
    if (box && !standing.some((other) => meet(box, other)))
      log.complain('body.alone', file, `${node.name} lies in no solid and cuts nothing.`)
  }
}

const meet = (a: number[], b: number[]): boolean =>
  [0, 1, 2].every((axis) => a[axis] < b[axis + 3] && b[axis] < a[axis + 3])

/**
 * What a body encloses, negative where it looks inward; null for one that is not closed: each edge has its fellow.
 * @example const isOpen = enclosed(node) === null
 */
export function enclosed(node: LoadedNode): number | null {
  const edges = new Map<string, number>()
  const numbers = new Map<string, number>()
  let volume = 0
  let triangles = 0
  for (const { positions, indices } of node.primitives) {
    const placed = inScene(node, positions)
    const numberOf = (corner: number): number => {
      const key = [0, 1, 2].map((axis) => positions[corner * 3 + axis] + 0).join(' ')
      const known = numbers.get(key) ?? numbers.size
      numbers.set(key, known)
      return known
    }
    for (let at = 0; at < indices.length; at += 3) {
      const corners = [indices[at], indices[at + 1], indices[at + 2]]
      const named = corners.map(numberOf)
      if (new Set(named).size < 3) continue
      triangles++
      for (const side of [0, 1, 2]) {
        const [from, to] = [named[side], named[(side + 1) % 3]]
        const key = from < to ? `${from} ${to}` : `${to} ${from}`
        edges.set(key, (edges.get(key) ?? 0) + (from < to ? 1 : -1))
      }
      const [a, b, c] = corners.map((corner) => placed.subarray(corner * 3, corner * 3 + 3))
      volume +=
        (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) /
        6
    }
  }
  const closed = [...edges.values()].every((balance) => balance === 0)
  const longest = sidesOf(boxOf([node]))[2]
  // Sheets back to back have no borders and no inside.
  if (!closed || triangles === 0 || Math.abs(volume) <= ENCLOSES_NOTHING * longest ** 3) return null
  return mirrors(node.world) ? -volume : volume
}

/** Share of a cube as long as the body, under which it has no inside. */
const ENCLOSES_NOTHING = 1e-6
