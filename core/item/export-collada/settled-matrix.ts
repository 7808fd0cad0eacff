import { composeMatrix, decomposeMatrix, type Matrix } from '../../maths/matrices.ts'
import { unitTurn } from '../../maths/turns.ts'
import { keptNumber } from './xml-text.ts'

interface Still {
  rotation: boolean
  scale: boolean
}

/** Nearly all are settled after one round; of many thousands none took more than forty. */
const MOST_ROUNDS = 100

/**
 * The matrix of a place, as it stays when the file is read, taken apart into 32-bit numbers and written again. Rounding
 * moves the last digit of a turn at each such round, so that it is followed until it comes back to where it was: what
 * is written is the least of those that it then goes round.
 *
 * @param still what stays as its node has it, and is not read out of the matrix
 *
 * @example rowsOf(settledMatrix([0, 1, 0], [0, 0.2, 0, 0.98], [1, 1, 1]))
 */
export function settledMatrix(
  translation: readonly number[],
  rotation: readonly number[],
  scale: readonly number[],
  still: Still = { rotation: false, scale: false },
): Matrix {
  let matrix = written(translation, rotation, scale)
  const passed = new Map<string, Matrix>()
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const words = matrix.join(' ')
    if (passed.has(words)) return leastFrom(passed, words)
    passed.set(words, matrix)
    const read = decomposeMatrix(matrix)
    matrix = written(
      read.translation.map(Math.fround),
      still.rotation ? read.rotation : read.rotation.map(Math.fround),
      still.scale ? scale : read.scale.map(Math.fround),
    )
  }
  return matrix
}

/** Turns and scales stand on a grid this many digits below the scale: coarser than what taking them apart moves. */
const GRID_DIGITS = 7

function written(translation: readonly number[], rotation: readonly number[], scale: readonly number[]): Matrix {
  const largest = Math.max(...scale.map(Math.abs))
  const grid = largest > 0 ? 10 ** (Math.ceil(Math.log10(largest)) - GRID_DIGITS) : 1
  return composeMatrix(translation, unitTurn(rotation), scale).map((value, at) =>
    keptNumber(at < 12 ? Math.round(value / grid) * grid : value),
  )
}

/** The least, by its text, of those that follow each other from one on. */
function leastFrom(passed: ReadonlyMap<string, Matrix>, first: string): Matrix {
  const all = [...passed]
  const round = all.slice(all.findIndex(([words]) => words === first))
  return round.reduce((least, each) => (each[0] < least[0] ? each : least))[1]
}
