import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER } from './physics-engine.ts'
import type { Rulebook } from '../../game/schema.ts'
import { FIGURE_KILOGRAMS, STEP_SECONDS, type YardMeasures } from './measures.ts'
import type { MovingBodies } from './moving-bodies.ts'
import type { Place, YardInput } from './yard-frame.ts'

/** How far before its middle it looks for ground when it minds edges, in its own widths. */
const AHEAD_WIDTHS = 0.5
/** Where its rim is felt for ground, in its own widths from its middle, in eight directions. */
const RIM_WIDTHS = 0.4
const RIM: readonly Place[] = Array.from({ length: 8 }, (_, part) => {
  const angle = (part * Math.PI) / 4
  return [Math.cos(angle), 0, Math.sin(angle)]
})
/** Ground that lies deeper than so many stairs is an edge. */
const EDGE_STEPS = 1.5

/** The figure that walks, climbs stairs, is carried by what it stands on and gives way to what moves into it. */
export class Figure {
  readonly capsule: Physics.Collider
  private readonly body: Physics.RigidBody
  private readonly controller: Physics.KinematicCharacterController
  private readonly lift: number
  private falling = 0
  private on: Physics.Collider | null = null

  /** @param begin where its feet stand first */
  constructor(
    private readonly world: Physics.World,
    private readonly size: Rulebook['space']['figure'],
    private readonly measures: YardMeasures,
    begin: Place,
  ) {
    const radius = size.width / 2
    const half = Math.max(0.01, size.height / 2 - radius)
    this.lift = half + radius
    this.body = world.createRigidBody(
      RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(...this.middleOver(begin)),
    )
    this.capsule = world.createCollider(RAPIER.ColliderDesc.capsule(half, radius), this.body)
    this.controller = world.createCharacterController(measures.skin)
    this.controller.enableAutostep(size.stepHeight, radius * 0.4, true)
    this.controller.enableSnapToGround(size.stepHeight * 0.6)
    this.controller.setMaxSlopeClimbAngle((size.slopeDegrees * Math.PI) / 180)
    this.controller.setMinSlopeSlideAngle((size.slopeDegrees * Math.PI) / 180)
    this.controller.setApplyImpulsesToDynamicBodies(true)
    this.controller.setCharacterMass(FIGURE_KILOGRAMS)
  }

  /** Walks for one step, and goes along with what it stands on. @param ignored what it carries is not in its way */
  walk(
    { walk, mindsEdges }: YardInput,
    moving: readonly MovingBodies[],
    ignored: (collider: Physics.Collider) => boolean,
  ): void {
    const length = Math.max(1, Math.hypot(walk[0], walk[2]))
    const { walkSpeed, gravity, unitsPerMetre } = this.measures
    this.falling = this.controller.computedGrounded() ? 0 : this.falling + gravity * STEP_SECONDS
    // A rim that slips off an edge counts as falling already: who minds edges catches it.
    const footing = this.falling === 0 || mindsEdges === true ? this.footing(ignored) : null
    this.on = footing?.on ?? null
    const pace = (walkSpeed * STEP_SECONDS) / length
    const carried = this.on ? this.takenAlong(this.on, moving) : [0, 0, 0]
    // Who minds edges steps back where one has moved away under them, and halts before one.
    const back = mindsEdges === true ? (footing?.towards ?? null) : null
    const halts = mindsEdges === true && this.falling === 0 && this.isAtEdge(walk, ignored)
    // A little more than it falls, so that it feels the ground it stands on.
    const down = (this.falling + 0.25 * unitsPerMetre) * STEP_SECONDS
    const [x, , z] = back ?? (halts ? [0, 0, 0] : [walk[0] * pace, 0, walk[2] * pace])
    this.controller.computeColliderMovement(
      this.capsule,
      { x: x + carried[0], y: carried[1] - down, z: z + carried[2] },
      undefined,
      undefined,
      (collider) => !ignored(collider),
    )
    const [at, moved] = [this.body.translation(), this.controller.computedMovement()]
    this.body.setNextKinematicTranslation({ x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z })
  }

  /** After everything has moved: steps out of what has moved into it. */
  giveWay(moving: readonly MovingBodies[]): void {
    for (const bodies of moving) {
      const push = bodies.pushOn(this.capsule)
      if (!push) continue
      this.controller.computeColliderMovement(
        this.capsule,
        { x: push[0], y: push[1], z: push[2] },
        undefined,
        undefined,
        (collider) => !bodies.has(collider),
      )
      const [at, moved] = [this.body.translation(), this.controller.computedMovement()]
      this.body.setTranslation({ x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z }, true)
    }
  }

  /** Stands at another place at once. */
  standAt(feet: Place): void {
    const [x, y, z] = this.middleOver(feet)
    this.body.setTranslation({ x, y, z }, true)
    this.body.setNextKinematicTranslation({ x, y, z })
    this.falling = 0
    this.on = null
  }

  feet(): Place {
    const { x, y, z } = this.body.translation()
    return [x, y - this.lift, z]
  }

  eyes(): Place {
    const [x, y, z] = this.feet()
    return [x, y + this.size.eyeHeight, z]
  }

  /** What takes it along; null on what stands still, and in the air. */
  ridesOn(moving: readonly MovingBodies[]): Physics.Collider | null {
    const { on } = this
    return on && moving.some((bodies) => bodies.has(on)) ? on : null
  }

  /** What it touched in its last step. */
  *touched(): Generator<Physics.Collider> {
    for (let number = 0; number < this.controller.numComputedCollisions(); number++) {
      const collider = this.controller.computedCollision(number)?.collider
      if (collider) yield collider
    }
  }

  private middleOver([x, y, z]: Place): Place {
    return [x, y + this.lift + 2 * this.measures.skin, z]
  }

  /**
   * What it stands on; where nothing lies under its middle, what is under its rim and the step that leads there.
   * Null in the air.
   */
  private footing(
    ignored: (collider: Physics.Collider) => boolean,
  ): { on: Physics.Collider; towards: Place | null } | null {
    const depth = this.size.stepHeight * 0.6
    const under = this.below([0, 0, 0], depth, ignored)
    if (under) return { on: under, towards: null }
    const held = RIM.flatMap((direction) => {
      const [x, y, z] = direction.map((part) => part * this.size.width * RIM_WIDTHS)
      const on = this.below([x, y, z], depth, ignored)
      return on ? [{ on, direction }] : []
    })
    if (held.length === 0) return null
    const x = held.reduce((sum, { direction }) => sum + direction[0], 0)
    const z = held.reduce((sum, { direction }) => sum + direction[2], 0)
    const step = (this.measures.walkSpeed * STEP_SECONDS) / Math.max(Math.hypot(x, z), Number.EPSILON)
    return { on: held[0].on, towards: [x * step, 0, z * step] }
  }

  private takenAlong(on: Physics.Collider, moving: readonly MovingBodies[]): Place {
    return moving.find((bodies) => bodies.has(on))?.carry(on, this.feet()) ?? [0, 0, 0]
  }

  private isAtEdge(walk: Place, ignored: (collider: Physics.Collider) => boolean): boolean {
    const length = Math.hypot(walk[0], walk[2])
    if (length === 0) return false
    const reach = (this.size.width * AHEAD_WIDTHS) / length
    return this.below([walk[0] * reach, 0, walk[2] * reach], this.size.stepHeight * EDGE_STEPS, ignored) === null
  }

  /** What lies under a place beside its feet, from a stair above them to some depth below. */
  private below(
    [dx, , dz]: Place,
    depth: number,
    ignored: (collider: Physics.Collider) => boolean,
  ): Physics.Collider | null {
    const [x, y, z] = this.feet()
    const above = this.size.stepHeight
    const ray = new RAPIER.Ray({ x: x + dx, y: y + above, z: z + dz }, { x: 0, y: -1, z: 0 })
    const hit = this.world.castRay(
      ray,
      above + depth,
      true,
      undefined,
      undefined,
      this.capsule,
      undefined,
      (collider) => !ignored(collider),
    )
    return hit?.collider ?? null
  }
}
