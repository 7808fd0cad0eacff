import type { Draw } from './draw.ts'

const words = [
  '0', '-1', '1', '999999999', '-999999999', '1e308', '-1e308', '1e999', 'NaN', 'inf', '1.2.3', '"', "'", '<', '>', '&lt;',
  '/', '//', '1/2/3', '{', '}', '[', ']', '*', '#', '\\', 'constructor', '__proto__', 'a'.repeat(5000), '\u0000', '😀',
] // prettier-ignore

/** Signs that a repeated piece adds at most: what is tried is many of a thing, not a large file. */
const MOST_ADDED = 200_000

/** Words, numbers and signs, with what stands between them. */
const tokens = (text: string): string[] => text.match(/[\w.+-]+|\s+|[^\w\s]/g) ?? []

/** A text with one to four tokens set, taken out or exchanged, or lines taken out, repeated or exchanged. */
export function mutateText(text: string, draw: Draw): string {
  let out = text
  for (let count = 1 + draw.below(4); count > 0 && out.length > 0; count--) {
    const byLine = draw.chance(0.4)
    const pieces = byLine ? out.split('\n') : tokens(out)
    if (pieces.length === 0) break
    const at = draw.below(pieces.length)
    const what = draw.below(5)
    if (what === 0) pieces.splice(at, 1 + draw.below(byLine ? 5 : 2))
    else if (what === 1) {
      const times = Math.min(draw.one([1, 20, 2000]), Math.ceil(MOST_ADDED / (pieces[at].length + 1)))
      pieces.splice(at, 0, ...Array.from({ length: times }, () => pieces[at]))
    } else if (what === 2) pieces[at] = draw.one(pieces)
    else pieces[at] = byLine ? pieces[at].replace(/\S+/, draw.one(words)) : draw.one(words)
    out = pieces.join(byLine ? '\n' : '')
  }
  return out
}
