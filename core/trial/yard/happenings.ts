import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedEvent } from '../entry/read-entry.ts'
import { stands } from '../entry/check-events.ts'
import type { LoadedNode } from '../loaders/mesh/loaded-mesh.ts'

type Events = Rulebook['behaviour']['events']
type Cause = Events['when'][number]['cause']
export type Effect = Events['do'][number]['effect']

/** An event that has happened. */
export interface Happening {
  seconds: number
  item: string
  /** As the game's own log has it: “swing_arm used → ring mooring_bell”. */
  words: string
  effect: Effect
}

/** Events that follow on each other in one step; a circle is refused before, this ends it all the same. */
const MOST_AT_ONCE = 100

/** The events of an item: what sets them off, what they do, and what follows on what. */
export class Happenings {
  private told: Happening[] = []
  /** Parts that are gone from sight. */
  readonly hidden = new Set<string>()
  lit = false
  private rings = 0
  private readonly plays: boolean
  /** Where its clips stand, in seconds, and which way they run. */
  private clip = { at: 0, runs: 0 }

  /**
   * @param nodes of the item, as they were loaded
   * @param clipSeconds how long its clips are
   */
  constructor(
    private readonly item: string,
    private readonly events: readonly LoadedEvent[],
    private readonly nodes: readonly LoadedNode[],
    private readonly clipSeconds: number,
    private readonly known: Events,
  ) {
    this.plays = events.some(({ do: does }) => {
      const effect = this.effectOf(does)
      return effect === 'plays-motion' || effect === 'plays-back'
    })
  }

  /** Something happened to a solid of the item, or to the item as a whole. */
  happen(cause: Cause, solid: LoadedSolid | null, seconds: number): void {
    const node = solid ? (this.nodes.find(({ name }) => name === solid.name) ?? null) : null
    const causes = this.known.when.filter((each) => each.cause === cause).map(({ word }) => word)
    this.fire(
      this.events.filter(
        ({ when, at }) => causes.includes(when) && (at === undefined || (node !== null && stands(node, at))),
      ),
      seconds,
    )
  }

  /** What events leave to do when time goes on: clips that run. @returns where clips stand; null where time alone leads them */
  goOn(stepSeconds: number): number | null {
    if (!this.plays) return null
    // Just before its end, since at its end a clip stands as it began.
    const last = Math.max(0, this.clipSeconds - 1e-4)
    this.clip.at = Math.min(last, Math.max(0, this.clip.at + this.clip.runs * stepSeconds))
    return this.clip.at
  }

  /** What has happened since this was asked. */
  takeTold(): Happening[] {
    const { told } = this
    this.told = []
    return told
  }

  /** Whether it rang since this was asked. */
  takeRing(): boolean {
    const rang = this.rings > 0
    this.rings = 0
    return rang
  }

  private fire(first: readonly LoadedEvent[], seconds: number): void {
    const waiting = [...first]
    for (let count = 0; waiting.length > 0 && count < MOST_AT_ONCE; count++) {
      const event = waiting.shift()
      if (!event) return
      this.act(event, seconds)
      const after = this.known.when.filter(({ cause, after }) => cause === 'follows' && after === event.do)
      const to = this.ownThing(event.to)
      if (to === 'elsewhere') continue
      waiting.push(
        ...this.events.filter(
          ({ when, at }) =>
            after.some(({ word }) => word === when) && (at === undefined || to === undefined || at === to),
        ),
      )
    }
  }

  private act({ when, at, do: does, to }: LoadedEvent, seconds: number): void {
    const effect = this.effectOf(does)
    const thing = this.ownThing(to)
    this.told.push({
      seconds,
      item: this.item,
      words:
        `${at ?? this.item} ${when} → ${does} ` +
        `${to ?? this.item}${thing === 'elsewhere' ? ', which does not stand here' : ''}`,
      effect,
    })
    if (thing === 'elsewhere') return
    if (effect === 'plays-motion') this.clip.runs = 1
    if (effect === 'plays-back') this.clip.runs = -1
    if (effect === 'lights-up') this.lit = true
    if (effect === 'sounds') this.rings++
    if (effect === 'hides') for (const node of this.nodes) if (stands(node, thing)) this.hidden.add(node.name)
  }

  private effectOf(word: string): Effect {
    return this.known.do.find((each) => each.word === word)?.effect ?? 'other'
  }

  /** A thing of the item by its name; undefined for all of it. */
  private ownThing(to: string | undefined): string | undefined {
    if (to === undefined || to === this.item) return undefined
    return this.nodes.some(({ name }) => name === to) ? to : 'elsewhere'
  }
}
