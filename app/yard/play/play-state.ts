import type { Game } from '../../../core/game/game'
import { create } from 'zustand'
import type { YardAction } from '../../../core/trial/yard/actions'
import type { YardSubject } from '../../workers/clients'
import type { YardFrameMessage } from '../../workers/yard-messages'

/** What is being tried in the yard just now, and what it looks like. Gone when it is left, never kept. */
interface PlayState {
  subject: YardSubject | null
  /** The game whose yard it is. */
  game: Game | null
  frame: YardFrameMessage | null
  /** Events that have happened since it began, up to the latest few hundred. */
  happened: YardFrameMessage['happened']
  /** Actions asked for by a button since the last message to the worker. */
  asked: YardAction[]
  sound: boolean
  /** Whether the figure stops where the ground ends. */
  mindsEdges: boolean
  /** What was touched last, kept a moment so that it can be read. */
  touched: string | null
}

const fresh = { subject: null, game: null, frame: null, happened: [], asked: [], touched: null }
const MOST_TOLD = 300

export const usePlay = create<PlayState>(() => ({ ...fresh, sound: false, mindsEdges: false }))

/** Takes a frame in, and what happened up to it. */
export const takeFrame = (frame: YardFrameMessage): void =>
  usePlay.setState(({ happened }) => ({
    frame,
    ...(frame.happened.length > 0 ? { happened: [...happened, ...frame.happened].slice(-MOST_TOLD) } : {}),
  }))

export const endPlay = (): void => usePlay.setState(fresh)
export const ask = (action: YardAction): void =>
  usePlay.setState(({ asked }) => ({ asked: [...asked, action].slice(-8) }))
