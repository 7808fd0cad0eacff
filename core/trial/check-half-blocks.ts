import type { Kind, Rulebook } from '../game/schema.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from './log.ts'
import { trianglesOf } from './sorted-nodes.ts'

/**
 * How many half-blocks and trays there are, and how small the half-blocks.
 * @example checkHalfBlocks(file, view, rulebook, kind, log)
 */
export function checkHalfBlocks(
  file: string,
  view: readonly LoadedNode[],
  { halfBlocks }: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  const most = kind.mesh?.halfBlocks
  if (!halfBlocks || most === null || most === undefined) return
  const count = trianglesOf(view)
  if (count > most) log.refuse('block.count', file, `${count} half-blocks; ${most} are read.`)
  if (view.length > halfBlocks.mostTrays)
    log.refuse('tray.count', file, `${view.length} trays; ${halfBlocks.mostTrays} stand beside the board.`)
  for (const tray of view) {
    const shortest = Number(tray.extras['shortestSide'])
    if (shortest < halfBlocks.shortestEdge)
      log.refuse(
        'block.size',
        file,
        `A half-block of ${tray.name} has a side of ${shortest}; ${halfBlocks.shortestEdge} is the least.`,
      )
  }
}
