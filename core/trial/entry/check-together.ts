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

/** What the game sees once it has all items: lines that two say alike, and what follows on what. */
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

/** Plays every event in thought: one that comes round, one that is done twice, one that waits for ever. */
function followEvents(items: readonly ItemAmongOthers[], { behaviour }: Rulebook, log: TrialLog): void {
  const steps = items.flatMap(({ name, path, things, events }) =>
    events.map(({ when, at, do: does, to }): Step => {
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
  const next = steps.map((step) =>
    steps.filter(({ after, at }) => after !== null && after === step.does && meets(at, step.to)),
  )
  // A step is in a circle when it can be reached from itself.
  const circling = steps.findIndex((step, from) => reach(next[from], steps, next).has(step))
  const about = ({ at }: Step): TrialLog => {
    log.about(at[0])
    return log
  }
  if (circling >= 0) {
    const step = steps[circling]
    about(step).refuse('event.circle', step.path, 'An event sets itself off again; it would never end.')
  }
  for (const step of steps)
    if (step.after !== null && !steps.some(({ does, to }) => does === step.after && meets(to, step.at)))
      about(step).complain(
        'event.never',
        step.path,
        `Nothing does ${step.after} to ${step.at.filter(Boolean).join('/')}.`,
      )
  for (const start of new Set(steps.filter(({ after }) => after === null).map(({ starts }) => starts))) {
    const done = [
      ...reach(
        steps.filter((step) => step.after === null && step.starts === start),
        steps,
        next,
      ),
    ]
    const what = done.map(({ does, to }) => `${does} ${to.join('/')}`)
    const again = done.filter((_, index) => what.indexOf(what[index]) < index)
    for (const step of again)
      about(step).complain('event.twice', step.path, `${step.does} is done twice when one thing happens.`)
  }
}

/** Everything that steps lead to, they among it. */
function reach(from: readonly Step[], steps: readonly Step[], next: readonly Step[][]): Set<Step> {
  const met = new Set<Step>(from)
  // A set is walked through in the order in which things come to it.
  for (const step of met) for (const each of next[steps.indexOf(step)]) met.add(each)
  return met
}
