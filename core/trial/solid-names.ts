import type { Rulebook } from '../game/schema.ts'

/**
 * Whether a name that is not a solid's spells one's, but for one letter, its case or its marks.
 * @example if (isNearlySolid(node.name, rulebook)) log.complain(file)
 */
export function isNearlySolid(name: string, rulebook: Rulebook): boolean {
  const spelled = name.toLowerCase().replace(/[^a-z]/g, '')
  const shapes = new Set(rulebook.kinds.flatMap((kind) => kind.solids?.shapes ?? []))
  return [...shapes].some((shape) => {
    const right = rulebook.solids.name
      .replace('{shape}', shape)
      .replace('{nn}', '')
      .toLowerCase()
      .replace(/[^a-z]/g, '')
    return oneLetterOff(spelled, right)
  })
}

function oneLetterOff(word: string, right: string): boolean {
  if (word === right) return true
  if (Math.abs(word.length - right.length) > 1) return false
  let start = 0
  while (start < word.length && word[start] === right[start]) start++
  const rest = (from: number, to: number): boolean => word.slice(from) === right.slice(to)
  const swapped = word[start] === right[start + 1] && word[start + 1] === right[start] && rest(start + 2, start + 2)
  return rest(start + 1, start + 1) || rest(start + 1, start) || rest(start, start + 1) || swapped
}
