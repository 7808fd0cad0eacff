import { OrbitControls } from '@react-three/drei'
import { useThree } from '@react-three/fiber'
import { useEffect, useRef, type ComponentRef } from 'react'
import { PerspectiveCamera, Spherical, Vector3 } from 'three'
import type { Framing } from './yard-settings'

interface CameraRigProps {
  framing: Framing
  /** Whether the view goes along with something: then it is not framed anew until that ends. */
  isLed: boolean
  /** The element that hears arrow keys, so that the view can be turned without a mouse. */
  keys: HTMLElement | null
}

const USUAL_DIRECTION = [0.52, 0.3, 0.8] as const
/** Height of the bars that lie over the top of the yard. */
const BARS_PIXELS = 56
/** Room for measures below what is tall, as a part of its height. */
const ROOM = 1.12
const TURN_STEP = Math.PI / 16

/** Turns round the item by mouse, touch and keys, and frames what it is told to. */
export function CameraRig({ framing, isLed, keys }: CameraRigProps) {
  const controls = useRef<ComponentRef<typeof OrbitControls>>(null)
  const camera = useThree((state) => state.camera)
  const invalidate = useThree((state) => state.invalidate)
  const get = useThree((state) => state.get)
  const isFramed = useRef(false)

  useEffect(() => {
    if (!(camera instanceof PerspectiveCamera) || (isLed && isFramed.current)) return
    isFramed.current = true
    const { size } = get()
    const low = new Vector3(...framing.min)
    const high = new Vector3(...framing.max)
    const centre = low.clone().add(high).multiplyScalar(0.5)
    const radius = Math.max(1e-5, high.distanceTo(low) / 2)
    const narrow = Math.min(1, size.width / size.height)
    const halfView = (camera.fov * Math.PI) / 360
    const free = Math.max(0.5, 1 - BARS_PIXELS / size.height)
    const tall = (ROOM * (high.y - low.y)) / 2 / free / Math.tan(halfView) + (high.z - low.z) / 2
    const ball = (radius * 0.9) / Math.sin(halfView) / narrow
    const distance = framing.from ? ball : Math.max(ball, tall)
    // What is as tall as the view stands in the middle of what no bar lies over.
    if (distance > ball) centre.y += (1 - free) * distance * Math.tan(halfView)
    camera.position
      .copy(centre)
      .add(new Vector3(...(framing.from ?? USUAL_DIRECTION)).normalize().multiplyScalar(distance))
    camera.near = distance / 200
    camera.far = distance * 30
    camera.updateProjectionMatrix()
    camera.lookAt(centre)
    controls.current?.target.copy(centre)
    controls.current?.update()
    invalidate()
  }, [framing, isLed, camera, invalidate, get])

  useEffect(() => {
    if (!keys) return
    const onKey = (event: KeyboardEvent): void => {
      const { current } = controls
      if (!current) return
      const offset = new Spherical().setFromVector3(camera.position.clone().sub(current.target))
      const turns: Record<string, () => void> = {
        ArrowLeft: () => (offset.theta -= TURN_STEP),
        ArrowRight: () => (offset.theta += TURN_STEP),
        ArrowUp: () => (offset.phi -= TURN_STEP),
        ArrowDown: () => (offset.phi += TURN_STEP),
        '+': () => (offset.radius *= 0.85),
        '-': () => (offset.radius /= 0.85),
      }
      const turn = turns[event.key]
      if (!turn) return
      event.preventDefault()
      turn()
      offset.makeSafe()
      camera.position.setFromSpherical(offset).add(current.target)
      current.update()
      invalidate()
    }
    keys.addEventListener('keydown', onKey)
    return () => keys.removeEventListener('keydown', onKey)
  }, [keys, camera, invalidate])

  return <OrbitControls ref={controls} makeDefault enableDamping={false} />
}
