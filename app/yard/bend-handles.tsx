import { Line } from '@react-three/drei'
import { useThree } from '@react-three/fiber'
import { useMemo } from 'react'
import { Euler, MathUtils, Matrix4, Quaternion, Vector3 } from 'three'
import type { BoneMove } from '../../core/maths/bend'
import type { SceneData } from '../workers/scene-data'
import { waysOf } from './bend-geometry'
import { atRest, moveBone, useBend } from './bend-state'
import { DragKnob, type Place } from './drag-knob'

type Bend = NonNullable<SceneData['bend']>

/** The bone in hand: a solid knob pulls it, a ringed one at the far end of what it holds turns it. */
export function BendHandles({ scene, bend, reach }: { scene: SceneData; bend: Bend; reach: number }) {
  const camera = useThree((state) => state.camera)
  const { bone, moves } = useBend()
  const number = bend.bones.findIndex(({ name }) => name === bone)
  const tip = useMemo(() => (number < 0 ? null : tipOf(scene, bend, number, reach)), [scene, bend, number, reach])
  const rest = bend.bones[number]
  if (!rest || !tip || bone === null) return null
  const ways = waysOf(bend, moves)
  const way = new Matrix4().fromArray(ways[number])
  const above = new Matrix4().fromArray(rest.above >= 0 ? ways[rest.above] : new Matrix4().toArray())
  const move = moves.get(bone) ?? atRest
  const at = new Vector3(...rest.at).applyMatrix4(way)
  const end = tip.clone().applyMatrix4(way)
  const view = camera.getWorldDirection(new Vector3()).negate()
  const back = above.clone().invert()
  return (
    <>
      <Line points={[at, end]} color={0x1d5a4c} lineWidth={2} depthTest={false} renderOrder={19} />
      <DragKnob
        at={place(at)}
        through={place(at)}
        normal={place(view)}
        onDrag={(to) => moveBone(bone, { ...move, moved: pulled(to, rest.at, back) })}
      />
      <DragKnob
        at={place(end)}
        colour={0xc8a572}
        through={place(end)}
        normal={place(view)}
        onDrag={(to) => moveBone(bone, { ...move, turnDegrees: turned(to, tip, rest.at, move, back) })}
      />
    </>
  )
}

const place = (vector: Vector3): Place => vector.toArray()

/**
 * Where a bone points: to the middle of the bones that hang on it, else of the stiff part that it follows, else up.
 */
function tipOf({ parts }: SceneData, { bones, carried }: Bend, bone: number, reach: number): Vector3 {
  const at = new Vector3(...bones[bone].at)
  const follows = new Set(carried.flatMap((each) => (each.bone === bone ? [each.part] : [])))
  const ends = bones.some(({ above }) => above === bone)
    ? bones.filter(({ above }) => above === bone).map((each) => new Vector3(...each.at))
    : parts
        .filter(({ name, role }) => role === 'part' && follows.has(name))
        .map(({ bounds: { min, max } }) => new Vector3(...min).add(new Vector3(...max)).multiplyScalar(0.5))
  const middle = ends.reduce((sum, each) => sum.add(each), new Vector3()).divideScalar(Math.max(1, ends.length))
  // What is too near to the bone itself cannot be got hold of.
  return ends.length > 0 && middle.distanceTo(at) > reach * 0.05 ? middle : at.clone().setY(at.y + reach * 0.15)
}

/** How far a bone was pulled, before what it hangs on is moved. */
function pulled(to: Vector3, rest: readonly [number, number, number], back: Matrix4): BoneMove['moved'] {
  const { x, y, z } = to.clone().applyMatrix4(back)
  return [x - rest[0], y - rest[1], z - rest[2]]
}

/** The turn that brings the tip of a bone towards a place. */
function turned(
  to: Vector3,
  tip: Vector3,
  rest: readonly [number, number, number],
  { moved }: BoneMove,
  back: Matrix4,
): BoneMove['turnDegrees'] {
  const at = new Vector3(...rest)
  const from = tip.clone().sub(at)
  const wanted = to
    .clone()
    .applyMatrix4(back)
    .sub(at.clone().add(new Vector3(...moved)))
  const turn = new Quaternion().setFromUnitVectors(from.normalize(), wanted.normalize())
  // About X first, then Y, then Z.
  const { x, y, z } = new Euler().setFromQuaternion(turn, 'ZYX')
  return [x, y, z].map((angle) => Math.round(MathUtils.radToDeg(angle))) as [number, number, number]
}
