import { axesTurn, axisVector, identityMatrix, multiplyMatrices, WORKING_FORWARD, WORKING_UP } from '../maths/axes.ts'
import type { Rulebook } from './schema.ts'

/**
 * The door between the working space and a game's. Inside, an item is always right-handed with +Y up and +Z forward, in
 * the game's unit; only its axes and its hand are made on the way out and undone on the way in. Faces stay wound so
 * that the right-hand rule on the file's own numbers points outward, whichever hand the game has.
 */
type Space = Rulebook['space']

/**
 * The matrix (column-major 4 × 4, entries 0 and ±1) from the working space to a game's; it mirrors where the game is
 * left-handed.
 * @example workingToGame(rulebook.space) // the identity for a game with +Y up and +Z forward, right-handed
 */
export function workingToGame(space: Space): number[] {
  const turn = axesTurn(WORKING_UP, WORKING_FORWARD, space.up, space.forward)
  return space.handedness === 'right' ? turn : multiplyMatrices(mirrorAcrossSide(space), turn)
}

/**
 * The way back: the matrix from a game's space to the working space.
 * @example transformedPoints(positions, gameToWorking(rulebook.space))
 */
export function gameToWorking(space: Space): number[] {
  const out = workingToGame(space)
  return out.map((_, index) => out[(index % 4) * 4 + Math.floor(index / 4)])
}

/**
 * Whether a game's space is the working space itself, so that nothing has to be turned.
 * @example if (!isWorkingSpace(rulebook.space)) enterWorkingSpace(document, rulebook)
 */
export const isWorkingSpace = (space: Space): boolean =>
  workingToGame(space).every((value, index) => value === identityMatrix()[index])

/**
 * How a game writes an axis: “+Z”.
 * @example axisWord('+z') // '+Z'
 */
export const axisWord = (axis: string): string => axis.toUpperCase().replace('-', '−')

/**
 * The letter by which a game calls one of the working space's axes: “Z” for `y` where the game has +Z up.
 * @example const height = `${size} along ${axisLetter(rulebook.space, 'y')}`
 */
export function axisLetter(space: Space, workingAxis: 'x' | 'y' | 'z'): string {
  const column = 'xyz'.indexOf(workingAxis) * 4
  const row = workingToGame(space)
    .slice(column, column + 3)
    .findIndex((value) => value !== 0)
  return 'XYZ'[row]
}

/** One of a game's axes, and which number of the working space stands along it. */
export interface GameAxis {
  /** “Z”. */
  letter: string
  /** 0, 1 or 2 for X, Y and Z of the working space. */
  working: number
  /**
   * Whether it points the same way or the other: of places, of ways, and of turns, which a left-handed game counts by
   * the left hand.
   */
  sign: 1 | -1
}

/**
 * A game's axes in the order X, Y, Z.
 * @example gameAxes(rulebook.space).map(({ working, sign }) => sign * place[working]) // a place in the game's own numbers
 */
export function gameAxes(space: Space): GameAxis[] {
  const matrix = workingToGame(space)
  return ['X', 'Y', 'Z'].map((letter, row) => {
    const working = [0, 1, 2].find((column) => matrix[column * 4 + row] !== 0) ?? row
    return { letter, working, sign: matrix[working * 4 + row] < 0 ? -1 : 1 }
  })
}

/**
 * A game's axes in a few words: “+Z up, +X forward, left-handed”.
 * @example axesInWords(rulebook.space) // '+Y up, +Z forward, right-handed'
 */
export const axesInWords = (space: Space): string =>
  `${axisWord(space.up)} up, ${axisWord(space.forward)} forward, ${space.handedness}-handed`

/** Exchanges left and right: the axis that is neither up nor forward. */
function mirrorAcrossSide({ up, forward }: Space): number[] {
  const matrix = identityMatrix()
  const taken = [axisVector(up), axisVector(forward)]
  const side = [0, 1, 2].findIndex((axis) => taken.every((vector) => vector[axis] === 0))
  matrix[side * 5] = -1
  return matrix
}
