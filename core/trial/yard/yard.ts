import RAPIER from '@dimforge/rapier3d-compat'
import type { Rulebook } from '../../rulebook/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { YardAction } from './actions.ts'
import { colliderOf, gravityOf, groundAt, lowestOf, middleOf, startPhysics, STEP_SECONDS, upOf } from './colliders.ts'

export type Place = [number, number, number]
export type Turn = [number, number, number, number]

/** One thing in the yard. */
export interface YardItem {
  name: string
  solids: readonly LoadedSolid[]
  /** Whether it moves when it is pushed. */
  loose: boolean
  /** The stock thing whose toughness it has; by its surface kind when it names none. */
  like?: string
}

/** What the figure is told to do in one step. */
export interface YardInput {
  /** Along the ground, in the scene; longer than 1 counts as 1. */
  walk: Place
  /** Where it looks: a direction for hands, throws and blows. */
  look: Place
  actions: readonly YardAction[]
}

/** Something that moves, and how it is put from where it was loaded: turned about `pivot`, then moved so that the pivot comes to `place`. */
export interface MovedThing {
  id: number
  item: string
  pivot: Place
  place: Place
  turn: Turn
}

/** What the yard looks like after a step. */
export interface YardFrame {
  seconds: number
  feet: Place
  /** On what it stands or against what it walks; null in the air or on the ground. */
  touches: { solid: string; surface: string } | null
  moved: MovedThing[]
  balls: { id: number; place: Place }[]
  /** What the game would leave of a broken thing. */
  remains: { id: number; place: Place; turn: Turn }[]
  broken: { item: string; remains: string }[]
  /** Things that knocked together in this step: how loudly, 0 to 1, and of what. */
  knocks: { surface: string; loudness: number }[]
  carries: string | null
}

interface Thing {
  id: number
  item: YardItem
  body: RAPIER.RigidBody
  pivot: Place
  toughness: number
  remains: string
}

const WALK_SPEED = 9
const REACH = 3.2
const BALL_RADIUS = 0.28
const BALL_KILOGRAMS = 0.6
const BALL_SPEED = 34
const THROW_SPEED = 12
const HIT = 10
const MOST_THINGS = 60
const MOST_BALLS = 12
/** A figure lifts no more than this. */
const MOST_LIFTED_KILOGRAMS = 60

/** The place where loaded things are tried: a figure that walks, pushes, carries, throws and hits. Same input, same course. */
export class Yard {
  private readonly world: RAPIER.World
  private readonly things: Thing[] = []
  private readonly owner = new Map<number, { solid: LoadedSolid; thing: Thing | null }>()
  private balls: { id: number; body: RAPIER.RigidBody }[] = []
  private pieces: { id: number; body: RAPIER.RigidBody }[] = []
  private readonly broken: YardFrame['broken'] = []
  private readonly figure: RAPIER.RigidBody
  private readonly capsule: RAPIER.Collider
  private readonly controller: RAPIER.KinematicCharacterController
  private readonly up: Place
  private readonly lift: number
  private readonly events = new RAPIER.EventQueue(true)
  private carried: Thing | null = null
  private falling = 0
  private steps = 0
  private nextId = 1

  private constructor(private readonly items: readonly YardItem[], private readonly rulebook: Rulebook, feet: Place) {
    const { figure } = rulebook.space
    this.up = upOf(rulebook)
    this.world = new RAPIER.World(gravityOf(rulebook))
    this.world.timestep = STEP_SECONDS
    const fixed = items.filter((item) => !item.loose).flatMap((item) => [...item.solids])
    this.world.createCollider(groundAt(rulebook, Math.min(0, fixed.length > 0 ? Math.max(-1e3, lowestOf(fixed, this.up)) : 0)))
    for (const item of items) this.put(item, 0)
    const radius = figure.width / 2
    const half = Math.max(0.01, figure.height / 2 - radius)
    this.lift = half + radius
    this.figure = this.world.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(...this.raised(feet, this.lift + 0.02)))
    this.capsule = this.world.createCollider(RAPIER.ColliderDesc.capsule(half, radius).setRotation(standing(this.up)), this.figure)
    this.controller = this.world.createCharacterController(0.01)
    this.controller.setUp({ x: this.up[0], y: this.up[1], z: this.up[2] })
    this.controller.enableAutostep(figure.stepHeight, radius * 0.4, true)
    this.controller.enableSnapToGround(figure.stepHeight * 0.6)
    this.controller.setMaxSlopeClimbAngle((figure.slopeDegrees * Math.PI) / 180)
    this.controller.setMinSlopeSlideAngle((figure.slopeDegrees * Math.PI) / 180)
    this.controller.setApplyImpulsesToDynamicBodies(true)
    this.controller.setCharacterMass(70)
    this.world.step(this.events)
  }

  /** Sets things and the figure up. @param feet where it begins */
  static async open(items: readonly YardItem[], rulebook: Rulebook, feet: Place): Promise<Yard> {
    await startPhysics()
    return new Yard(items, rulebook, feet)
  }

  /** One sixtieth of a second. */
  step(input: YardInput): YardFrame {
    for (const action of input.actions) this.act(action, input)
    this.walk(input)
    if (this.carried) this.hold(this.carried, input)
    this.world.step(this.events)
    this.steps++
    return this.frame(this.knocks())
  }

  /** Gives the engine's memory back. */
  close(): void {
    this.events.free()
    this.world.free()
  }

  private raised([x, y, z]: Place, by: number): Place {
    return [x + this.up[0] * by, y + this.up[1] * by, z + this.up[2] * by]
  }

  private put(item: YardItem, lift: number): void {
    const pivot = middleOf(item.solids)
    const description = item.loose ? RAPIER.RigidBodyDesc.dynamic() : RAPIER.RigidBodyDesc.fixed()
    const body = this.world.createRigidBody(description.setTranslation(...this.raised(pivot, lift)))
    const donor = this.donorOf(item)
    const thing: Thing = { id: this.nextId++, item, body, pivot, toughness: donor?.toughness ?? Infinity, remains: donor?.remains ?? 'nothing' }
    for (const solid of item.solids) {
      const collider = colliderOf(solid, this.rulebook, pivot)
      if (!collider) continue
      if (item.loose) collider.setMass(Math.max(0.01, solid.massKilograms ?? 1))
      const made = this.world.createCollider(collider.setActiveEvents(RAPIER.ActiveEvents.CONTACT_FORCE_EVENTS).setContactForceEventThreshold(60), body)
      this.owner.set(made.handle, { solid, thing })
    }
    this.things.push(thing)
  }

  /** The stock thing that it behaves like: the one it names, else the first of its surface kind. */
  private donorOf({ like, solids }: YardItem) {
    const { donors } = this.rulebook.stock
    return donors.find(({ id }) => id === like) ?? donors.find(({ surface }) => surface === solids[0]?.surface)
  }

  private walk({ walk }: YardInput): void {
    const flat = walk.map((value, axis) => value * (1 - Math.abs(this.up[axis])))
    const length = Math.max(1, Math.hypot(...flat))
    const gravity = gravityOf(this.rulebook)
    this.falling = this.controller.computedGrounded() ? 0 : this.falling + Math.hypot(gravity.x, gravity.y, gravity.z) * STEP_SECONDS
    const down = (this.falling + 0.5) * STEP_SECONDS
    const wanted = flat.map((value, axis) => (value / length) * WALK_SPEED * STEP_SECONDS - this.up[axis] * down)
    this.controller.computeColliderMovement(this.capsule, { x: wanted[0], y: wanted[1], z: wanted[2] }, undefined, undefined, (collider) => !this.isCarried(collider))
    const [at, moved] = [this.figure.translation(), this.controller.computedMovement()]
    this.figure.setNextKinematicTranslation({ x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z })
  }

  private isCarried(collider: RAPIER.Collider): boolean {
    return this.carried !== null && this.owner.get(collider.handle)?.thing === this.carried
  }

  private eyes(): Place {
    const { x, y, z } = this.figure.translation()
    return this.raised([x, y, z], this.rulebook.space.figure.eyeHeight - this.lift)
  }

  private act(action: YardAction, { look }: YardInput): void {
    if (action === 'ball') return this.throwBall(look)
    if (action === 'hit') return this.hit(look)
    if (action === 'drop-another') {
      const loose = this.items.find((item) => item.loose)
      if (loose && this.things.length < MOST_THINGS) this.put(loose, this.rulebook.space.figure.height + 1)
      return
    }
    if (this.carried) this.letGo(action === 'throw' ? look : null)
    else if (action === 'take') this.take(look)
  }

  private throwBall(look: Place): void {
    const eyes = this.eyes()
    const start = eyes.map((value, axis) => value + look[axis] * (this.rulebook.space.figure.width / 2 + BALL_RADIUS + 0.1)) as Place
    const body = this.world.createRigidBody(RAPIER.RigidBodyDesc.dynamic().setTranslation(...start).setLinvel(look[0] * BALL_SPEED, look[1] * BALL_SPEED, look[2] * BALL_SPEED).setCcdEnabled(true))
    this.world.createCollider(RAPIER.ColliderDesc.ball(BALL_RADIUS).setMass(BALL_KILOGRAMS).setRestitution(0.6).setFriction(0.5), body)
    this.balls.push({ id: this.nextId++, body })
    if (this.balls.length > MOST_BALLS) this.world.removeRigidBody((this.balls.shift() as { body: RAPIER.RigidBody }).body)
  }

  private hit(look: Place): void {
    const thing = this.pointedAt(look)
    if (!thing) return
    thing.toughness -= HIT
    if (thing.item.loose) thing.body.applyImpulse({ x: look[0] * 40, y: look[1] * 40, z: look[2] * 40 }, true)
    if (thing.toughness <= 0) this.breakApart(thing)
  }

  private pointedAt(look: Place): Thing | null {
    const eyes = this.eyes()
    for (const drop of [0, 0.35, 0.7]) {
      const way = look.map((value, axis) => value - this.up[axis] * drop)
      const ray = new RAPIER.Ray({ x: eyes[0], y: eyes[1], z: eyes[2] }, { x: way[0], y: way[1], z: way[2] })
      const hit = this.world.castRay(ray, REACH, true, undefined, undefined, this.capsule)
      const thing = hit ? this.owner.get(hit.collider.handle)?.thing : null
      if (thing) return thing
    }
    return null
  }

  /** It is gone, and what the game leaves lies where it stood. */
  private breakApart(thing: Thing): void {
    const at = thing.body.translation()
    if (this.carried === thing) this.carried = null
    this.broken.push({ item: thing.item.name, remains: thing.remains })
    this.things.splice(this.things.indexOf(thing), 1)
    this.world.removeRigidBody(thing.body)
    if (thing.remains === 'nothing') return
    for (let piece = 0; piece < 5; piece++) {
      const place = this.raised([at.x + Math.cos(piece * 1.26) * 0.7 * (1 - Math.abs(this.up[0])), at.y + Math.cos(piece * 1.26) * 0.7 * (1 - Math.abs(this.up[1])), at.z + Math.sin(piece * 1.26) * 0.7 * (1 - Math.abs(this.up[2]))], 0.4 + piece * 0.3)
      const body = this.world.createRigidBody(RAPIER.RigidBodyDesc.dynamic().setTranslation(...place))
      this.world.createCollider(RAPIER.ColliderDesc.cuboid(0.5, 0.08, 0.14).setMass(0.8), body)
      this.pieces.push({ id: this.nextId++, body })
    }
  }

  private take(look: Place): void {
    const thing = this.pointedAt(look)
    if (!thing?.item.loose || thing.body.mass() > MOST_LIFTED_KILOGRAMS || !thing.item.solids.some(({ layers }) => layers.includes('loose') || layers.includes('reach'))) return
    this.carried = thing
    thing.body.setBodyType(RAPIER.RigidBodyType.KinematicPositionBased, true)
  }

  private hold(thing: Thing, { look }: YardInput): void {
    const eyes = this.eyes()
    const flat = look.map((value, axis) => value * (1 - Math.abs(this.up[axis])))
    const length = Math.hypot(...flat) || 1
    const reach = this.rulebook.space.figure.width / 2 + extentOf(thing.item.solids) + 0.15
    const place = this.raised(eyes.map((value, axis) => value + (flat[axis] / length) * reach) as Place, -0.9)
    thing.body.setNextKinematicTranslation({ x: place[0], y: place[1], z: place[2] })
    thing.body.setNextKinematicRotation({ x: 0, y: 0, z: 0, w: 1 })
  }

  private letGo(look: Place | null): void {
    const thing = this.carried
    this.carried = null
    if (!thing) return
    thing.body.setBodyType(RAPIER.RigidBodyType.Dynamic, true)
    if (look) thing.body.setLinvel({ x: look[0] * THROW_SPEED, y: look[1] * THROW_SPEED, z: look[2] * THROW_SPEED }, true)
    else thing.body.setLinvel({ x: 0, y: 0, z: 0 }, true)
  }

  private knocks(): YardFrame['knocks'] {
    const found: YardFrame['knocks'] = []
    this.events.drainContactForceEvents((event) => {
      const known = this.owner.get(event.collider1()) ?? this.owner.get(event.collider2())
      if (known && found.length < 4) found.push({ surface: known.solid.surface, loudness: Math.min(1, event.totalForceMagnitude() / 4000) })
    })
    this.events.drainCollisionEvents(() => undefined)
    return found
  }

  private touches(): YardFrame['touches'] {
    for (let number = 0; number < this.controller.numComputedCollisions(); number++) {
      const collider = this.controller.computedCollision(number)?.collider
      const known = collider ? this.owner.get(collider.handle) : undefined
      if (known) return { solid: known.solid.name, surface: known.solid.surface }
    }
    return null
  }

  private frame(knocks: YardFrame['knocks']): YardFrame {
    const placed = (body: RAPIER.RigidBody): Place => {
      const { x, y, z } = body.translation()
      return [x, y, z]
    }
    const turned = (body: RAPIER.RigidBody): Turn => {
      const { x, y, z, w } = body.rotation()
      return [x, y, z, w]
    }
    return {
      seconds: this.steps * STEP_SECONDS,
      feet: this.raised(placed(this.figure), -this.lift),
      touches: this.touches(),
      moved: this.things.filter(({ item }) => item.loose).map(({ id, item, body, pivot }) => ({ id, item: item.name, pivot, place: placed(body), turn: turned(body) })),
      balls: this.balls.map(({ id, body }) => ({ id, place: placed(body) })),
      remains: this.pieces.map(({ id, body }) => ({ id, place: placed(body), turn: turned(body) })),
      broken: [...this.broken],
      knocks,
      carries: this.carried?.item.name ?? null,
    }
  }
}

/** Half of the longest side in plan, at most one unit: how far before itself the figure holds a thing. */
function extentOf(solids: readonly LoadedSolid[]): number {
  const middle = middleOf(solids)
  let reach = 0
  for (const { positions } of solids) for (let at = 0; at < positions.length; at += 3) reach = Math.max(reach, Math.hypot(positions[at] - middle[0], positions[at + 2] - middle[2]))
  return Math.min(2, reach)
}

/** The turn that stands a capsule, which is made along y, up. */
function standing(up: Place): { x: number; y: number; z: number; w: number } {
  const half = Math.SQRT1_2
  return up[1] !== 0 ? { x: 0, y: 0, z: 0, w: 1 } : up[2] !== 0 ? { x: half, y: 0, z: 0, w: half } : { x: 0, y: 0, z: half, w: half }
}
