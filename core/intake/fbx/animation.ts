import { sampleTimes, tracksOf, valueAt, type Curve } from '../scene/sampling.ts'
import type { SourceClip, SourceNode, SourceTrack } from '../scene/source-scene.ts'
import type { FbxObject, FbxObjects } from './objects.ts'
import { placeMatrix, type FbxPlace } from './transform.ts'
import { childOf, numbersOf } from './tree.ts'

/** Ticks of the file's clock in a second. */
const TICKS_PER_SECOND = 46_186_158_000

export interface AnimatedModel {
  node: SourceNode
  place: FbxPlace
}

/** For one model: which number of which part of its place a curve drives. */
type Curves = { part: 'translation' | 'rotation' | 'scaling'; axis: number; curve: Curve }[]

const partOf: Record<string, Curves[number]['part']> = {
  'Lcl Translation': 'translation',
  'Lcl Rotation': 'rotation',
  'Lcl Scaling': 'scaling',
}

/**
 * Each animation stack as a clip. Places are sampled at the keys, and at least 30 times a second between them.
 * @example scene.clips = readClips(objects, models)
 */
export function readClips(objects: FbxObjects, models: ReadonlyMap<string, AnimatedModel>): SourceClip[] {
  return objects.ofType('AnimationStack').map((stack) => {
    const curvesOf = new Map<string, Curves>()
    for (const { object: layer } of objects.children(stack, 'AnimationLayer')) {
      for (const { object: curveNode } of objects.children(layer, 'AnimationCurveNode'))
        collectCurves(objects, curveNode, curvesOf)
    }
    const tracks = [...curvesOf].flatMap(([id, curves]) => {
      const model = models.get(id)
      return model ? sampleTracks(model, curves) : []
    })
    return { name: stack.name, tracks }
  })
}

function collectCurves(objects: FbxObjects, curveNode: FbxObject, curvesOf: Map<string, Curves>): void {
  for (const { object: model, property } of objects.parents(curveNode, 'Model')) {
    const part = partOf[property]
    if (!part) continue
    const list = curvesOf.get(model.id) ?? []
    curvesOf.set(model.id, list)
    for (const { object, property: axisName } of objects.children(curveNode, 'AnimationCurve')) {
      const axis = 'XYZ'.indexOf(axisName.slice(-1))
      const ticks = numbersOf(childOf(object.node, 'KeyTime'))
      const values = numbersOf(childOf(object.node, 'KeyValueFloat'))
      if (axis < 0 || ticks.length === 0 || values.length < ticks.length) continue
      list.push({ part, axis, curve: { times: Float64Array.from(ticks, (tick) => tick / TICKS_PER_SECOND), values } })
    }
  }
}

function sampleTracks({ node, place }: AnimatedModel, curves: Curves): SourceTrack[] {
  const times = sampleTimes(curves.map(({ curve }) => curve.times))
  return tracksOf(node, times, (seconds) => {
    const moved: FbxPlace = {
      ...place,
      translation: [...place.translation],
      rotation: [...place.rotation],
      scaling: [...place.scaling],
    }
    for (const { part, axis, curve } of curves) moved[part][axis] = valueAt(curve, seconds)
    return placeMatrix(moved)
  })
}
