import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER, startPhysics } from './physics-engine.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { YardAction } from './actions.ts'
import { Balls } from './balls.ts'
import { colliderOf, extentOf, groundAt, lowestOf, middleOf, newWorld } from './colliders.ts'
import { BLOW, MOST_LIFTED_KILOGRAMS, MOST_THINGS, STEP_SECONDS, yardMeasures, type YardMeasures } from './measures.ts'
import type { LoadedMarker } from '../check-markers.ts'
import type { LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import { Figure } from './figure.ts'
import { MovingBodies } from './moving-bodies.ts'
import { Remains } from './remains.ts'
import { Run } from './run.ts'
import { YardEvents } from './yard-events.ts'
import type { Place, Turn, YardItem, YardInput, YardFrame } from './yard-frame.ts'

interface Thing {
  id: number
  item: YardItem
  body: Physics.RigidBody
  pivot: Place
  toughness: number
  remains: string
}

/**
 * The place where loaded things are tried: a figure that walks, pushes, carries, throws and hits. Same input, same
 * course.
 */
export class Yard {
  private readonly world: Physics.World
  private readonly things: Thing[] = []
  private readonly owner = new Map<number, { solid: LoadedSolid; thing: Thing | null }>()
  private readonly balls: Balls
  private readonly remains: Remains
  private readonly figure: Figure
  private readonly measures: YardMeasures
  private readonly events = new RAPIER.EventQueue(true)
  /** Layers of what can be taken into hands. */
  private readonly handled: ReadonlySet<string>
  private carried: Thing | null = null
  private readonly entries: YardEvents
  private hiddenBefore = 0
  private readonly moving: MovingBodies[]
  private readonly run: Run
  /** Where it stands when it begins, and begins again. */
  private readonly begin: Place
  private steps = 0
  private nextId = 1

  private constructor(
    private readonly items: readonly YardItem[],
    private readonly rulebook: Rulebook,
    feet: Place,
  ) {
    const { figure } = rulebook.space
    this.measures = yardMeasures(rulebook)
    this.handled = new Set(
      rulebook.solids.layers.filter(({ means }) => means === 'moves' || means === 'handled').map(({ name }) => name),
    )
    this.world = newWorld(this.measures)
    this.balls = new Balls(this.world, this.measures, figure.width)
    this.remains = new Remains(this.world, this.measures.unitsPerMetre)
    const markers = items.flatMap(({ motion }) => motion?.markers ?? [])
    this.world.createCollider(groundAt(this.measures, this.groundHeight(markers)))
    this.entries = new YardEvents(items, rulebook)
    for (const item of items) this.put(item, 0)
    this.moving = items.flatMap(({ solids, motion }) =>
      motion
        ? [
            new MovingBodies(this.world, solids, motion.clips, rulebook, (collider, solid) =>
              this.owner.set(collider.handle, { solid, thing: null }),
            ),
          ]
        : [],
    )
    this.run = new Run(markers, figure)
    this.begin = this.run.begin(this.standing) ?? feet
    this.figure = new Figure(this.world, figure, this.measures, this.begin)
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
    this.leadAll()
    this.figure.walk(input, this.moving, this.isCarried)
    if (this.carried) this.hold(this.carried, input)
    this.world.step(this.events)
    this.steps++
    this.figure.giveWay(this.moving)
    const arrivedBefore = this.run.hasArrived
    if (this.run.see(this.figure.feet(), this.seconds, this.standing)) this.figure.standAt(this.begin)
    if (this.run.hasArrived && !arrivedBefore) this.entries.arrive(this.seconds)
    this.entries.touch(new Set(this.touchedSolids().map(({ solid }) => solid)), this.seconds)
    this.hideParts()
    return this.frame(this.knocks())
  }

  private get seconds(): number {
    return this.steps * STEP_SECONDS
  }

  /** Clips go on by themselves, or where an event has led them. */
  private leadAll(): void {
    const led = this.entries.goOn(STEP_SECONDS)
    const moving = this.items.filter(({ motion }) => motion)
    for (const [index, bodies] of this.moving.entries())
      bodies.lead(led.get(moving[index]) ?? (this.steps + 1) * STEP_SECONDS)
  }

  /** What an event has hidden is not bumped into either. */
  private hideParts(): void {
    const hidden = new Set(this.entries.hidden)
    if (hidden.size === this.hiddenBefore) return
    this.hiddenBefore = hidden.size
    for (const [handle, { solid }] of this.owner)
      if (hidden.has(solid.name)) this.world.getCollider(handle)?.setEnabled(false)
  }

  /** Gives the engine's memory back. */
  close(): void {
    this.events.free()
    this.world.free()
  }

  /** Under everything that stands fixed; where one may fall, as deep as that and deeper. */
  private groundHeight(markers: readonly LoadedMarker[]): number {
    const { groundReach } = this.measures
    const limits = markers.filter(({ does }) => does === 'begins-again-below').map(({ node }) => node.world[13])
    if (limits.length > 0) return Math.max(-groundReach, Math.min(...limits) - 2 * this.rulebook.space.figure.height)
    const fixed = this.items.filter((item) => !item.loose).flatMap((item) => [...item.solids])
    return Math.min(0, fixed.length > 0 ? Math.max(-groundReach, lowestOf(fixed)) : 0)
  }

  private raised([x, y, z]: Place, by: number): Place {
    return [x, y + by, z]
  }

  private put(item: YardItem, lift: number): void {
    const pivot = middleOf(item.solids)
    const description = item.loose ? RAPIER.RigidBodyDesc.dynamic() : RAPIER.RigidBodyDesc.fixed()
    const body = this.world.createRigidBody(description.setTranslation(...this.raised(pivot, lift)))
    const donor = this.donorOf(item)
    const thing: Thing = {
      id: this.nextId++,
      item,
      body,
      pivot,
      toughness: donor?.toughness ?? Infinity,
      remains: donor?.remains ?? 'nothing',
    }
    for (const solid of item.solids) {
      if (item.motion && solid.node) continue
      const collider = colliderOf(solid, this.rulebook, pivot)
      if (!collider) continue
      if (item.loose) collider.setMass(Math.max(0.01, solid.massKilograms ?? 1))
      const made = this.world.createCollider(
        collider
          .setActiveEvents(RAPIER.ActiveEvents.CONTACT_FORCE_EVENTS)
          .setContactForceEventThreshold(this.measures.feltForce),
        body,
      )
      this.owner.set(made.handle, { solid, thing })
    }
    this.things.push(thing)
  }

  /** The stock thing that it behaves like: the one it names, else the first of its surface kind. */
  private donorOf({ like, solids }: YardItem) {
    const { donors } = this.rulebook.stock
    return donors.find(({ id }) => id === like) ?? donors.find(({ surface }) => surface === solids[0]?.surface)
  }

  private readonly isCarried = (collider: Physics.Collider): boolean =>
    this.carried !== null && this.owner.get(collider.handle)?.thing === this.carried

  /** Where a node of an item stands now. */
  private readonly standing = (node: LoadedNode): number[] =>
    this.moving.reduce<number[] | null>((found, bodies) => found ?? bodies.standing(node), null) ?? node.world

  private act(action: YardAction, { look }: YardInput): void {
    if (action === 'ball') return this.balls.throw(this.figure.eyes(), look, this.nextId++)
    if (action === 'hit') return this.hit(look)
    if (action === 'use') {
      const pointed = this.pointedAt(look)
      if (pointed) this.entries.happen('handled', pointed.solid, this.seconds)
      return
    }
    if (action === 'drop-another') {
      const loose = this.items.find((item) => item.loose)
      if (loose && this.things.length < MOST_THINGS)
        this.put(loose, this.rulebook.space.figure.height + 0.5 * this.measures.unitsPerMetre)
      return
    }
    if (this.carried) this.letGo(action === 'throw' ? look : null)
    else if (action === 'take') this.take(look)
  }

  private hit(look: Place): void {
    const pointed = this.pointedAt(look)
    if (!pointed) return
    this.entries.happen('hit', pointed.solid, this.seconds)
    const { thing } = pointed
    if (!thing) return
    thing.toughness -= BLOW
    const { blow } = this.measures
    if (thing.item.loose) thing.body.applyImpulse({ x: look[0] * blow, y: look[1] * blow, z: look[2] * blow }, true)
    if (thing.toughness <= 0) this.breakApart(thing)
  }

  private pointedAt(look: Place): { solid: LoadedSolid; thing: Thing | null } | null {
    const eyes = this.figure.eyes()
    for (const drop of [0, 0.35, 0.7]) {
      const ray = new RAPIER.Ray({ x: eyes[0], y: eyes[1], z: eyes[2] }, { x: look[0], y: look[1] - drop, z: look[2] })
      const hit = this.world.castRay(ray, this.measures.reach, true, undefined, undefined, this.figure.capsule)
      const found = hit ? this.owner.get(hit.collider.handle) : undefined
      if (found) return found
    }
    return null
  }

  /** It is gone, and what the game leaves lies where it stood. */
  private breakApart(thing: Thing): void {
    const at = thing.body.translation()
    if (this.carried === thing) this.carried = null
    this.things.splice(this.things.indexOf(thing), 1)
    this.world.removeRigidBody(thing.body)
    this.remains.leave(thing.item.name, thing.remains, at, () => this.nextId++)
  }

  private take(look: Place): void {
    const thing = this.pointedAt(look)?.thing
    if (
      !thing?.item.loose ||
      thing.body.mass() > MOST_LIFTED_KILOGRAMS ||
      !thing.item.solids.some(({ layers }) => layers.some((layer) => this.handled.has(layer)))
    )
      return
    this.carried = thing
    thing.body.setBodyType(RAPIER.RigidBodyType.KinematicPositionBased, true)
  }

  private hold(thing: Thing, { look }: YardInput): void {
    const eyes = this.figure.eyes()
    const { unitsPerMetre } = this.measures
    const length = Math.hypot(look[0], look[2]) || 1
    const reach =
      this.rulebook.space.figure.width / 2 + extentOf(thing.item.solids, unitsPerMetre) + 0.075 * unitsPerMetre
    const place = [
      eyes[0] + (look[0] / length) * reach,
      eyes[1] - 0.45 * unitsPerMetre,
      eyes[2] + (look[2] / length) * reach,
    ]
    thing.body.setNextKinematicTranslation({ x: place[0], y: place[1], z: place[2] })
    thing.body.setNextKinematicRotation({ x: 0, y: 0, z: 0, w: 1 })
  }

  private letGo(look: Place | null): void {
    const thing = this.carried
    this.carried = null
    if (!thing) return
    thing.body.setBodyType(RAPIER.RigidBodyType.Dynamic, true)
    const speed = look ? this.measures.throwSpeed : 0
    const [x, y, z] = (look ?? [0, 0, 0]).map((value) => value * speed)
    thing.body.setLinvel({ x, y, z }, true)
  }

  private knocks(): YardFrame['knocks'] {
    const found: YardFrame['knocks'] = []
    this.events.drainContactForceEvents((event) => {
      const known = this.owner.get(event.collider1()) ?? this.owner.get(event.collider2())
      const other = this.owner.has(event.collider1()) ? event.collider2() : event.collider1()
      const body = this.world.getCollider(other)?.parent()
      if (known && body && (this.balls.has(body) || this.owner.has(other)))
        this.entries.happen('hit', known.solid, this.seconds)
      if (known && found.length < 4)
        found.push({
          surface: known.solid.surface,
          loudness: Math.min(1, event.totalForceMagnitude() / this.measures.loudestForce),
        })
    })
    this.events.drainCollisionEvents(() => undefined)
    for (const item of this.entries.takeRinging())
      found.push({ surface: this.donorOf(item)?.surface ?? item.solids[0]?.surface ?? '', loudness: 1 })
    return found
  }

  private touchedSolids(): { solid: LoadedSolid }[] {
    return [...this.figure.touched()].flatMap(({ handle }) => this.owner.get(handle) ?? [])
  }

  private touches(): YardFrame['touches'] {
    const [first] = this.touchedSolids()
    return first ? { solid: first.solid.name, surface: first.solid.surface } : null
  }

  private ridesOn(): string | null {
    const on = this.figure.ridesOn(this.moving)
    return on ? (this.owner.get(on.handle)?.solid.node?.parent?.name ?? null) : null
  }

  private frame(knocks: YardFrame['knocks']): YardFrame {
    const placed = (body: Physics.RigidBody): Place => {
      const { x, y, z } = body.translation()
      return [x, y, z]
    }
    const turned = (body: Physics.RigidBody): Turn => {
      const { x, y, z, w } = body.rotation()
      return [x, y, z, w]
    }
    return {
      seconds: this.seconds,
      feet: this.figure.feet(),
      touches: this.touches(),
      moved: this.things
        .filter(({ item }) => item.loose)
        .map(({ id, item, body, pivot }) => ({ id, item: item.name, pivot, place: placed(body), turn: turned(body) })),
      balls: this.balls.thrown.map(({ id, body }) => ({ id, place: placed(body) })),
      remains: this.remains.pieces.map(({ id, body }) => ({ id, place: placed(body), turn: turned(body) })),
      broken: [...this.remains.broken],
      knocks,
      carries: this.carried?.item.name ?? null,
      ridesOn: this.ridesOn(),
      run: this.run.told(this.standing),
      happened: this.entries.takeTold(),
      hidden: this.entries.hidden,
      lit: this.entries.lit,
      standing: this.items.flatMap(({ motion }) =>
        (motion?.drawn ?? []).map((node) => ({ part: node.name, matrix: Float32Array.from(this.standing(node)) })),
      ),
    }
  }
}
