import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, type RefObject } from 'react'
import { Matrix4, type Group } from 'three'
import type { SceneData } from '../workers/scene-data'
import { framesAt } from './motion-frames'
import { useMotion } from './motion-state'

interface MotionPlayerProps {
  scene: SceneData
  /** Holds the meshes; each says in `userData.moves` which part it is of. */
  model: RefObject<Group | null>
  /** Whether time goes on by it: of two items beside each other one does. */
  leads: boolean
}

/** Moves an item’s meshes as its clips do, to where the slider stands or on and on. */
export function MotionPlayer({ scene, model, leads }: MotionPlayerProps) {
  const invalidate = useThree((state) => state.invalidate)
  useEffect(() => useMotion.subscribe(() => invalidate()), [invalidate])

  useFrame((_, delta) => {
    const { motion } = scene
    const { at, runs, led } = useMotion.getState()
    if (!motion) return
    if (led) return follow(model.current, led)
    // A page that was away a while goes on where it was.
    const seconds = at === null ? null : runs && leads ? (at + Math.min(delta, 0.1)) % motion.seconds : at
    if (runs && leads && seconds !== null) useMotion.setState({ at: seconds })
    // What is shorter has begun again by then.
    place(model.current, scene, seconds !== null && seconds > motion.seconds ? seconds % motion.seconds : seconds)
  })
  return null
}

const way = new Matrix4()
const next = new Matrix4()

/** Puts meshes where something else has them. */
function follow(model: Group | null, led: ReadonlyMap<string, ArrayLike<number>>): void {
  for (const mesh of model?.children ?? []) {
    const matrix = led.get(mesh.userData['moves'] as string)
    if (!matrix) continue
    mesh.matrix.fromArray(matrix)
    mesh.matrixWorldNeedsUpdate = true
  }
}

function place(model: Group | null, { motion, parts }: SceneData, seconds: number | null): void {
  if (!model || !motion) return
  const [frame, share] = framesAt(motion, seconds ?? 0)
  const moving = new Map(motion.parts.map((part) => [part.name, part.matrices]))
  for (const mesh of model.children) {
    const name = mesh.userData['moves'] as string | undefined
    const matrices = name === undefined ? undefined : moving.get(name)
    if (!matrices) continue
    if (seconds === null) way.fromArray(parts.find((part) => part.name === name)?.matrix ?? [])
    else {
      way.fromArray(matrices, frame * 16)
      next.fromArray(matrices, Math.min(motion.frames - 1, frame + 1) * 16)
      // Frames are so near each other that what lies between is straight.
      for (let number = 0; number < 16; number++)
        way.elements[number] += (next.elements[number] - way.elements[number]) * share
    }
    if (mesh.matrix.equals(way)) continue
    mesh.matrix.copy(way)
    mesh.matrixWorldNeedsUpdate = true
  }
}
