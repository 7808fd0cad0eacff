import { identityMatrix } from '../../maths/axes.ts'
import { chainMatrices, type Matrix } from '../../maths/matrices.ts'
import type { SourceNode, SourceSkin } from '../scene/source-scene.ts'
import { inputsOf, type ColladaLibrary } from './library.ts'
import { rowsToColumns } from './places.ts'
import { firstOf, numbersOf, type XmlElement } from '../../support/xml.ts'

/**
 * The skin of a controller. The bind shape is put into the bind poses, so that points stay as written.
 * @param boneCalled a node by the short name, id or name that the skin gives
 *
 * @example const skin = readSkin(library, element, points, (name) => nodes.get(name))
 */
export function readSkin(
  library: ColladaLibrary,
  skin: XmlElement,
  pointCount: number,
  boneCalled: (name: string) => SourceNode | undefined,
): SourceSkin | null {
  const joints = inputsOf(firstOf(skin, 'joints'))
  const names = library.source(joints.find((input) => input.semantic === 'JOINT')?.source)?.words ?? []
  const binds =
    library.source(joints.find((input) => input.semantic === 'INV_BIND_MATRIX')?.source)?.numbers ?? new Float64Array(0)
  const bones = names.map(boneCalled)
  if (bones.length === 0 || binds.length < bones.length * 16 || bones.some((bone) => bone === undefined)) return null
  const shapeNumbers = numbersOf(firstOf(skin, 'bind_shape_matrix'))
  const shape: Matrix = shapeNumbers.length >= 16 ? rowsToColumns(shapeNumbers) : identityMatrix()
  const inverseBinds = bones.map((_, bone) =>
    chainMatrices(rowsToColumns(binds.subarray(bone * 16, bone * 16 + 16)), shape),
  )
  return {
    bones: bones as SourceNode[],
    inverseBinds,
    ...readWeights(library, firstOf(skin, 'vertex_weights'), pointCount, bones.length),
  }
}

function readWeights(
  library: ColladaLibrary,
  element: XmlElement | undefined,
  pointCount: number,
  boneCount: number,
): Pick<SourceSkin, 'starts' | 'boneOf' | 'weightOf'> {
  const inputs = inputsOf(element)
  const jointAt = inputs.find((input) => input.semantic === 'JOINT')?.offset ?? 0
  const weightInput = inputs.find((input) => input.semantic === 'WEIGHT')
  const weights = library.source(weightInput?.source)?.numbers ?? new Float64Array(0)
  const stride = Math.max(0, ...inputs.map((input) => input.offset)) + 1
  const counts = numbersOf(firstOf(element, 'vcount'))
  const pairs = numbersOf(firstOf(element, 'v'))
  const starts = new Uint32Array(pointCount + 1)
  const boneOf: number[] = []
  const weightOf: number[] = []
  let at = 0
  for (let point = 0; point < pointCount; point++) {
    for (let each = 0; each < (counts[point] ?? 0) && at + stride <= pairs.length; each++, at += stride) {
      // −1 means the bind shape itself, which no bone moves.
      if (pairs[at + jointAt] < 0 || pairs[at + jointAt] >= boneCount) continue
      boneOf.push(pairs[at + jointAt])
      weightOf.push(weights[pairs[at + (weightInput?.offset ?? 0)]] ?? 0)
    }
    starts[point + 1] = boneOf.length
  }
  return { starts, boneOf: Uint32Array.from(boneOf), weightOf: Float32Array.from(weightOf) }
}
