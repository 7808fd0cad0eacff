import { RE2JS } from 're2js'

const compiled = new Map<string, RE2JS | null>()
const MOST_KEPT = 100

function compile(source: string): RE2JS | null {
  const known = compiled.get(source)
  if (known !== undefined) return known
  let made: RE2JS | null = null
  try {
    made = RE2JS.compile(source)
  } catch {
    // No pattern, or one that looks back or ahead, which cannot be matched in linear time.
  }
  if (compiled.size >= MOST_KEPT) compiled.clear()
  compiled.set(source, made)
  return made
}

/**
 * Whether a regular expression is one that is matched in time proportional to the text (Cox 2010, RE2: no looking back
 * or ahead).
 *
 * @example isLinearPattern('^[a-z0-9_]+$') // true
 */
export const isLinearPattern = (source: string): boolean => compile(source) !== null

/**
 * Whether a whole text matches a pattern that somebody else wrote. However it is made, it takes time in proportion to
 * the text.
 *
 * @example matchesWhole('[a-z][a-z0-9_]*', 'gate_01') // true
 */
export const matchesWhole = (source: string, text: string): boolean => compile(source)?.matches(text) ?? false
