import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import { setsOff } from '../entry/check-events.ts'
import { secondsOf } from '../moving.ts'
import { Happenings, type Happening } from './happenings.ts'
import type { YardItem } from './yard-frame.ts'

/** The events of all things in the yard: told of what meets what, they make happen what the entries say. */
export class YardEvents {
  private readonly byItem = new Map<YardItem, Happenings>()
  private readonly itemOf = new Map<LoadedSolid, YardItem>()
  /** Solids that the figure touched in the step before. */
  private touching = new Set<LoadedSolid>()

  constructor(
    items: readonly YardItem[],
    private readonly rulebook: Rulebook,
  ) {
    for (const item of items) {
      for (const solid of item.solids) this.itemOf.set(solid, item)
      if (!item.events || item.events.list.length === 0) continue
      const { list, nodes } = item.events
      const clipSeconds = secondsOf(item.motion?.clips ?? [])
      this.byItem.set(item, new Happenings(item.name, list, nodes, clipSeconds, rulebook.behaviour.events))
    }
  }

  /** Lets a step's time go on. @returns where the clips of each item stand that events lead */
  goOn(stepSeconds: number): Map<YardItem, number> {
    return new Map(
      [...this.byItem].flatMap(([item, happenings]) => {
        const at = happenings.goOn(stepSeconds)
        return at === null ? [] : [[item, at]]
      }),
    )
  }

  /** Something was done to a solid. */
  happen(cause: 'walked-into' | 'handled' | 'hit', solid: LoadedSolid, seconds: number): void {
    const item = this.itemOf.get(solid)
    if (item && setsOff(cause, solid, this.rulebook)) this.byItem.get(item)?.happen(cause, solid, seconds)
  }

  /** The figure has come to where a run ends. */
  arrive(seconds: number): void {
    for (const happenings of this.byItem.values()) happenings.happen('marker-reached', null, seconds)
  }

  /** What the figure touches in this step: what it did not touch before, it has walked into. */
  touch(solids: ReadonlySet<LoadedSolid>, seconds: number): void {
    for (const solid of solids) if (!this.touching.has(solid)) this.happen('walked-into', solid, seconds)
    this.touching = new Set(solids)
  }

  /** Items that rang since this was asked. */
  takeRinging(): YardItem[] {
    return [...this.byItem].flatMap(([item, happenings]) => (happenings.takeRing() ? [item] : []))
  }

  /** What has happened since this was asked. */
  takeTold(): Happening[] {
    return [...this.byItem.values()].flatMap((happenings) => happenings.takeTold())
  }

  get hidden(): string[] {
    return [...this.byItem.values()].flatMap(({ hidden }) => [...hidden])
  }

  get lit(): boolean {
    return [...this.byItem.values()].some(({ lit }) => lit)
  }
}
