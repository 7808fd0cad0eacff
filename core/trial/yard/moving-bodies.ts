import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER } from './physics-engine.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedMesh, LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import { apart, inverse, multiply } from '../matrices.ts'
import { standingsOf, type Standing } from '../moving.ts'
import { colliderOf } from './colliders.ts'
import type { Place } from './yard-frame.ts'

/** Solids that go along with one node, as one body of the engine. */
interface MovingBody {
  node: LoadedNode
  body: Physics.RigidBody
  colliders: Physics.Collider[]
  /** Where the node was loaded, which is where the body has its origin, and the way back from there. */
  pivot: Place
  back: number[]
}

/**
 * What clips move among the solids of an item: bodies that are led, not pushed. Each stands where the loader's own
 * reading of the clips has its node at the time.
 */
export class MovingBodies {
  private readonly bodies: MovingBody[] = []
  private readonly standingAt: (seconds: number) => Standing
  private readonly byCollider = new Map<number, MovingBody>()
  private now: Standing
  private next: Standing

  /** @param made told of each solid's collider */
  constructor(
    world: Physics.World,
    solids: readonly LoadedSolid[],
    clips: LoadedMesh['clips'],
    rulebook: Rulebook,
    made: (collider: Physics.Collider, solid: LoadedSolid) => void,
  ) {
    this.standingAt = standingsOf(clips)
    this.now = this.next = this.standingAt(0)
    const moving = solids.filter(({ node }) => node !== undefined)
    for (const node of new Set(moving.map((solid) => solid.node as LoadedNode))) {
      const pivot = node.world.slice(12, 15) as Place
      const body = world.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(...pivot))
      const one: MovingBody = { node, body, colliders: [], pivot, back: inverse(node.world) }
      for (const solid of moving.filter((each) => each.node === node)) {
        const description = colliderOf(solid, rulebook, pivot)
        if (!description) continue
        const collider = world.createCollider(description, body)
        one.colliders.push(collider)
        this.byCollider.set(collider.handle, one)
        made(collider, solid)
      }
      this.bodies.push(one)
    }
    this.lead(0)
    for (const one of this.bodies) this.put(one, this.now, 'at once')
  }

  /** Says where everything goes until a time; the engine moves it there in its next step. */
  lead(seconds: number): void {
    this.now = this.next
    this.next = this.standingAt(seconds)
    for (const one of this.bodies) this.put(one, this.next, 'in the next step')
  }

  private put({ body, pivot, node, back }: MovingBody, standing: Standing, when: 'at once' | 'in the next step'): void {
    const way = multiply(standing(node), back)
    const [x, y, z, w] = apart(way).rotation
    const [px, py, pz] = moved(way, pivot)
    if (when === 'at once') {
      body.setTranslation({ x: px, y: py, z: pz }, true)
      body.setRotation({ x, y, z, w }, true)
    } else {
      body.setNextKinematicTranslation({ x: px, y: py, z: pz })
      body.setNextKinematicRotation({ x, y, z, w })
    }
  }

  /** How far what stands on one of these colliders at a place is taken in the coming step. */
  carry(collider: Physics.Collider, place: Place): Place {
    const one = this.byCollider.get(collider.handle)
    if (!one) return [0, 0, 0]
    const way = multiply(this.next(one.node), inverse(this.now(one.node)))
    return moved(way, place).map((value, axis) => value - place[axis]) as Place
  }

  /** Whether a collider is one of these. */
  has = (collider: Physics.Collider): boolean => this.byCollider.has(collider.handle)

  /** How far something has to give way to what has moved into it; null where nothing has. */
  pushOn(shape: Physics.Collider): Place | null {
    const push: Place = [0, 0, 0]
    let any = false
    for (const { colliders } of this.bodies)
      for (const collider of colliders) {
        const contact = shape.contactCollider(collider, 0)
        if (!contact || contact.distance >= 0) continue
        any = true
        // The normal of the shape looks into what pushes it.
        const { x, y, z } = contact.normal1
        ;[x, y, z].forEach((value, axis) => (push[axis] += value * contact.distance))
      }
    return any ? push : null
  }

  /** Where a node stands now. */
  standing = (node: LoadedNode): number[] => this.next(node)

  get some(): boolean {
    return this.bodies.length > 0
  }
}

const moved = (m: readonly number[], [x, y, z]: Place): Place =>
  [0, 1, 2].map((row) => m[row] * x + m[row + 4] * y + m[row + 8] * z + m[row + 12]) as Place
