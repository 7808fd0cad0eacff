import { identityMatrix } from '../../maths/axes.ts'
import {
  chainMatrices,
  invertMatrix,
  rotationMatrix,
  scalingMatrix,
  translationMatrix,
  type Matrix,
} from '../../maths/matrices.ts'
import type { FbxProperties } from './tree.ts'

type Vector = [number, number, number]

/** What a model's place is made of, in the file's own terms. Angles are degrees. */
export interface FbxPlace {
  translation: Vector
  rotation: Vector
  scaling: Vector
  rotationOrder: number
  preRotation: Vector
  postRotation: Vector
  rotationOffset: Vector
  rotationPivot: Vector
  scalingOffset: Vector
  scalingPivot: Vector
}

/**
 * Reads how a model is moved, turned and scaled from its properties.
 * @example const place = readPlace(propertiesOf(object))
 */
export function readPlace(properties: FbxProperties): FbxPlace {
  const zero: Vector = [0, 0, 0]
  return {
    translation: properties.vector('Lcl Translation') ?? zero,
    rotation: properties.vector('Lcl Rotation') ?? zero,
    scaling: properties.vector('Lcl Scaling') ?? [1, 1, 1],
    rotationOrder: properties.number('RotationOrder') ?? 0,
    preRotation: properties.vector('PreRotation') ?? zero,
    postRotation: properties.vector('PostRotation') ?? zero,
    rotationOffset: properties.vector('RotationOffset') ?? zero,
    rotationPivot: properties.vector('RotationPivot') ?? zero,
    scalingOffset: properties.vector('ScalingOffset') ?? zero,
    scalingPivot: properties.vector('ScalingPivot') ?? zero,
  }
}

/** Which axis turns first, second, third, by the number of the order. */
const orders = ['xyz', 'xzy', 'yzx', 'yxz', 'zxy', 'zyx', 'xyz'] as const

/** Turn by three angles in degrees: the first axis of the order acts first. */
export function turnMatrix(angles: Vector, order = 0): Matrix {
  const turns = [...(orders[order] ?? 'xyz')].map((axis) => {
    const index = 'xyz'.indexOf(axis)
    const unit = [0, 1, 2].map((each) => (each === index ? 1 : 0))
    return rotationMatrix(unit[0], unit[1], unit[2], (angles[index] * Math.PI) / 180)
  })
  return chainMatrices(turns[2], turns[1], turns[0])
}

/**
 * A model's place in its parent (FBX SDK help, “Computing transformation matrices”):
 * T · Roff · Rp · Rpre · R · Rpost⁻¹ · Rp⁻¹ · Soff · Sp · S · Sp⁻¹.
 *
 * @example node.matrix = placeMatrix(readPlace(properties))
 */
export function placeMatrix(place: FbxPlace): Matrix {
  const shift = (vector: Vector, sign = 1): Matrix =>
    translationMatrix(vector[0] * sign, vector[1] * sign, vector[2] * sign)
  return chainMatrices(
    shift(place.translation),
    shift(place.rotationOffset),
    shift(place.rotationPivot),
    turnMatrix(place.preRotation),
    turnMatrix(place.rotation, place.rotationOrder),
    invertMatrix(turnMatrix(place.postRotation)) ?? identityMatrix(),
    shift(place.rotationPivot, -1),
    shift(place.scalingOffset),
    shift(place.scalingPivot),
    scalingMatrix(...place.scaling),
    shift(place.scalingPivot, -1),
  )
}

/**
 * The place of the geometry in its model, which children do not inherit; null where there is none.
 * @example const offset = geometricMatrix(properties) ?? identityMatrix()
 */
export function geometricMatrix(properties: FbxProperties): Matrix | null {
  const [translation, rotation, scaling] = [
    properties.vector('GeometricTranslation'),
    properties.vector('GeometricRotation'),
    properties.vector('GeometricScaling'),
  ]
  if (!translation && !rotation && !scaling) return null
  return chainMatrices(
    translationMatrix(...(translation ?? [0, 0, 0])),
    turnMatrix(rotation ?? [0, 0, 0]),
    scalingMatrix(...(scaling ?? [1, 1, 1])),
  )
}
