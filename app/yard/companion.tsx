import { useEffect, useMemo } from 'react'
import { Matrix4, MeshStandardMaterial, Vector3 } from 'three'
import { attachPoint } from '../../core/item/annotations/attach-point/attach-point'
import type { SceneData } from '../workers/scene-data'
import { drawItem } from '../drawing/item-geometry'
import { longestOf, measureGap } from './reference'
import { Figure } from './surroundings'
import type { YardSpace } from './yard-settings'

/** Something of known size that is set beside the item or into it. */
export type CompanionShape =
  { kind: 'cube' } | { kind: 'doorway' } | { kind: 'figure' } | { kind: 'scene'; scene: SceneData }

interface Box {
  min: readonly number[]
  max: readonly number[]
}

/** Width, height and depth of a companion, in game units. */
export function companionSize(shape: CompanionShape, space: YardSpace): [number, number, number] {
  if (shape.kind === 'cube') return [1, 1, 1]
  if (shape.kind === 'doorway') return [space.doorwayWidth, space.doorwayHeight, 0]
  if (shape.kind === 'figure') return [space.figureWidth, space.figureHeight, space.figureWidth]
  const drawn = shape.scene.parts.filter((part) => part.role === 'part')
  const along = (axis: number, end: 'min' | 'max'): number => Math[end](...drawn.map((part) => part.bounds[end][axis]))
  return [0, 1, 2].map((axis) => (drawn.length === 0 ? 0 : along(axis, 'max') - along(axis, 'min'))) as [
    number,
    number,
    number,
  ]
}

/** A place of the item and which way it looks. */
export type HungOn = Pick<SceneData['places'][number], 'at' | 'ahead'>

/** The places of an item on which other things are hung. */
export const attachPointsOf = ({ places }: Pick<SceneData, 'places'>): SceneData['places'] =>
  places.filter(({ title }) => title === attachPoint.title)

/**
 * Where a thing stands that is hung on a place: its own origin there, its front looking where the place looks, as
 * upright as that lets it.
 */
export function hungMatrix({ at, ahead }: HungOn): Matrix4 {
  const up = Math.abs(ahead[1]) > 0.99 ? new Vector3(0, 0, -Math.sign(ahead[1])) : new Vector3(0, 1, 0)
  return new Matrix4().lookAt(new Vector3(...ahead), new Vector3(), up).setPosition(...at)
}

/** A companion at its place: to the left of the item, or in the middle of it. */
export function CompanionThing({
  shape,
  box,
  inside,
  hungOn = null,
  space,
}: {
  shape: CompanionShape
  box: Box
  inside: boolean
  /** The place on which a thing is hung by its own origin, looking where the place looks. */
  hungOn?: HungOn | null
  space: YardSpace
}) {
  const [width, height, depth] = companionSize(shape, space)
  const gap = Math.min(space.gridCell * 0.25, measureGap(longestOf(box), space) * 3)
  const middle = [0, 1, 2].map((axis) => (box.min[axis] + box.max[axis]) / 2)
  const foot: [number, number, number] = inside
    ? [middle[0], box.min[1], middle[2]]
    : [box.min[0] - gap - width / 2, 0, box.max[2] - depth / 2]
  const material = useMemo(
    () =>
      new MeshStandardMaterial({ color: 0x6d9b94, roughness: 0.9, transparent: inside, opacity: inside ? 0.55 : 1 }),
    [inside],
  )
  useEffect(() => () => material.dispose(), [material])
  if (shape.kind === 'figure') return <Figure space={space} at={foot} />
  if (shape.kind === 'scene') return <CompanionScene scene={shape.scene} foot={foot} hungOn={hungOn} />
  if (shape.kind === 'cube') {
    return (
      <mesh position={[foot[0], foot[1] + height / 2, foot[2]]} material={material} castShadow>
        <boxGeometry args={[width, height, width]} />
      </mesh>
    )
  }
  const post = space.figureWidth * 0.12
  return (
    <group position={foot}>
      {[-1, 1].map((side) => (
        <mesh key={side} position={[side * (width / 2 + post / 2), height / 2, 0]} material={material} castShadow>
          <boxGeometry args={[post, height, post]} />
        </mesh>
      ))}
      <mesh position={[0, height + post / 2, 0]} material={material} castShadow>
        <boxGeometry args={[width + post * 2, post, post]} />
      </mesh>
    </group>
  )
}

/** Another item or a stock object, its foot set where it is wanted. */
function CompanionScene({
  scene,
  foot,
  hungOn,
}: {
  scene: SceneData
  foot: [number, number, number]
  hungOn: HungOn | null
}) {
  const drawn = useMemo(() => drawItem(scene), [scene])
  useEffect(() => drawn.dispose, [drawn])
  const placement = useMemo(() => {
    if (hungOn) return hungMatrix(hungOn)
    const parts = scene.parts.filter((part) => part.role === 'part')
    const low = [0, 1, 2].map((axis) => Math.min(...parts.map((part) => part.bounds.min[axis])))
    const high = [0, 1, 2].map((axis) => Math.max(...parts.map((part) => part.bounds.max[axis])))
    return new Matrix4().makeTranslation(
      foot[0] - (low[0] + high[0]) / 2,
      foot[1] - low[1],
      foot[2] - (low[2] + high[2]) / 2,
    )
  }, [scene, foot, hungOn])
  return (
    <group matrix={placement} matrixAutoUpdate={false}>
      {drawn.primitives
        .filter((primitive) => primitive.role === 'part')
        .map((primitive) => (
          <mesh
            key={primitive.key}
            geometry={primitive.geometry}
            material={primitive.material}
            matrix={primitive.matrix}
            matrixAutoUpdate={false}
            castShadow
          />
        ))}
    </group>
  )
}
