import { useThree } from '@react-three/fiber'
import { useEffect, type RefObject } from 'react'
import { Vector3 } from 'three'
import type { SceneData } from '../workers/scene-data'

/** A rectangle of the picture, each side as a share from the upper left. */
export interface Area {
  left: number
  top: number
  right: number
  bottom: number
}

/** Hands out a function that tells which parts have their middle in an area of the picture. */
export function AreaPicker({
  scene,
  picker,
}: {
  scene: SceneData
  picker: RefObject<((area: Area) => string[]) | null>
}) {
  const camera = useThree((state) => state.camera)
  useEffect(() => {
    const pick = (area: Area): string[] =>
      scene.parts
        .filter((part) => part.role === 'part')
        .filter(({ bounds }) => {
          const middle = new Vector3(...[0, 1, 2].map((axis) => (bounds.min[axis] + bounds.max[axis]) / 2)).project(
            camera,
          )
          const [x, y] = [(middle.x + 1) / 2, (1 - middle.y) / 2]
          return middle.z < 1 && x >= area.left && x <= area.right && y >= area.top && y <= area.bottom
        })
        .map((part) => part.name)
    picker.current = pick
    return () => {
      if (picker.current === pick) picker.current = null
    }
  }, [scene, camera, picker])
  return null
}
