const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)

/**
 * Whether every typed word begins a word of a text. Matches in the middle of words would only confuse.
 *
 * @example beginsWords('Even normals', 'norm ev') // true
 */
export function beginsWords(text: string, typed: string): boolean {
  const own = wordsOf(text)
  return wordsOf(typed).every((word) => own.some((each) => each.startsWith(word)))
}
