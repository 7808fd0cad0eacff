import { create } from 'zustand'

/** Where a motion is that is looked at in the yard; gone when the page is left, never kept. */
interface MotionState {
  /** Seconds from its beginning; null while things stand as they do at rest. */
  at: number | null
  runs: boolean
  /** Where parts stand that something else moves, as while a course is walked; column-major, to the scene. */
  led: ReadonlyMap<string, ArrayLike<number>> | null
}

export const useMotion = create<MotionState>(() => ({ at: null, runs: false, led: null }))

export const standAt = (seconds: number): void => useMotion.setState({ at: seconds, runs: false })
export const runMotion = (runs: boolean): void => useMotion.setState(({ at }) => ({ at: at ?? 0, runs }))
export const restMotion = (): void => useMotion.setState({ at: null, runs: false })
export const leadMotion = (led: MotionState['led']): void => useMotion.setState({ led })
