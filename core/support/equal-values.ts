/**
 * Whether two arrays hold the same numbers in the same order.
 * @example haveEqualValues(Uint8Array.of(1, 2), Uint8Array.of(1, 2)) // true
 */
export function haveEqualValues(one: ArrayLike<number>, other: ArrayLike<number>): boolean {
  if (one.length !== other.length) return false
  for (let at = 0; at < one.length; at++) if (one[at] !== other[at]) return false
  return true
}
