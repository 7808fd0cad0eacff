import type Engine from '@dimforge/rapier3d-compat'

/** The physics engine, once `startPhysics` has ended. */
export let RAPIER: typeof Engine

let starting: Promise<void> | null = null

/**
 * Loads the engine once, where something is simulated: no other job has to carry its four megabytes.
 * @example await startPhysics()
 */
export function startPhysics(): Promise<void> {
  starting ??= import('@dimforge/rapier3d-compat').then(async ({ default: engine }) => {
    await engine.init()
    RAPIER = engine
  })
  return starting
}
