import type { Document } from '@gltf-transform/core'
import { bendBreaks, type Breaks } from '../../geometry/skin/bend-angles.ts'
import { skinPoints } from '../../geometry/skin/skin-points.ts'
import type { Part } from '../../item/parts.ts'
import { bendPoses } from './bend-poses.ts'
import { listHeldParts, readHeldMesh, type HeldMesh } from './skin.ts'

/** Edges that break by more than this when a bone is turned are seen as corners. */
export const ANGULAR_DEGREES = 25

/** A part that bones hold, and how sharply it breaks when each bone is turned. */
export interface Bend {
  part: Part
  held: HeldMesh
  breaks: Breaks
}

/**
 * Measures how a held mesh breaks over the poses of `bendPoses`.
 * @example const { worstDegrees } = breaksOf(held)
 */
export const breaksOf = (held: HeldMesh, limitDegrees = ANGULAR_DEGREES): Breaks =>
  bendBreaks(held, bentOver(held), limitDegrees)

/**
 * The same for every part of an item that is drawn close by and that bones hold.
 * @example const [bend] = bendsOf(document)
 */
export const bendsOf = (document: Document): Bend[] =>
  listHeldParts(document)
    .filter(({ extras }) => extras.role === 'part')
    .flatMap((part) => {
      const held = readHeldMesh(part)
      return held ? [{ part, held, breaks: breaksOf(held) }] : []
    })

function* bentOver(held: HeldMesh): Generator<Float32Array> {
  for (const matrices of bendPoses(held)) yield skinPoints(held.positions, held.table, matrices)
}
