import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber'
import { useMemo, useRef } from 'react'
import { Plane, Vector3, type Group } from 'three'

export type Place = readonly [number, number, number]

interface DragAreaProps {
  /** The plane in which the pointer is followed: a point of it and its normal. */
  through: Place
  normal: Place
  /** Told of each place the pointer comes to, from where it began, and at last that it was let go. */
  onDrag: (to: Vector3, from: Vector3, done: boolean) => void
}

/** What a mesh needs to be dragged in a plane; the view stands still meanwhile. */
export function useDrag({ through, normal, onDrag }: DragAreaProps) {
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null
  const invalidate = useThree((state) => state.invalidate)
  const began = useRef<Vector3 | null>(null)
  const placeOf = (event: ThreeEvent<PointerEvent>): Vector3 | null => {
    const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(...normal).normalize(), new Vector3(...through))
    return event.ray.intersectPlane(plane, new Vector3())
  }
  return {
    onPointerDown: (event: ThreeEvent<PointerEvent>): void => {
      event.stopPropagation()
      ;(event.target as unknown as Element).setPointerCapture(event.pointerId)
      if (controls) controls.enabled = false
      began.current = placeOf(event)
    },
    onPointerMove: (event: ThreeEvent<PointerEvent>): void => {
      const to = began.current && placeOf(event)
      if (!began.current || !to) return
      event.stopPropagation()
      onDrag(to, began.current, false)
      invalidate()
    },
    onPointerUp: (event: ThreeEvent<PointerEvent>): void => {
      const from = began.current
      began.current = null
      ;(event.target as unknown as Element).releasePointerCapture(event.pointerId)
      if (controls) controls.enabled = true
      const to = from && placeOf(event)
      if (from && to) onDrag(to, from, true)
      invalidate()
    },
  }
}

const KNOB_PIXELS = 9

/** A knob of one size on the screen, however far it is. Solid ones move, ringed ones size, hollow ones turn. */
export function DragKnob({ at, colour = 0x1d5a4c, ...drag }: DragAreaProps & { at: Place; colour?: number }) {
  const group = useRef<Group>(null)
  const handlers = useDrag(drag)
  const position = useMemo(() => new Vector3(...at), [at])
  useFrame(({ camera, size }) => {
    const distance = camera.position.distanceTo(position)
    const fov = 'fov' in camera ? (camera.fov as number) : 35
    group.current?.scale.setScalar((2 * Math.tan((fov * Math.PI) / 360) * distance * KNOB_PIXELS) / size.height)
  })
  return (
    <group ref={group} position={position}>
      <mesh renderOrder={21} {...handlers}>
        <sphereGeometry args={[0.8, 16, 12]} />
        <meshBasicMaterial color={colour} depthTest={false} transparent />
      </mesh>
      <mesh renderOrder={20} {...handlers}>
        <sphereGeometry args={[1.15, 16, 12]} />
        <meshBasicMaterial color={0xfbf8f1} depthTest={false} transparent />
      </mesh>
    </group>
  )
}
