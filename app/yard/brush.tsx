import { useThree } from '@react-three/fiber'
import { useEffect, useEffectEvent, useState } from 'react'
import { Mesh, Raycaster, Vector2, type Object3D } from 'three'
import { Spots } from './marks'

type Place = [number, number, number]

interface BrushProps {
  /** In game units; a new place is taken each half of it. */
  radius: number
  onStroke: (places: { part: string; point: Place }[]) => void
}

/**
 * Takes places on the item's parts while the pointer is pressed on them; a press beside the item turns the view as
 * ever.
 */
export function Brush({ radius, onStroke }: BrushProps) {
  const { gl, camera, scene, invalidate } = useThree()
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null
  const [stroke, setStroke] = useState<{ part: string; point: Place }[]>([])
  const ended = useEffectEvent((places: { part: string; point: Place }[]) => onStroke(places))
  useEffect(() => {
    const canvas = gl.domElement
    const caster = new Raycaster()
    let places: { part: string; point: Place }[] | null = null
    const hit = (event: PointerEvent): { part: string; point: Place } | null => {
      const box = canvas.getBoundingClientRect()
      caster.setFromCamera(
        new Vector2(((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2),
        camera,
      )
      const [first] = caster.intersectObjects(partsOf(scene), false)
      return first ? { part: String(first.object.userData['part']), point: first.point.toArray() } : null
    }
    const add = (event: PointerEvent): void => {
      const found = hit(event)
      if (!found || !places) return
      const last = places.at(-1)
      if (last && Math.hypot(...last.point.map((value, axis) => value - found.point[axis])) < radius / 2) return
      places.push(found)
      setStroke([...places])
      invalidate()
    }
    const down = (event: PointerEvent): void => {
      if (event.button !== 0 || !hit(event)) return
      places = []
      if (controls) controls.enabled = false
      canvas.setPointerCapture(event.pointerId)
      add(event)
    }
    const up = (): void => {
      if (controls) controls.enabled = true
      if (places && places.length > 0) ended(places)
      places = null
      setStroke([])
    }
    // Before the view's own listeners, so that a stroke does not turn it.
    canvas.addEventListener('pointerdown', down, true)
    canvas.addEventListener('pointermove', add)
    canvas.addEventListener('pointerup', up)
    canvas.addEventListener('pointercancel', up)
    return () => {
      canvas.removeEventListener('pointerdown', down, true)
      canvas.removeEventListener('pointermove', add)
      canvas.removeEventListener('pointerup', up)
      canvas.removeEventListener('pointercancel', up)
    }
  }, [gl, camera, scene, controls, radius, invalidate])
  return stroke.length > 0 ? <Spots places={stroke.map(({ point }) => point)} /> : null
}

function partsOf(scene: Object3D): Object3D[] {
  const found: Object3D[] = []
  scene.traverseVisible((object) => {
    if (object instanceof Mesh && typeof object.userData['part'] === 'string') found.push(object)
  })
  return found
}
