import { Line } from '@react-three/drei'
import { useEffect, useMemo, useState } from 'react'
import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  DoubleSide,
  Matrix4,
  MeshBasicMaterial,
  SRGBColorSpace,
  Vector3,
} from 'three'
import type { PlacedDecal } from '../workers/map-messages'
import { DragKnob, useDrag, type Place } from './drag-knob'

/** How far a placement is moved, drawn out and turned. */
export interface FrameChange {
  right: number
  up: number
  width: number
  turnDegrees: number
}

interface DecalFrameProps {
  placed: PlacedDecal
  onChange: (change: FrameChange) => void
}

const still: FrameChange = { right: 0, up: 0, width: 1, turnDegrees: 0 }
const dot = (a: Vector3, b: readonly number[]): number => a.x * b[0] + a.y * b[1] + a.z * b[2]
const sum = (a: readonly number[], ...steps: [readonly number[], number][]): Place =>
  [0, 1, 2].map((axis) =>
    steps.reduce((value, [direction, length]) => value + direction[axis] * length, a[axis]),
  ) as unknown as Place

/**
 * A picture as it lies on its surface, in a frame that moves, turns and sizes it. The change counts when it is let go.
 */
export function DecalFrame({ placed, onChange }: DecalFrameProps) {
  const { plane } = placed
  const [change, setChange] = useState(still)
  useEffect(() => setChange(still), [placed])
  const [width, height] = [plane.width * change.width, plane.height * change.width]
  const middle = sum(plane.middle, [plane.right, change.right], [plane.up, change.up])
  const angle = (change.turnDegrees * Math.PI) / 180
  const right = sum([0, 0, 0], [plane.right, Math.cos(angle)], [plane.up, Math.sin(angle)])
  const up = sum([0, 0, 0], [plane.right, -Math.sin(angle)], [plane.up, Math.cos(angle)])
  const corner = (across: number, along: number): Place =>
    sum(middle, [right, (across * width) / 2], [up, (along * height) / 2])
  const through = plane.middle as Place
  const normal = plane.outward as Place
  const settle = (next: FrameChange, done: boolean): void => {
    setChange(next)
    if (done) onChange(next)
  }
  const body = useDrag({
    through,
    normal,
    onDrag: (to, from, done) =>
      settle(
        { ...still, right: dot(to, plane.right) - dot(from, plane.right), up: dot(to, plane.up) - dot(from, plane.up) },
        done,
      ),
  })
  const size = (to: Vector3, from: Vector3, done: boolean): void => {
    const reach = (place: Vector3): number =>
      Math.hypot(
        dot(place, plane.right) - dotPlace(plane.middle, plane.right),
        dot(place, plane.up) - dotPlace(plane.middle, plane.up),
      )
    settle({ ...still, width: Math.min(20, Math.max(0.05, reach(to) / Math.max(1e-6, reach(from)))) }, done)
  }
  const turn = (to: Vector3, _from: Vector3, done: boolean): void => {
    const [x, y] = [
      dot(to, plane.right) - dotPlace(plane.middle, plane.right),
      dot(to, plane.up) - dotPlace(plane.middle, plane.up),
    ]
    settle({ ...still, turnDegrees: Math.round((Math.atan2(-x, y) * 180) / Math.PI) }, done)
  }
  const knobUp = sum(middle, [up, height / 2 + plane.width * 0.16])
  const outline = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1), corner(-1, -1)]
  // Laid out once about its middle; moving, turning and sizing are its matrix.
  const quad = useMemo(() => quadOf(unturnedCorners(plane)), [plane])
  const matrix = new Matrix4()
    .makeTranslation(middle[0], middle[1], middle[2])
    .multiply(new Matrix4().makeRotationAxis(new Vector3(...plane.outward), angle))
    .multiply(new Matrix4().makeScale(change.width, change.width, change.width))
  useEffect(() => () => quad.dispose(), [quad])
  return (
    <>
      <DecalPatch placed={placed} faint={change !== still} />
      <mesh geometry={quad} matrix={matrix} matrixAutoUpdate={false} renderOrder={18} {...body}>
        <meshBasicMaterial color={0xc8a572} transparent opacity={0.18} side={DoubleSide} depthTest={false} />
      </mesh>
      <Line
        points={outline.map((place) => [...place] as [number, number, number])}
        color={0x1d5a4c}
        lineWidth={2}
        depthTest={false}
        renderOrder={19}
      />
      <Line
        points={[[...corner(0, 1)] as [number, number, number], [...knobUp] as [number, number, number]]}
        color={0x1d5a4c}
        lineWidth={1.5}
        depthTest={false}
        renderOrder={19}
      />
      <DragKnob at={corner(1, 1)} through={through} normal={normal} onDrag={size} />
      <DragKnob at={corner(-1, -1)} through={through} normal={normal} onDrag={size} />
      <DragKnob at={knobUp} colour={0xc8a572} through={through} normal={normal} onDrag={turn} />
    </>
  )
}

/** A placement's corners about its own middle. */
const unturnedCorners = ({ right, up, width, height }: PlacedDecal['plane']): Place[] =>
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([across, along]) => sum([0, 0, 0], [right, (across * width) / 2], [up, (along * height) / 2]))

/** The two triangles of a frame, from its corners in order. */
function quadOf([a, b, c, d]: readonly Place[]): BufferGeometry {
  return new BufferGeometry().setAttribute(
    'position',
    new BufferAttribute(Float32Array.from([a, b, c, a, c, d].flat()), 3),
  )
}

const dotPlace = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/** The triangles that the picture covers, with the picture on them. */
function DecalPatch({ placed, faint }: { placed: PlacedDecal; faint: boolean }) {
  const geometry = useMemo(() => {
    const made = new BufferGeometry()
    made.setAttribute('position', new BufferAttribute(placed.positions, 3))
    made.setAttribute('uv', new BufferAttribute(placed.uvs, 2))
    return made
  }, [placed])
  const material = useMemo(() => {
    const { width, height, data } = placed.picture
    const texture = new DataTexture(data, width, height)
    texture.colorSpace = SRGBColorSpace
    texture.needsUpdate = true
    return new MeshBasicMaterial({
      map: texture,
      transparent: true,
      side: DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: -2,
      polygonOffsetUnits: -2,
    })
  }, [placed])
  useEffect(
    () => () => {
      geometry.dispose()
      material.map?.dispose()
      material.dispose()
    },
    [geometry, material],
  )
  material.opacity = faint ? 0.35 : 1
  return <mesh geometry={geometry} material={material} renderOrder={17} />
}
