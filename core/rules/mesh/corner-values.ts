import { lengthOfXyz } from '../../maths/vectors.ts'
import type { Primitive } from '@gltf-transform/core'
import { listAllParts, restMatrix, type Part } from '../../item/parts.ts'
import { accessorToFloats, readPrimitive } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, RuleFamily } from '../rule.ts'

/** How far a direction's length, or a sum of weights, may be from 1. */
const TOLERANCE = 0.01
/** Below this share of the square of its longest side a triangle has no area. */
const LEAST_AREA_SHARE = 1e-6

/** Whether the numbers at the corners of everything drawn can be lit and bent. */
export const cornerValueRules: RuleFamily = {
  id: 'corner-values',
  ofMeshes: true,
  check: ({ document }) =>
    listAllParts(document)
      .filter(({ extras }) => extras.role === 'part' || extras.role === 'level')
      .flatMap(checkPart),
}

function checkPart(part: Part): Finding[] {
  const primitives = part.mesh.listPrimitives()
  const findings: Finding[] = []
  const common = { severity: 'risky' as const, stage: 'mesh' as const, where: part.name, place: placeOfParts([part]) }
  if (primitives.some((primitive) => directions(primitive, 'NORMAL', 3).some(isOff))) {
    findings.push({
      ...common,
      rule: 'normal-length',
      title: 'Normals without length',
      value: 'not 1',
      limit: 'length 1',
      message: `${part.name} has normals that are not of length 1`,
      why: 'Light is computed from them: such corners are black or glare.',
      mend: { step: 'even-normals', label: 'Make normals anew', parameters: { remake: 'all' } },
    })
  }
  if (
    primitives.some(
      (primitive) =>
        directions(primitive, 'TANGENT', 4).some(isOff) || hands(primitive).some((hand) => hand !== 1 && hand !== -1),
    )
  ) {
    findings.push({
      ...common,
      rule: 'tangent-hand',
      title: 'Tangents without hand',
      value: 'not 1 or −1',
      limit: 'length 1, hand 1 or −1',
      message: `${part.name} has tangents without length, or whose fourth number is neither 1 nor −1`,
      why: 'The normal map is laid on by them; without a hand its relief is turned over or lost.',
      mend: { step: 'even-normals', label: 'Make tangents', parameters: { tangents: true } },
    })
  }
  if (part.node.getSkin() && primitives.some((primitive) => weightSums(primitive).some(isOff))) {
    findings.push({
      ...common,
      rule: 'weights-sum',
      stage: 'motion',
      title: 'Weights do not make 1',
      value: 'not 1',
      limit: '1 a corner',
      message: `${part.name} has corners whose weights do not add up to 1`,
      why: 'Such corners fly off as soon as a bone moves.',
      mend: primitives.some((primitive) => weightSums(primitive).includes(0))
        ? {
            step: 'assign-weights',
            label: 'Assign to the nearest bone',
            parameters: { part: part.name, corners: 'unheld', to: 'nearest' },
          }
        : { step: 'limit-weights', label: 'Make weights 1', parameters: {} },
    })
  }
  if (primitives.some((primitive) => !hasArea(part, primitive))) {
    findings.push({
      ...common,
      rule: 'surface-flat',
      title: 'A surface without area',
      value: '0',
      limit: 'above 0',
      message: `${part.name} has a surface whose triangles are all lines or points`,
      why: 'Nothing of it is seen, and its material is paid for.',
      mend: { step: 'clean-mesh', label: 'Drop slivers', parameters: { slivers: true } },
    })
  }
  return findings
}

const isOff = (length: number): boolean => Math.abs(length - 1) > TOLERANCE

function valuesOf(primitive: Primitive, semantic: string): Float32Array {
  const accessor = primitive.getAttribute(semantic)
  return accessor ? accessorToFloats(accessor) : new Float32Array(0)
}

/** The length of each direction of an attribute. */
function directions(primitive: Primitive, semantic: string, size: number): Float32Array {
  const values = valuesOf(primitive, semantic)
  return Float32Array.from({ length: values.length / size }, (_, corner) =>
    lengthOfXyz(values[corner * size], values[corner * size + 1], values[corner * size + 2]),
  )
}

const hands = (primitive: Primitive): Float32Array => valuesOf(primitive, 'TANGENT').filter((_, at) => at % 4 === 3)

/** The sum of all weights of each corner. */
function weightSums(primitive: Primitive): Float32Array {
  const sets = primitive
    .listSemantics()
    .filter((semantic) => semantic.startsWith('WEIGHTS_'))
    .map((semantic) => valuesOf(primitive, semantic))
  return Float32Array.from({ length: (sets[0]?.length ?? 0) / 4 }, (_, corner) =>
    sets.reduce(
      (sum, set) => sum + set[corner * 4] + set[corner * 4 + 1] + set[corner * 4 + 2] + set[corner * 4 + 3],
      0,
    ),
  )
}

function hasArea(part: Part, primitive: Primitive): boolean {
  const { positions, indices } = readPrimitive(primitive)
  const points = transformedPoints(positions, restMatrix(part.node))
  const lengthBetween = (a: number, b: number): number =>
    lengthOfXyz(points[b] - points[a], points[b + 1] - points[a + 1], points[b + 2] - points[a + 2])
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const [ux, uy, uz] = [points[b] - points[a], points[b + 1] - points[a + 1], points[b + 2] - points[a + 2]]
    const [vx, vy, vz] = [points[c] - points[a], points[c + 1] - points[a + 1], points[c + 2] - points[a + 2]]
    const doubleArea = lengthOfXyz(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx)
    if (
      doubleArea / 2 >
      LEAST_AREA_SHARE * Math.max(lengthBetween(a, b), lengthBetween(a, c), lengthBetween(b, c)) ** 2
    )
      return true
  }
  return indices.length === 0
}
