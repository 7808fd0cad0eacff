import { create } from 'zustand'
import type { BoneMove } from '../../core/maths/bend'

/** How bones are moved to try a bend; gone when the page is left, never kept. */
interface BendState {
  /** The bone in hand: its weights are shown, its knobs and sliders move it. */
  bone: string | null
  /** Bones that are not at rest, by name. */
  moves: ReadonlyMap<string, BoneMove>
}

export const atRest: BoneMove = { turnDegrees: [0, 0, 0], moved: [0, 0, 0] }

export const useBend = create<BendState>(() => ({ bone: null, moves: new Map() }))

export const takeBone = (bone: string | null): void => useBend.setState({ bone })

export const moveBone = (bone: string, move: BoneMove): void =>
  useBend.setState(({ moves }) => ({ moves: new Map([...moves, [bone, move]]) }))

export const restBones = (): void => useBend.setState({ moves: new Map() })
