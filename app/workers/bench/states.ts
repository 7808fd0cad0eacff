import * as Comlink from 'comlink'
import { z } from 'zod'
import { differenceOf, placementOf } from '../../../core/crate/difference'
import { stockObject } from '../../../core/crate/stock'
import { gameSchema } from '../../../core/game/game'
import { facePicksSchema } from '../../../core/operations/meshes/face-picks'
import { getSource } from '../../storage/sources'
import { buildScene } from '../build-scene'
import { ladderOf, pickedTriangles } from '../item-states'
import type { Difference, ItemState, Ladder } from '../messages'
import { sceneTransfers, type SceneData } from '../scene-data'
import { compareCurves, type ComparedSampling } from '../../../core/operations/motion/compare-curves'
import { samplingSchema } from '../../../core/operations/motion/sample-clips'
import { openSession, pause, type OnProgress } from './session'

/** Looking at an item between its steps, and at what stands beside it. */
export const states = {
  /** The item after so many steps of its worklist, and where that stands against the result. */
  async stateAfter(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<ItemState> {
    const { after, result, options } = openSession(rawItem, rawGame, onProgress)
    const before = await after(steps)
    const scene = await buildScene(before, options)
    return Comlink.transfer({ scene, placement: placementOf(before, await result()) }, sceneTransfers(scene))
  },

  /** How far the item after one number of steps lies from the item after another. */
  async difference(
    rawItem: unknown,
    rawGame: unknown,
    from: number,
    to: number,
    onProgress: OnProgress,
  ): Promise<Difference> {
    const { after } = openSession(rawItem, rawGame, onProgress)
    return differenceOf(await after(from), await after(to))
  },

  /** Levels for dragging the slider of a reduction that is the step of that number. */
  async ladder(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    leaveAlone: string[],
    onProgress: OnProgress,
  ): Promise<Ladder> {
    const before = await openSession(rawItem, rawGame, onProgress).after(steps)
    return ladderOf(before, z.array(z.string()).parse(leaveAlone), (fraction) =>
      pause(onProgress, 'Levels for dragging', fraction),
    )
  },

  /** How a sampling of the motion changes each curve of the state that its step is given. */
  async sampling(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    parameters: unknown,
    onProgress: OnProgress,
  ): Promise<ComparedSampling> {
    const { after, options } = openSession(rawItem, rawGame, onProgress)
    return compareCurves(await after(steps), samplingSchema.parse(parameters), options.rulebook)
  },

  /** The triangles that picks stand for, in the state that their step is given. */
  async picked(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    picks: unknown,
    onProgress: OnProgress,
  ): Promise<Float32Array> {
    const before = await openSession(rawItem, rawGame, onProgress).after(steps)
    return pickedTriangles(before, facePicksSchema.parse(picks))
  },

  /** An object of the game's stock, to stand beside an item. */
  async stockScene(rawGame: unknown, object: string): Promise<SceneData> {
    const scene = await buildScene(await stockObject(gameSchema.parse(rawGame), object, getSource))
    return Comlink.transfer(scene, sceneTransfers(scene))
  },
}
