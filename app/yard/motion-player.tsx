import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef, type RefObject } from 'react'
import { Matrix4, type Group } from 'three'
import type { DrawnItem } from '../drawing/item-geometry'
import type { SceneData } from '../workers/scene-data'
import { waysOf } from './bend-geometry'
import { useBend } from './bend-state'
import { drawHeld } from './draw-bend'
import { matrixAt } from './motion-frames'
import { useMotion } from './motion-state'

interface MotionPlayerProps {
  scene: SceneData
  drawn: DrawnItem
  /** Holds the meshes; each says in `userData.moves` which part it is of. */
  model: RefObject<Group | null>
  /** Whether time goes on by it: of two items beside each other one does. */
  leads: boolean
}

/** Moves an item’s meshes, and what bones hold, as its clips do, to where the slider stands or on and on. */
export function MotionPlayer({ scene, drawn, model, leads }: MotionPlayerProps) {
  const invalidate = useThree((state) => state.invalidate)
  /** What bones hold was drawn last of this, at this moment; null at rest, where hands may bend it. */
  const held = useRef<{ drawn: DrawnItem; moment: number | null }>({ drawn, moment: null })
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
    const moment = seconds !== null && seconds > motion.seconds ? seconds % motion.seconds : seconds
    place(model.current, scene, moment)
    const isNew = moment !== held.current.moment || (moment !== null && drawn !== held.current.drawn)
    if (scene.bend && isNew) {
      const ways =
        moment === null
          ? waysOf(scene.bend, useBend.getState().moves)
          : motion.bones.map(({ matrices }) => matrixAt(motion, matrices, moment, new Array<number>(16)))
      drawHeld(scene, scene.bend, drawn, ways)
      held.current = { drawn, moment }
    }
  })
  return null
}

const way = new Matrix4()

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
  const moving = new Map(motion.parts.map((part) => [part.name, part.matrices]))
  for (const mesh of model.children) {
    const name = mesh.userData['moves'] as string | undefined
    const matrices = name === undefined ? undefined : moving.get(name)
    if (!matrices) continue
    if (seconds === null) way.fromArray(parts.find((part) => part.name === name)?.matrix ?? [])
    else matrixAt(motion, matrices, seconds, way.elements)
    if (mesh.matrix.equals(way)) continue
    mesh.matrix.copy(way)
    mesh.matrixWorldNeedsUpdate = true
  }
}
