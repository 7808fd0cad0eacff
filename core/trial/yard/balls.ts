import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER } from './physics-engine.ts'
import { BALL_KILOGRAMS, MOST_BALLS, type YardMeasures } from './measures.ts'
import type { Place } from './yard-frame.ts'

/** Balls that the figure has thrown; the oldest goes when there are too many. */
export class Balls {
  readonly thrown: { id: number; body: Physics.RigidBody }[] = []

  constructor(
    private readonly world: Physics.World,
    private readonly measures: YardMeasures,
    private readonly figureWidth: number,
  ) {}

  /** Throws one from the eyes, ahead of the figure. */
  throw(eyes: Place, look: Place, id: number): void {
    const { ballRadius, ballSpeed, unitsPerMetre } = this.measures
    const before = this.figureWidth / 2 + ballRadius + 0.05 * unitsPerMetre
    const start = eyes.map((value, axis) => value + look[axis] * before) as Place
    const body = this.world.createRigidBody(
      RAPIER.RigidBodyDesc.dynamic()
        .setTranslation(...start)
        .setLinvel(look[0] * ballSpeed, look[1] * ballSpeed, look[2] * ballSpeed)
        .setCcdEnabled(true),
    )
    this.world.createCollider(
      RAPIER.ColliderDesc.ball(ballRadius).setMass(BALL_KILOGRAMS).setRestitution(0.6).setFriction(0.5),
      body,
    )
    this.thrown.push({ id, body })
    const oldest = this.thrown.length > MOST_BALLS ? this.thrown.shift() : undefined
    if (oldest) this.world.removeRigidBody(oldest.body)
  }

  has(body: Physics.RigidBody): boolean {
    return this.thrown.some((ball) => ball.body.handle === body.handle)
  }
}
