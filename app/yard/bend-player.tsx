import { useThree } from '@react-three/fiber'
import { useLayoutEffect, type RefObject } from 'react'
import { BufferAttribute, type Group } from 'three'
import { SLOTS } from '../../core/maths/bend'
import type { DrawnItem } from '../drawing/item-geometry'
import type { SceneData } from '../workers/scene-data'
import { heldShares, waysOf } from './bend-geometry'
import { useBend } from './bend-state'
import { drawCarried, drawHeld } from './draw-bend'

interface BendPlayerProps {
  scene: SceneData
  bend: NonNullable<SceneData['bend']>
  drawn: DrawnItem
  /** Holds the meshes; each says in `userData.moves` which part it is of. */
  model: RefObject<Group | null>
}

/** Bends an item's meshes as its bones are turned and pulled, and marks what the bone in hand holds. */
export function BendPlayer({ scene, bend, drawn, model }: BendPlayerProps) {
  const invalidate = useThree((state) => state.invalidate)
  const { bone, moves } = useBend()

  useLayoutEffect(() => {
    const began = performance.now()
    const ways = waysOf(bend, moves)
    drawHeld(scene, bend, drawn, ways)
    drawCarried(scene, bend, model.current, ways)
    performance.measure('bend shown', { start: began, end: performance.now() })
    invalidate()
  }, [bend, moves, scene, drawn, model, invalidate])

  useLayoutEffect(() => {
    const number = bend.bones.findIndex(({ name }) => name === bone)
    for (const held of bend.held)
      for (const { geometry, surface } of drawn.primitives.filter((primitive) => primitive.part === held.part)) {
        const corners = held.surfaces[surface]
        if (corners)
          geometry.setAttribute('held', new BufferAttribute(heldShares(corners, held.bones.indexOf(number), SLOTS), 1))
      }
    invalidate()
  }, [bend, bone, drawn, invalidate])
  return null
}
