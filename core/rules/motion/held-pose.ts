import { boundsSize, partBounds } from '../../item/measure.ts'
import { SLOTS } from '../../geometry/skin/weight-table.ts'
import { blend } from '../../maths/bend.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { restMatrices } from '../../operations/motion/bend-poses.ts'
import { listHeldParts, readHeldMesh, type HeldMesh } from '../../operations/motion/skin.ts'
import { formatLength } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, RuleFamily } from '../rule.ts'

/** How far a bone may have gone from where it took hold, as a share of the longest side of what it holds. */
const MOST_SHARE = 0.02

/** Whether bones stand where they took hold: mesh and bones of different versions of a source do not fit each other. */
export const heldPoseRules: RuleFamily = {
  id: 'held-pose',
  ofMeshes: true,
  check: ({ document, rulebook: { space } }) =>
    listHeldParts(document).flatMap((part): Finding[] => {
      const held = readHeldMesh(part)
      const longest = Math.max(...boundsSize(partBounds(part)))
      const gone = held && furthestGone(held)
      if (!gone || gone.by <= longest * MOST_SHARE) return []
      return [
        {
          rule: 'held-elsewhere',
          severity: 'note',
          stage: 'motion',
          title: 'Bent at rest',
          where: part.name,
          place: placeOfParts([part]),
          value: `${formatLength(gone.by)} ${space.unit.plural}`,
          limit: `${MOST_SHARE * 100} % of its size`,
          message: `${gone.bone} bends ${part.name} by ${formatLength(gone.by)} ${space.unit.plural} at rest already`,
          why:
            'The bone does not stand where it took hold: it was saved in the middle of a motion, or mesh and ' +
            'bones come from different versions of the source.',
          mend: null,
        },
      ]
    }),
}

/**
 * The corner that is furthest from where most bones have the mesh, and the bone that holds it most.
 * @returns null where nothing is held
 */
function furthestGone(held: HeldMesh): { bone: string; by: number } | null {
  const { bones, positions, table } = held
  const rest = restMatrices(held)
  if (rest.length === 0) return null
  const most = Array.from({ length: 16 }, (_, at) => median(rest.map((matrix) => matrix[at])))
  const bent = new Float32Array(positions.length)
  blend(positions, table, rest.flat(), true, bent)
  const straight = transformedPoints(positions, most)
  let furthest = { corner: 0, by: 0 }
  for (let corner = 0; corner < positions.length / 3; corner++) {
    if (!(table.weightOf[corner * SLOTS] > 0)) continue
    const by = Math.hypot(...[0, 1, 2].map((axis) => bent[corner * 3 + axis] - straight[corner * 3 + axis]))
    if (by > furthest.by) furthest = { corner, by }
  }
  return { bone: bones[table.boneOf[furthest.corner * SLOTS]]?.getName() ?? '', by: furthest.by }
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0
