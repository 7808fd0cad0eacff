import { useFrame } from '@react-three/fiber'
import { useMemo, useRef, type ReactNode } from 'react'
import type { Group } from 'three'
import type { SceneData } from '../workers/scene-data'
import { turnToViewer } from './turn-to-viewer'
import { boxOf } from './yard-framing'

/** Turns what it holds to who looks, as the game does with a thing of that kind; anything else stands as it is. */
export function TurnedToViewer({ scene, on, children }: { scene: SceneData; on: boolean; children: ReactNode }) {
  const group = useRef<Group>(null)
  const turns = on ? scene.turns : null
  const middle = useMemo(() => {
    const { min, max } = boxOf(scene)
    return [0, 1, 2].map((axis) => (min[axis] + max[axis]) / 2)
  }, [scene])
  useFrame(({ camera }) => {
    if (!group.current) return
    if (turns) group.current.matrix.copy(turnToViewer(turns, middle, camera.position.toArray()))
    else group.current.matrix.identity()
    group.current.matrixWorldNeedsUpdate = true
  })
  return (
    <group ref={group} matrixAutoUpdate={false}>
      {children}
    </group>
  )
}
