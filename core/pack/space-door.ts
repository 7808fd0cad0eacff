import type { Document } from '@gltf-transform/core'
import { gameToWorking, isWorkingSpace, workingToGame } from '../game/space.ts'
import type { Rulebook } from '../game/schema.ts'
import { changeBasis } from '../geometry/mesh/change-basis.ts'

/**
 * Turns an item from the working space into the game's axes and hand: places, normals, tangents, bones, keys and
 * winding.
 *
 * @example leaveWorkingSpace(document, rulebook)
 */
export function leaveWorkingSpace(document: Document, { space }: Rulebook): void {
  if (!isWorkingSpace(space)) changeBasis(document, workingToGame(space), 1)
}

/**
 * Turns what was read from a game's file into the working space.
 * @example enterWorkingSpace(await openMesh(mesh, rulebook), rulebook)
 */
export function enterWorkingSpace(document: Document, { space }: Rulebook): void {
  if (!isWorkingSpace(space)) changeBasis(document, gameToWorking(space), 1)
}
