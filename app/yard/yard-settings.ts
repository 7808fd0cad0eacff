import type { Rulebook } from '../../core/game/schema'

/** How the yard shows the item. */
export type YardLook = 'seen' | 'facing' | 'edges' | 'shift' | 'held' | 'solids'

export const yardLooks: readonly { id: YardLook; label: string }[] = [
  { id: 'seen', label: 'As seen' },
  { id: 'facing', label: 'Facing' },
  { id: 'edges', label: 'Edges' },
  { id: 'shift', label: 'Shift' },
  { id: 'held', label: 'Bones' },
  { id: 'solids', label: 'Solids' },
]

/** A box to look at; `at` makes the same box a new wish. */
export interface Framing {
  /** Where the camera looks from, as a direction; the usual one when it is not given. */
  from?: readonly [number, number, number]
  min: [number, number, number]
  max: [number, number, number]
  at: number
}

/** What the yard has to know of the game's space. */
export interface YardSpace {
  figureHeight: number
  figureWidth: number
  gridCell: number
  doorwayWidth: number
  doorwayHeight: number
  unitPlural: string
}

const spaces = new WeakMap<Rulebook, YardSpace>()

/** The same object for the same rulebook, so that the yard is not drawn anew for nothing. */
export function yardSpaceOf(rulebook: Rulebook): YardSpace {
  const known = spaces.get(rulebook)
  if (known) return known
  const { figure, doorway, gridCell, unit } = rulebook.space
  const made = {
    figureHeight: figure.height,
    figureWidth: figure.width,
    gridCell,
    doorwayWidth: doorway.width,
    doorwayHeight: doorway.height,
    unitPlural: unit.plural,
  }
  spaces.set(rulebook, made)
  return made
}
