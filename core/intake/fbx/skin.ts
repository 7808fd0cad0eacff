import { chainMatrices, invertMatrix, type Matrix } from '../../maths/matrices.ts'
import type { SourceNode, SourceSkin } from '../scene/source-scene.ts'
import type { FbxObject, FbxObjects } from './objects.ts'
import { childOf, numbersOf } from './tree.ts'

interface Cluster {
  bone: SourceNode
  indexes: ArrayLike<number>
  weights: ArrayLike<number>
  /** Mesh in the bone's space, as written. */
  transform: Matrix | null
  /** Bone in the world when bound. */
  link: Matrix | null
}

/**
 * The skin of a geometry: which bones pull at which point, and the bind pose.
 * @param meshWorld where the mesh stands in the scene, used where the file's own matrices do not agree
 *
 * @example const skin = readSkin(objects, geometry, points, nodeOf, meshWorld)
 */
export function readSkin(
  objects: FbxObjects,
  geometry: FbxObject,
  pointCount: number,
  nodeOf: ReadonlyMap<string, SourceNode>,
  meshWorld: Matrix,
): SourceSkin | null {
  const clusters = objects
    .children(geometry, 'Deformer')
    .filter(({ object }) => object.kind === 'Skin')
    .flatMap(({ object: skin }) =>
      objects.children(skin, 'Deformer').flatMap(({ object }) => readCluster(objects, object, nodeOf)),
    )
  if (clusters.length === 0) return null
  const trusted = matricesAgree(clusters)
  const { starts, boneOf, weightOf } = byPoint(clusters, pointCount)
  return {
    bones: clusters.map((cluster) => cluster.bone),
    inverseBinds: clusters.map((cluster) => inverseBind(cluster, trusted, meshWorld)),
    starts,
    boneOf,
    weightOf,
  }
}

function readCluster(objects: FbxObjects, cluster: FbxObject, nodeOf: ReadonlyMap<string, SourceNode>): Cluster[] {
  const bone = objects.children(cluster, 'Model')[0]?.object
  const node = bone && nodeOf.get(bone.id)
  if (!node) return []
  const matrix = (name: string): Matrix | null => {
    const numbers = Array.from(numbersOf(childOf(cluster.node, name)))
    return numbers.length === 16 && numbers.every(Number.isFinite) ? numbers : null
  }
  return [
    {
      bone: node,
      indexes: numbersOf(childOf(cluster.node, 'Indexes')),
      weights: numbersOf(childOf(cluster.node, 'Weights')),
      transform: matrix('Transform'),
      link: matrix('TransformLink'),
    },
  ]
}

/** For every bone, bone in the world times mesh in the bone must give the same place of the mesh. */
function matricesAgree(clusters: readonly Cluster[]): boolean {
  const places = clusters.map(({ transform, link }) => (transform && link ? chainMatrices(link, transform) : null))
  const [first] = places
  if (!first) return false
  const size = Math.max(1, ...first.map(Math.abs))
  return places.every(
    (place) => place !== null && place.every((value, index) => Math.abs(value - first[index]) < size * 1e-3),
  )
}

function inverseBind({ transform, link }: Cluster, trusted: boolean, meshWorld: Matrix): Matrix {
  if (trusted && transform) return transform
  const inverse = link && invertMatrix(link)
  return inverse ? chainMatrices(inverse, meshWorld) : (transform ?? meshWorld)
}

/** The clusters' lists turned over: for each point its bones and weights. Points out of range are passed over. */
function byPoint(clusters: readonly Cluster[], pointCount: number): Pick<SourceSkin, 'starts' | 'boneOf' | 'weightOf'> {
  const starts = new Uint32Array(pointCount + 1)
  const each = (visit: (bone: number, point: number, weight: number) => void): void => {
    clusters.forEach(({ indexes, weights }, bone) => {
      for (let index = 0; index < Math.min(indexes.length, weights.length); index++)
        if (indexes[index] >= 0 && indexes[index] < pointCount) visit(bone, indexes[index], weights[index])
    })
  }
  each((_bone, point) => starts[point + 1]++)
  for (let point = 0; point < pointCount; point++) starts[point + 1] += starts[point]
  const fill = starts.slice()
  const boneOf = new Uint32Array(starts[pointCount])
  const weightOf = new Float32Array(starts[pointCount])
  each((bone, point, weight) => {
    boneOf[fill[point]] = bone
    weightOf[fill[point]++] = weight
  })
  return { starts, boneOf, weightOf }
}
