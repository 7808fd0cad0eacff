/**
 * Whether a name fits what was typed, in whatever case: a part of it, or a pattern with * for any signs and ? for one.
 * @param what `whole`: what has neither * nor ? has to be the whole name
 *
 * @example fitsPattern('Post_03.glb', 'post_*') // true
 */
export function fitsPattern(name: string, typed: string, what: 'part' | 'whole' = 'part'): boolean {
  const wanted = typed.trim().toLowerCase()
  const given = name.toLowerCase()
  if (wanted === '') return true
  if (what === 'part' && !/[*?]/.test(wanted)) return given.includes(wanted)
  // Where a sign does not fit, the last * takes one sign more: no pattern takes longer than its length × the name's.
  let [at, sign, star, taken] = [0, 0, -1, 0]
  while (at < given.length) {
    if (wanted[sign] === '*') {
      star = sign++
      taken = at
    } else if (sign < wanted.length && (wanted[sign] === '?' || wanted[sign] === given[at])) {
      at++
      sign++
    } else if (star >= 0) {
      sign = star + 1
      at = ++taken
    } else return false
  }
  return /^\**$/.test(wanted.slice(sign))
}
