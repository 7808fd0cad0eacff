import { mixHash, tableSize } from './position-groups.ts'

const NONE = 0xffffffff

/** How the triangles of a mesh meet. Half-edge h belongs to triangle ⌊h / 3⌋ and runs to its next corner. */
export interface EdgeMeetings {
  /** The one half-edge that shares this edge, NONE on borders and where more than two meet. */
  twin: Uint32Array
  /** Whether twin half-edges run the same way, which means one of the two triangles is turned over. */
  sameWay: Uint8Array
  borderEdges: number
  nonManifoldEdges: number
}

/**
 * Finds which half-edges share an edge, whichever way they run.
 * @param placeOfIndex place number (see PositionGroups) of each triangle corner, 3 a triangle
 *
 * @example const { twin } = meetEdges(groupByPosition(positions).placeOfIndex)
 */
export function meetEdges(placeOfIndex: Uint32Array): EdgeMeetings {
  const count = placeOfIndex.length
  const mask = tableSize(count) - 1
  const table = new Uint32Array(mask + 1).fill(NONE)
  const nextInEdge = new Uint32Array(count).fill(NONE)
  const meetings = new Uint8Array(count)
  const from = (halfEdge: number): number => placeOfIndex[halfEdge]
  const to = (halfEdge: number): number => placeOfIndex[halfEdge % 3 === 2 ? halfEdge - 2 : halfEdge + 1]
  for (let halfEdge = 0; halfEdge < count; halfEdge++) {
    const low = Math.min(from(halfEdge), to(halfEdge))
    const high = Math.max(from(halfEdge), to(halfEdge))
    let slot = mixHash(low, high, 7) & mask
    for (;;) {
      const head = table[slot]
      if (head === NONE) {
        table[slot] = halfEdge
        meetings[halfEdge] = 1
        break
      }
      if (Math.min(from(head), to(head)) === low && Math.max(from(head), to(head)) === high) {
        nextInEdge[halfEdge] = nextInEdge[head]
        nextInEdge[head] = halfEdge
        if (meetings[head] < 255) meetings[head]++
        break
      }
      slot = (slot + 1) & mask
    }
  }
  const twin = new Uint32Array(count).fill(NONE)
  const sameWay = new Uint8Array(count)
  let borderEdges = 0
  let nonManifoldEdges = 0
  for (let slot = 0; slot <= mask; slot++) {
    const head = table[slot]
    if (head === NONE) continue
    if (meetings[head] === 1) borderEdges++
    else if (meetings[head] > 2) nonManifoldEdges++
    else {
      const other = nextInEdge[head]
      twin[head] = other
      twin[other] = head
      sameWay[head] = sameWay[other] = from(head) === from(other) ? 1 : 0
    }
  }
  return { twin, sameWay, borderEdges, nonManifoldEdges }
}

export const NO_TWIN = NONE
