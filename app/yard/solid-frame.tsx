import { Line } from '@react-three/drei'
import { useEffect, useMemo, useState } from 'react'
import { BufferAttribute, BufferGeometry, Matrix4, MeshBasicMaterial, Quaternion, Vector3 } from 'three'
import type { PlacedShapes } from '../workers/yard-messages'
import { DragKnob, useDrag, type Place } from './drag-knob'
import { makeSolidHatch } from './solid-hatch'

/** How a shape is moved (in the scene), turned about up (in degrees) and sized (factors along its own axes). */
export interface ShapeChange {
  moved: Place
  turnedDegrees: number
  sized: Place
}

interface SolidFrameProps {
  shapes: PlacedShapes
  onChange: (change: ShapeChange) => void
}

const still: ShapeChange = { moved: [0, 0, 0], turnedDegrees: 0, sized: [1, 1, 1] }
const UP: Place = [0, 1, 0]

/**
 * Collision shapes with handles: the shape slides along the ground, one knob lifts it, one turns it, three size it. It
 * counts when let go.
 */
export function SolidFrame({ shapes, onChange }: SolidFrameProps) {
  const [change, setChange] = useState(still)
  useEffect(() => setChange(still), [shapes])
  const settle = (next: ShapeChange, done: boolean): void => {
    setChange(next)
    if (done) onChange(next)
  }
  const [first] = shapes
  if (!first) return null
  return (
    <>
      {shapes.map((shape, index) => (
        <Shape key={index} shape={shape} change={change} onSlide={(moved, done) => settle({ ...still, moved }, done)} />
      ))}
      <Handles shape={first} change={change} onSettle={settle} />
    </>
  )
}

function Shape({
  shape,
  change,
  onSlide,
}: {
  shape: PlacedShapes[number]
  change: ShapeChange
  onSlide: (moved: Place, done: boolean) => void
}) {
  const geometry = useMemo(() => {
    const made = new BufferGeometry()
    made.setAttribute('position', new BufferAttribute(shape.positions, 3))
    made.setIndex(new BufferAttribute(shape.indices, 1))
    return made
  }, [shape])
  const [hatch, edges] = useMemo(
    () => [
      makeSolidHatch(),
      new MeshBasicMaterial({ color: 0x1d5a4c, wireframe: true, transparent: true, opacity: 0.3 }),
    ],
    [],
  )
  useEffect(() => () => geometry.dispose(), [geometry])
  const matrix = useMemo(() => changedMatrix(shape, change), [shape, change])
  const slide = useDrag({
    through: shape.middle,
    normal: UP,
    onDrag: (to, from, done) => onSlide([to.x - from.x, 0, to.z - from.z], done),
  })
  return (
    <group matrix={matrix} matrixAutoUpdate={false}>
      <mesh geometry={geometry} material={hatch} renderOrder={10} {...slide} />
      <mesh geometry={geometry} material={edges} renderOrder={11} />
    </group>
  )
}

/** Scaled along its own axes and turned about up, both about its middle, then moved. */
function changedMatrix({ middle, turn }: PlacedShapes[number], { moved, turnedDegrees, sized }: ShapeChange): Matrix4 {
  const own = new Matrix4().makeRotationFromQuaternion(new Quaternion(...turn))
  return new Matrix4()
    .makeTranslation(middle[0] + moved[0], middle[1] + moved[1], middle[2] + moved[2])
    .multiply(new Matrix4().makeRotationY((turnedDegrees * Math.PI) / 180))
    .multiply(own)
    .multiply(new Matrix4().makeScale(...(sized as [number, number, number])))
    .multiply(own.clone().transpose())
    .multiply(new Matrix4().makeTranslation(-middle[0], -middle[1], -middle[2]))
}

/** How far the knobs stand off the shape, as a share of its size. */
const OFF = 0.22

function Handles({
  shape,
  change,
  onSettle,
}: {
  shape: PlacedShapes[number]
  change: ShapeChange
  onSettle: (next: ShapeChange, done: boolean) => void
}) {
  const { half, turn } = shape
  const middle = new Vector3(...shape.middle).add(new Vector3(...change.moved))
  const about = new Quaternion()
    .setFromAxisAngle(new Vector3(...UP), (change.turnedDegrees * Math.PI) / 180)
    .multiply(new Quaternion(...turn))
  const axes = [0, 1, 2].map((axis) =>
    new Vector3(axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0).applyQuaternion(about),
  )
  const reach = Math.max(...half) * OFF
  const place = (vector: Vector3): Place => vector.toArray()
  const ends = axes.map((axis, index) =>
    middle.clone().addScaledVector(axis, half[index] * change.sized[index] + reach),
  )
  const height = Math.max(...[0, 1, 2].map((axis) => Math.abs(axes[axis].y) * half[axis]))
  const top = middle.clone().addScaledVector(new Vector3(...UP), height + reach * 2.2)
  const side = middle.clone().add(new Vector3(1, 0, 1).normalize().multiplyScalar(Math.hypot(half[0], half[2]) + reach))
  const camera = new Vector3(0.52, 0, 0.8)
  return (
    <>
      <Line
        points={[place(middle) as [number, number, number], place(top) as [number, number, number]]}
        color={0x1d5a4c}
        lineWidth={1.5}
        depthTest={false}
        renderOrder={19}
      />
      <DragKnob
        at={place(top)}
        through={place(middle)}
        normal={place(camera)}
        onDrag={(to, from, done) => onSettle({ ...still, moved: [0, to.y - from.y, 0] }, done)}
      />
      <DragKnob
        at={place(side)}
        colour={0xc8a572}
        through={place(middle)}
        normal={UP}
        onDrag={(to, from, done) =>
          onSettle(
            {
              ...still,
              turnedDegrees: Math.round(((angleOf(to, shape.middle) - angleOf(from, shape.middle)) * 180) / Math.PI),
            },
            done,
          )
        }
      />
      {axes.map((axis, index) => (
        <DragKnob
          key={index}
          at={place(ends[index])}
          colour={0x5c6660}
          through={place(middle)}
          normal={place(squareTo(axis))}
          onDrag={(to, from, done) => {
            const before = from.clone().sub(middle).dot(axis)
            const after = to.clone().sub(middle).dot(axis)
            const grown = (half[index] + (after - before)) / Math.max(1e-6, half[index])
            onSettle(
              {
                ...still,
                sized: still.sized.map((one, each) =>
                  each === index ? Math.min(20, Math.max(0.05, grown)) : one,
                ) as unknown as Place,
              },
              done,
            )
          }}
        />
      ))}
    </>
  )
}

const angleOf = (place: Vector3, middle: readonly number[]): number =>
  Math.atan2(place.x - middle[0], place.z - middle[2])

/**
 * A direction square to an axis, as near to the usual view as can be: the plane in which the pointer follows the axis.
 */
function squareTo(axis: Vector3): Vector3 {
  const view = new Vector3(0.52, 0.3, 0.8)
  const square = view.clone().sub(axis.clone().multiplyScalar(view.dot(axis)))
  return square.lengthSq() > 1e-6 ? square.normalize() : new Vector3(0, 1, 0)
}
