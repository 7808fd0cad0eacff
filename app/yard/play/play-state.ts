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
  /** Actions asked for by a button since the last message to the worker. */
  asked: YardAction[]
  sound: boolean
  /** Whether the figure stops where the ground ends. */
  mindsEdges: boolean
  /** What was touched last, kept a moment so that it can be read. */
  touched: string | null
}

const fresh = { subject: null, game: null, frame: null, asked: [], touched: null }

export const usePlay = create<PlayState>(() => ({ ...fresh, sound: false, mindsEdges: false }))

export const endPlay = (): void => usePlay.setState(fresh)
export const ask = (action: YardAction): void =>
  usePlay.setState(({ asked }) => ({ asked: [...asked, action].slice(-8) }))
