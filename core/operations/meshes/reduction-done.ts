import type { Hold, Reduction } from '../../geometry/mesh/reduce.ts'
import { shadingDifference } from '../../geometry/surface/shading-difference.ts'
import { surfaceDifference } from '../../geometry/surface/surface-distance.ts'
import type { Part } from '../../item/parts.ts'
import type { MeshArrays } from './mesh-arrays.ts'

/** What a reduction did to an item, gathered mesh by mesh. */
export interface ReductionDone {
  /**
   * Furthest shift of any surface, in game units: measured, or estimated where something was too large to be measured.
   */
  worst: number
  /** Mean shift, weighted by triangles; null where it was not measured. */
  mean: number | null
  measured: number
  /** Area of what was reduced and measured, and of what is lit otherwise of it. */
  litArea: number
  litOff: number
  letGo: Map<string, Hold[]>
  /** The count that was asked for, over all parts. */
  asked: number | null
  /** Triangles of parts that were left alone. */
  held: number
}

/** Larger meshes are not measured as a matter of course: the yard does it when it is asked to. */
const MOST_MEASURED_TRIANGLES = 300_000
export const MOST_SAMPLES = 3000
/** So many meshes are measured at as many places; it is told of the item as a whole. */
export const MEASURED_IN_FULL = 2

/**
 * Adds what a reduction did to one mesh. @param samples places at which it is measured
 * @example noteReduction(done, part, arrays, await reduceTriangles(request), 2000)
 */
export function noteReduction(
  done: ReductionDone,
  part: Part,
  arrays: MeshArrays,
  reduction: Reduction,
  samples: number,
): void {
  const scale = Math.max(...part.node.getWorldScale().map(Math.abs))
  const triangles = arrays.indices.length / 3
  if (reduction.letGo.length > 0) done.letGo.set(part.name, reduction.letGo)
  if (reduction.indices === arrays.indices) return
  if (triangles > MOST_MEASURED_TRIANGLES) {
    done.worst = Math.max(done.worst, reduction.worstShift * scale)
    done.mean = null
    return
  }
  const { worst, mean } = surfaceDifference(arrays, reduction, samples)
  done.worst = Math.max(done.worst, worst * scale)
  done.measured += triangles
  noteLight(done, scale, arrays, reduction, Math.min(samples, MOST_LIT_SAMPLES))
  if (done.mean !== null) done.mean += ((mean * scale - done.mean) * triangles) / done.measured
}

/** Light that falls further off than this is seen. */
export const NOTICED_TURN_DEGREES = 15

const MOST_LIT_SAMPLES = 2000

function noteLight(done: ReductionDone, scale: number, before: MeshArrays, after: Reduction, samples: number): void {
  const [given, left] = [before.attributes.get('NORMAL')?.array, after.attributes.get('NORMAL')?.array]
  if (!given || !left) return
  const { share, area } = shadingDifference(
    { ...before, normals: given },
    { ...after, normals: left },
    NOTICED_TURN_DEGREES,
    samples,
  )
  done.litArea += area * scale * scale
  done.litOff += share * area * scale * scale
}
