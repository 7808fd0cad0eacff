import { RAPIER, startPhysics } from './yard/physics-engine.ts'
import type { Rulebook } from '../game/schema.ts'
import type { LoadedSolid } from './check-solids.ts'
import { colliderOf } from './yard/colliders.ts'

export type Point = [number, number, number]

/**
 * Sends a capsule of the reference figure's size straight from one place to another through the solids.
 * @param from where its feet begin, in game units
 * @param to where its feet should end
 * @returns where its feet got to, and whether that is within a step of `to`
 */
export async function walkFigure(
  solids: readonly LoadedSolid[],
  rulebook: Rulebook,
  from: Point,
  to: Point,
): Promise<{ arrived: boolean; feet: Point }> {
  await startPhysics()
  const { figure } = rulebook.space
  const world = new RAPIER.World({ x: 0, y: 0, z: 0 })
  try {
    for (const solid of solids) {
      const description = colliderOf(solid, rulebook)
      if (description) world.createCollider(description)
    }
    const radius = figure.width / 2
    const half = Math.max(0.01, figure.height / 2 - radius)
    const lift = half + radius + 0.02
    const body = world.createRigidBody(
      RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(from[0], from[1] + lift, from[2]),
    )
    const capsule = world.createCollider(RAPIER.ColliderDesc.capsule(half, radius), body)
    const controller = world.createCharacterController(0.01)
    world.step()
    const steps = 240
    for (let step = 0; step < steps; step++) {
      const at = body.translation()
      const left = steps - step
      const wanted = { x: (to[0] - at.x) / left, y: (to[1] + lift - at.y) / left, z: (to[2] - at.z) / left }
      controller.computeColliderMovement(capsule, wanted)
      const moved = controller.computedMovement()
      body.setNextKinematicTranslation({ x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z })
      world.step()
    }
    const end = body.translation()
    const feet: Point = [end.x, end.y - lift, end.z]
    return { arrived: Math.hypot(feet[0] - to[0], feet[1] - to[1], feet[2] - to[2]) < figure.stepHeight, feet }
  } finally {
    world.free()
  }
}
