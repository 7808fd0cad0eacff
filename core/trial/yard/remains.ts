import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER } from './physics-engine.ts'
import type { YardFrame } from './yard-frame.ts'

const PIECES = 5

/** What broke, and the pieces that lie where it stood. */
export class Remains {
  readonly pieces: { id: number; body: Physics.RigidBody }[] = []
  readonly broken: YardFrame['broken'] = []

  constructor(
    private readonly world: Physics.World,
    private readonly unitsPerMetre: number,
  ) {}

  /** Lays down what the game leaves of a thing. */
  leave(item: string, remains: string, at: { x: number; y: number; z: number }, nextId: () => number): void {
    this.broken.push({ item, remains })
    if (remains === 'nothing') return
    const metre = this.unitsPerMetre
    for (let piece = 0; piece < PIECES; piece++) {
      const angle = piece * 1.26
      const [x, z] = [at.x + Math.cos(angle) * 0.35 * metre, at.z + Math.sin(angle) * 0.35 * metre]
      const body = this.world.createRigidBody(
        RAPIER.RigidBodyDesc.dynamic().setTranslation(x, at.y + (0.2 + piece * 0.15) * metre, z),
      )
      this.world.createCollider(RAPIER.ColliderDesc.cuboid(0.25 * metre, 0.04 * metre, 0.07 * metre).setMass(0.8), body)
      this.pieces.push({ id: nextId(), body })
    }
  }
}
