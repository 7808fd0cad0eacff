import { standOuts, touchReport } from '../../../core/crate/touch-test'
import { placedShapes } from '../placed-shapes'
import type { PlacedShapes, StandOuts, TouchReport } from '../yard-messages'
import { openSession, type OnProgress } from './session'

/** Looking at what an item is bumped into by. */
export const solids = {
  /** What it is like to bump into the result. */
  async touchTest(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<TouchReport> {
    const { result, options } = openSession(rawItem, rawGame, onProgress)
    return touchReport(await result(), options.rulebook, options.kind)
  },

  /** Where the result's solids stand out of what is seen, or lie in it. */
  async standOuts(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<StandOuts> {
    const { result } = openSession(rawItem, rawGame, onProgress)
    return standOuts(await result()).map(({ name, mesh, distances }) => ({
      name,
      positions: mesh.positions as Float32Array<ArrayBuffer>,
      indices: mesh.indices as Uint32Array<ArrayBuffer>,
      distances: distances as Float32Array<ArrayBuffer>,
    }))
  },

  /** The shapes that the step of that number makes or changes, where its settings put them. */
  async shapes(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<PlacedShapes> {
    const { item, after } = openSession(rawItem, rawGame, onProgress)
    return placedShapes(await after(steps), item.worklist[steps])
  },
}
