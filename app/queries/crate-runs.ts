import { togetherFaults } from '../../core/game/catalogue/together'
import type { TogetherFacts } from '../../core/game/catalogue/together-facts'
import { gameNames } from '../../core/crate/game-names'
import type { Crate, CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { requestRun, runId, useRuns } from './runs'

/** The crate that was asked for last: its items are looked at together as they come. */
let asked: { crate: Crate; names: Map<string, string> } | null = null
let seen: (TogetherFacts | undefined)[] = []

/** An item as the page has it now; null where it has gone since. */
export const latestItem = (crateId: string, item: string): CrateItem | null =>
  (asked?.crate.id === crateId && asked.crate.items.find(({ id }) => id === item)) || null

/** Bytes of all files of an item: about how long it takes to work on it. */
export const sourceBytes = ({ sources }: Pick<CrateItem, 'sources'>): number =>
  sources.reduce((sum, { bytes }) => sum + bytes, 0)

/**
 * Asks for the results of all items of a crate, and looks at them together.
 * @param onBench the item that is looked at: it comes first, with what the yard draws
 */
export function requestRuns(crate: Crate, game: Game, onBench?: CrateItem): void {
  asked = { crate, names: gameNames(crate.items, crate.rulebook) }
  seen = []
  if (onBench) requestRun(crate.id, onBench, game, true)
  // The smallest first: there are results soon.
  const others = crate.items.filter(({ id }) => id !== onBench?.id).sort((a, b) => sourceBytes(a) - sourceBytes(b))
  for (const item of others) requestRun(crate.id, item, game, false)
  lookTogether()
}

/** What only shows when items are looked at together, kept with the run of each. */
function lookTogether(): void {
  if (!asked) return
  const { crate, names } = asked
  const { runs } = useRuns.getState()
  const facts = crate.items.map(({ id }) => runs[runId(crate.id, id)]?.evaluation?.facts)
  if (facts.length === seen.length && facts.every((each, at) => each === seen[at])) return
  seen = facts
  // Names are those that the items have beside each other.
  const called = crate.items.map(({ id }, at) => {
    const own = facts[at]
    return own && { ...own, name: names.get(id) ?? own.name }
  })
  // Until all are there, a name may be that of one that is still run.
  const complete = called.every((each) => each !== undefined)
  const found = complete ? togetherFaults(called, crate.rulebook) : new Map<string, never[]>()
  useRuns.setState((state) => ({
    runs: {
      ...state.runs,
      ...Object.fromEntries(
        crate.items.flatMap(({ id }) => {
          const run = state.runs[runId(crate.id, id)]
          const together = found.get(names.get(id) ?? '') ?? []
          return run && (together.length > 0 || run.together.length > 0)
            ? [[runId(crate.id, id), { ...run, together }]]
            : []
        }),
      ),
    },
  }))
}

useRuns.subscribe(lookTogether)
