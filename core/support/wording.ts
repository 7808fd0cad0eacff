let grouped: Intl.NumberFormat | null = null

/**
 * 38412 → “38,412”.
 *
 * @example formatCount(38096) // '38,096'
 */
export function formatCount(value: number): string {
  // Made when the first number is written: it takes as long as all else that a short call loads.
  grouped ??= new Intl.NumberFormat('en-GB')
  return grouped.format(Math.round(value))
}

/**
 * −28452 → “−28,452”, 3 → “+3”, 0 → “0”.
 *
 * @example formatChange(-51631) // '−51,631'
 */
export function formatChange(value: number): string {
  if (value === 0) return '0'
  return `${value < 0 ? '−' : '+'}${formatCount(Math.abs(value))}`
}

/**
 * A length with three significant digits, without a trailing “.0”.
 *
 * @example formatLength(7.9123) // '7.91'
 */
export function formatLength(value: number): string {
  if (value === 0) return '0'
  const digits = Math.max(0, 2 - Math.floor(Math.log10(Math.abs(value))))
  return String(Number(value.toFixed(Math.min(6, digits))))
}

/**
 * A name of the game or of a file as one would write it.
 *
 * @example nameInWords('boathouse_gate') // 'Boathouse gate'
 */
export function nameInWords(name: string): string {
  const words = name.replaceAll(/[_-]+/g, ' ').trim()
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/**
 * A noun with its article: “an addition”.
 *
 * @example withArticle('oar') // 'an oar'
 */
export const withArticle = (noun: string): string => `${/^[aeiou]/i.test(noun) ? 'an' : 'a'} ${noun}`

/**
 * “1 part”, “2 parts”.
 *
 * @example plural(2, 'part') // '2 parts'
 */
export const plural = (count: number, word: string, many = `${word}s`): string =>
  `${formatCount(count)} ${count === 1 ? word : many}`

/** So many names are told before the rest is counted. */
const MOST_TOLD = 3

/**
 * Names in a row, those beyond the first few as their number.
 *
 * @example listed(['lid', 'pot', 'oar', 'net', 'rope']) // 'lid, pot, oar and 2 more'
 */
export const listed = (names: readonly string[]): string =>
  names.length <= MOST_TOLD
    ? names.join(', ')
    : `${names.slice(0, MOST_TOLD).join(', ')} and ${formatCount(names.length - MOST_TOLD)} more`

/** What the browser’s store is called wherever something is said of it. */
export const BROWSER_STORE = 'this browser’s storage'
