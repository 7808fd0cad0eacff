import type { Rulebook } from '../../game/schema.ts'
import type { TrialLog } from '../log.ts'
import type { LoadedEvent } from './read-entry.ts'

/** An item as others of its pack have to do with it. */
export interface ItemAmongOthers {
  name: string
  kind: string
  path: string
  lines: Readonly<Record<string, unknown>>
  things: ReadonlySet<string>
  events: readonly LoadedEvent[]
}

/**
 * What the game sees once it has all items: lines that two say alike, and what follows on what.
 * @example checkTogether(items, rulebook, log)
 */
export function checkTogether(items: readonly ItemAmongOthers[], rulebook: Rulebook, log: TrialLog): void {
  for (const { key, kinds } of rulebook.catalogue.fields.filter(({ unique }) => unique)) {
    const said = new Set(
      rulebook.stock.entries
        .filter(({ fields }) => Object.hasOwn(fields, key))
        .map(({ fields }) => JSON.stringify(fields[key])),
    )
    for (const { name, lines, path, kind } of items) {
      if (!Object.hasOwn(lines, key) || (kinds && !kinds.includes(kind))) continue
      const value = JSON.stringify(lines[key])
      log.about(name)
      if (said.has(value)) log.refuse('entry.alike', path, `${key} is ${value}, as another says already.`)
      said.add(value)
    }
  }
  followEvents(items, rulebook, log)
  log.about(null)
}

interface Step {
  path: string
  starts: string
  after: string | null
  at: [item: string, thing: string | null]
  does: string
  to: [item: string, thing: string | null]
}

const meets = (a: Step['to'], b: Step['to']): boolean =>
  a[0] === b[0] && (a[1] === null || b[1] === null || a[1] === b[1])

/** Of more events than these in one pack the game plays none in thought; and no more than these after one thing. */
const MOST_STEPS = 5000
const MOST_AFTER_ONE = 500

/** Plays every event in thought: one that comes round, one that is done twice, one that waits for ever. */
function followEvents(items: readonly ItemAmongOthers[], { behaviour }: Rulebook, log: TrialLog): void {
  const steps = items.flatMap(({ name, path, things, events }) =>
    events.slice(0, behaviour.events.most).map(({ when, at, do: does, to }): Step => {
      const cause = behaviour.events.when.find(({ word }) => word === when)
      const own = to === undefined || things.has(to)
      return {
        path,
        starts: `${when} ${name} ${at ?? ''}`,
        after: cause?.cause === 'follows' ? cause.after : null,
        at: [name, at ?? null],
        does,
        to: own ? [name, to ?? null] : [to, null],
      }
    }),
  )
  if (steps.length > MOST_STEPS) return
  const about = ({ at }: Step): TrialLog => {
    log.about(at[0])
    return log
  }
  const waiting = grouped(steps, ({ after, at }) => (after === null ? null : `${after} in ${at[0]}`))
  const doing = grouped(steps, ({ does, to }) => `${does} in ${to[0]}`)
  const next = new Map(
    steps.map((step) => [
      step,
      (waiting.get(`${step.does} in ${step.to[0]}`) ?? []).filter(({ at }) => meets(at, step.to)),
    ]),
  )
  const circling = neverEnding(steps, next)
  if (circling)
    about(circling).refuse('event.circle', circling.path, 'An event sets itself off again; it would never end.')
  for (const step of steps)
    if (
      step.after !== null &&
      !(doing.get(`${step.after} in ${step.at[0]}`) ?? []).some(({ to }) => meets(to, step.at))
    )
      about(step).complain(
        'event.never',
        step.path,
        `Nothing does ${step.after} to ${step.at.filter(Boolean).join('/')}.`,
      )
  for (const first of grouped(steps, ({ after, starts }) => (after === null ? starts : null)).values()) {
    const done = new Set<string>()
    for (const step of reach(first, next)) {
      const what = `${step.does} ${step.to.join('/')}`
      if (done.has(what))
        about(step).complain('event.twice', step.path, `${step.does} is done twice when one thing happens.`)
      done.add(what)
    }
  }
}

function grouped(steps: readonly Step[], key: (step: Step) => string | null): Map<string, Step[]> {
  const groups = new Map<string, Step[]>()
  for (const step of steps) {
    const name = key(step)
    if (name === null) continue
    const group = groups.get(name)
    if (group) group.push(step)
    else groups.set(name, [step])
  }
  return groups
}

/** A step that leads into a circle: what is left when steps that lead to nothing are taken away, over and over. */
function neverEnding(steps: readonly Step[], next: ReadonlyMap<Step, readonly Step[]>): Step | undefined {
  const before = new Map<Step, Step[]>(steps.map((step) => [step, []]))
  for (const step of steps) for (const each of next.get(step) ?? []) before.get(each)?.push(step)
  const open = new Map(steps.map((step) => [step, next.get(step)?.length ?? 0]))
  const ended = steps.filter((step) => open.get(step) === 0)
  for (const step of ended)
    for (const each of before.get(step) ?? []) {
      const left = (open.get(each) ?? 0) - 1
      open.set(each, left)
      if (left === 0) ended.push(each)
    }
  return steps.find((step) => (open.get(step) ?? 0) > 0)
}

/** What steps lead to, they among it, up to a number. */
function reach(from: readonly Step[], next: ReadonlyMap<Step, readonly Step[]>): Set<Step> {
  const met = new Set<Step>(from)
  // A set is walked through in the order in which things come to it.
  for (const step of met) {
    if (met.size > MOST_AFTER_ONE) break
    for (const each of next.get(step) ?? []) met.add(each)
  }
  return met
}
