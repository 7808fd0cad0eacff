import { element, numbersText, type Element } from './xml-text.ts'

/**
 * A source: numbers in rows, each number of a row under a name (COLLADA 1.4.1, chapter 5, “source”).
 * @param names `XYZ`, one letter a column; `TRANSFORM` for matrices of 16
 *
 * @example numberSource('gate-places', ['X', 'Y', 'Z'], positions)
 */
export function numberSource(id: string, names: readonly string[], values: ArrayLike<number>): Element {
  const isMatrix = names[0] === 'TRANSFORM'
  const stride = isMatrix ? 16 : names.length
  return element(
    'source',
    { id },
    element('float_array', { id: `${id}-array`, count: values.length }, numbersText(values)),
    element(
      'technique_common',
      {},
      element(
        'accessor',
        { source: `#${id}-array`, count: values.length / stride, stride },
        ...names.map((name) => element('param', { name, type: isMatrix ? 'float4x4' : 'float' })),
      ),
    ),
  )
}

/**
 * A source of words without spaces.
 * @example wordSource('gate-bones', 'JOINT', ['lid', 'hinge'])
 */
export const wordSource = (id: string, name: string, words: readonly string[]): Element =>
  element(
    'source',
    { id },
    element('Name_array', { id: `${id}-array`, count: words.length }, words.join(' ')),
    element(
      'technique_common',
      {},
      element(
        'accessor',
        { source: `#${id}-array`, count: words.length, stride: 1 },
        element('param', { name, type: 'name' }),
      ),
    ),
  )

/**
 * A column-major matrix as the format writes it, row by row.
 * @example rowsOf([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16]).slice(0, 4) // [1, 5, 9, 13]
 */
export const rowsOf = (matrix: ArrayLike<number>): number[] =>
  Array.from({ length: 16 }, (_, index) => matrix[(index % 4) * 4 + Math.floor(index / 4)])
