import { useThree } from '@react-three/fiber'
import { useLayoutEffect, type RefObject } from 'react'
import { BufferAttribute, Matrix4, type BufferGeometry, type Group } from 'three'
import { SLOTS } from '../../core/maths/bend'
import type { DrawnItem } from '../drawing/item-geometry'
import type { SceneData } from '../workers/scene-data'
import { bendSurface, heldShares, matricesOf, waysOf } from './bend-geometry'
import { useBend } from './bend-state'

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
    for (const held of bend.held) {
      const part = scene.parts.find(({ name }) => name === held.part)
      if (!part) continue
      const matrices = matricesOf(held, ways, part.matrix)
      for (const { geometry, surface } of drawn.primitives.filter((primitive) => primitive.part === held.part)) {
        const rest = part.primitives[surface]
        const corners = held.surfaces[surface]
        if (!corners || corners.weightOf.length !== (rest.positions.length / 3) * SLOTS) continue
        bendSurface(rest, corners, matrices, {
          positions: own(geometry, 'position', rest.positions),
          normals: rest.normals && own(geometry, 'normal', rest.normals),
        })
        geometry.computeBoundingSphere()
      }
    }
    const carried = new Map(bend.carried.map((each) => [each.part, ways[each.bone]]))
    for (const mesh of model.current?.children ?? []) {
      const name = mesh.userData['moves'] as string | undefined
      const way = name === undefined ? undefined : carried.get(name)
      const part = scene.parts.find((each) => each.name === name)
      if (!way || !part) continue
      mesh.matrix.fromArray(way).multiply(new Matrix4().fromArray(part.matrix))
      mesh.matrixWorldNeedsUpdate = true
    }
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

/** The geometry's own copy of an array that the scene keeps as it is at rest, about to be written over. */
function own(geometry: BufferGeometry, name: 'position' | 'normal', rest: Float32Array): Float32Array {
  const attribute = geometry.getAttribute(name) as BufferAttribute
  if (attribute.array === rest) geometry.setAttribute(name, new BufferAttribute(rest.slice(), 3))
  const made = geometry.getAttribute(name) as BufferAttribute
  made.needsUpdate = true
  return made.array as Float32Array
}
