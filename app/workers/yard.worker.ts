import { startOf } from '../../core/crate/bring-in'
import { itemSchema } from '../../core/crate/schema'
import { yardSolids } from '../../core/crate/yard-solids'
import { PlainError } from '../../core/support/plain-error'
import { gameSchema } from '../../core/game/game'
import { kindOf } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import { cutHollows } from '../../core/trial/cut-hollows'
import { loadPack } from '../../core/trial/load-pack'
import { Yard } from '../../core/trial/yard/yard'
import type { YardItem } from '../../core/trial/yard/yard-frame'
import { runWorklist } from '../../core/worklist/run'
import { getPackBytes } from '../storage/packs'
import { browserResults } from '../storage/results'
import { getSource } from '../storage/sources'
import './browser-assets'
import { oneAtATime } from './one-at-a-time'
import { yardInputSchema, type YardFrameMessage, type YardInputMessage } from './yard-messages'
import { serve } from './serve'

/** The yard's physics: steps sixty times a second while something is tried, and hands out what it looks like. */
let yard: Yard | null = null
let timer: ReturnType<typeof setInterval> | null = null
let input: YardInputMessage = { walk: [0, 0, 0], look: [0, 0, 1], actions: [], mindsEdges: false }

/** Shows a frame; done when the page has taken it in. */
type OnFrame = (frame: YardFrameMessage) => Promise<void>
const STEP_MILLISECONDS = 1000 / 60
/** Steps made up for at once after the worker was held up; beyond that time is let go. */
const MOST_CAUGHT_UP = 6

function close(): void {
  if (timer !== null) clearInterval(timer)
  timer = null
  yard?.close()
  yard = null
}

async function begin(
  items: YardItem[],
  rulebook: Rulebook,
  feet: [number, number, number],
  onFrame: OnFrame,
): Promise<void> {
  close()
  input = { walk: [0, 0, 0], look: [0, 0, -1], actions: [], mindsEdges: false }
  yard = await Yard.open(items, rulebook, feet)
  const show = oneAtATime(onFrame)
  let due = performance.now()
  timer = setInterval(() => {
    if (!yard) return
    const steps = Math.min(MOST_CAUGHT_UP, Math.floor((performance.now() - due) / STEP_MILLISECONDS))
    if (steps <= 0) return
    due = performance.now() - ((performance.now() - due) % STEP_MILLISECONDS)
    for (let step = 0; step < steps; step++) {
      show(yard.step(input))
      input = { ...input, actions: [] }
    }
  }, STEP_MILLISECONDS / 2)
}

const endpoint = {
  /** Opens the yard with an item of the last pack, from its packed bytes. */
  async openPacked(
    crateId: string,
    rawGame: unknown,
    name: string,
    feet: [number, number, number],
    onFrame: OnFrame,
  ): Promise<void> {
    const bytes = await getPackBytes(crateId)
    if (!bytes) throw new PlainError('nothing was packed yet', 'Trial', 'Pack the crate first.')
    const { rulebook } = gameSchema.parse(rawGame)
    const loaded = loadPack(bytes, rulebook).items.find((each) => each.name === name)
    if (!loaded) throw new PlainError('the pack does not load this item', name, 'See the log.')
    const item = await cutHollows(loaded, rulebook)
    await begin(
      [
        {
          name,
          solids: item.solids,
          loose: kindOf(rulebook, item.kind).solids?.fixed === false,
          like: item.entry.like,
          events: { list: item.entry.events, nodes: item.nodes },
          motion: {
            clips: item.clips,
            markers: item.markers,
            drawn: item.view.filter(({ moves, bones }) => moves && bones.length === 0),
          },
        },
      ],
      rulebook,
      feet,
      onFrame,
    )
  },

  /** Opens the yard with an item as it stands on the bench. */
  async openItem(rawItem: unknown, rawGame: unknown, feet: [number, number, number], onFrame: OnFrame): Promise<void> {
    const item = itemSchema.parse(rawItem)
    const game = gameSchema.parse(rawGame)
    const { rulebook } = game
    const kind = kindOf(rulebook, item.kind)
    const { document } = await runWorklist(await startOf(item, getSource, game), item.worklist, {
      rulebook,
      kind,
      store: browserResults,
    })
    await begin(
      [{ name: item.name, solids: yardSolids(document), loose: kind.solids?.fixed === false }],
      rulebook,
      feet,
      onFrame,
    )
  },

  /** What the figure does from now on; actions are done once. */
  tell(raw: unknown): void {
    const next = yardInputSchema.parse(raw)
    input = { ...next, actions: [...input.actions, ...next.actions].slice(-8) }
  },

  close,
}

export type YardEndpoint = typeof endpoint
serve(endpoint)
