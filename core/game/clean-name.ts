import { isRoleWord } from '../item/map-roles.ts'
import type { Rulebook } from './schema.ts'
import { isGameName } from './names.ts'

const sizeOrCopy = /^(?:\d+k|\d{3,4}(?:x\d{3,4})?|v\d+|copy|\d{3})$/

const words = (name: string): string[] =>
  name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '')

/**
 * A name the game accepts, as near as possible to the one given: its words without copy numbers, versions and sizes,
 * joined by `_` and in lower case where the game takes that, else as it takes them; never empty, reserved or too long.
 *
 * @example const name = cleanName(rulebook, 'Old gate (final).001', 'part')
 */
export function cleanName(rulebook: Rulebook, name: string, fallback: string): string {
  return fit(
    rulebook,
    words(name).filter((word, index) => index === 0 || !sizeOrCopy.test(word)),
    fallback,
  )
}

/**
 * Which words of a name tell what a picture is for: the trade’s own and the game’s.
 * @example subjectOfName('gate_oak_col', roleWordsOf(rulebook))
 */
export function roleWordsOf({ maps }: Rulebook): (word: string) => boolean {
  const own = new Set(maps.roles.flatMap(({ role, ending }) => [...words(role), ...words(ending)]))
  return (word) => isRoleWord(word) || own.has(word)
}

/**
 * The same for a texture: words for its role, the trade’s and the game’s own, are left out, the rulebook's ending is
 * put on.
 *
 * @example cleanTextureName(rulebook, 'Gate Oak BaseColor', '_col', 'map')
 */
export function cleanTextureName(rulebook: Rulebook, name: string, ending: string, fallback: string): string {
  const saysRole = roleWordsOf(rulebook)
  const kept = words(name).filter((word, index) => index === 0 || (!sizeOrCopy.test(word) && !saysRole(word)))
  const room = { ...rulebook, names: { ...rulebook.names, longest: rulebook.names.longest - ending.length } }
  return fit(room, kept, fallback) + ending
}

/** How words become one name, in the order tried: a game's pattern decides which it takes. */
const joints = ['_', '-', '.', '']
const cases: readonly ((word: string) => string)[] = [
  (word) => word,
  (word) => word.charAt(0).toUpperCase() + word.slice(1),
  (word) => word.toUpperCase(),
]

function fit(rulebook: Rulebook, kept: string[], fallback: string): string {
  const named = kept.length > 0 && /^[a-z]/.test(kept[0]) ? kept : [fallback, ...kept]
  const spellings = [named, [fallback, ...named]].flatMap((each) =>
    cases.flatMap((spelled) => joints.map((joint) => shortened(each.map(spelled), joint, rulebook.names.longest))),
  )
  return spellings.find((name) => isGameName(rulebook, name)) ?? spellings[0]
}

function shortened(parts: readonly string[], joint: string, longest: number): string {
  let name = parts.join(joint).slice(0, longest)
  while (joint !== '' && name.endsWith(joint)) name = name.slice(0, -joint.length)
  return name
}

/** Two names as one, joined as the game's pattern takes it. @example joinedName(rulebook, 'oak', 'worn') // oak_worn */
export function joinedName(rulebook: Rulebook, first: string, second: string): string {
  const joined = joints.map((joint) => `${first}${joint}${second}`)
  return joined.find((name) => isGameName(rulebook, name)) ?? joined[0]
}

/**
 * Numbers a name until it is new, as the game joins words: `gate`, `gate_2`, `gate_3`.
 * @param ending what the name ends with and has to: the number goes before it
 *
 * @example uniqueName(rulebook, 'oak_col', new Set(['oak_col']), '_col') // 'oak_2_col'
 */
export function uniqueName(rulebook: Rulebook, name: string, taken: ReadonlySet<string>, ending = ''): string {
  if (!taken.has(name)) return name
  const kept = name.endsWith(ending) ? ending : ''
  const stem = name.slice(0, name.length - kept.length)
  const numbered = (joint: string, number: number): string => {
    const suffix = `${joint}${number}${kept}`
    return stem.slice(0, rulebook.names.longest - suffix.length) + suffix
  }
  const joint = joints.find((each) => isGameName(rulebook, numbered(each, 2))) ?? joints[0]
  for (let number = 2; ; number++) {
    const candidate = numbered(joint, number)
    if (!taken.has(candidate)) return candidate
  }
}
