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
 * A name the game accepts, as near as possible to the one given: lower case, words joined by `_`, without
 * copy numbers, versions and sizes; never empty, reserved or too long.
 */
export function cleanName(rulebook: Rulebook, name: string, fallback: string): string {
  return fit(
    rulebook,
    words(name).filter((word, index) => index === 0 || !sizeOrCopy.test(word)),
    fallback,
  )
}

/** The same for a texture: words for its role, the trade’s and the game’s own, are left out, the rulebook's ending is put on. */
export function cleanTextureName(rulebook: Rulebook, name: string, ending: string, fallback: string): string {
  const own = new Set(rulebook.maps.roles.flatMap(({ role, ending: each }) => [...words(role), ...words(each)]))
  const saysRole = (word: string): boolean => isRoleWord(word) || own.has(word)
  const kept = words(name).filter((word, index) => index === 0 || (!sizeOrCopy.test(word) && !saysRole(word)))
  const room = { ...rulebook, names: { ...rulebook.names, longest: rulebook.names.longest - ending.length } }
  return fit(room, kept, fallback) + ending
}

function fit(rulebook: Rulebook, kept: string[], fallback: string): string {
  let name = kept.join('_') || fallback
  if (!/^[a-z]/.test(name)) name = `${fallback}_${name}`
  name = name.slice(0, rulebook.names.longest).replace(/_+$/, '')
  return isGameName(rulebook, name) ? name : `${fallback}_${name}`.slice(0, rulebook.names.longest)
}

/** Numbers a name until it is new: `gate`, `gate_2`, `gate_3`. */
export function uniqueName(rulebook: Rulebook, name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name
  for (let number = 2; ; number++) {
    const suffix = `_${number}`
    const candidate = name.slice(0, rulebook.names.longest - suffix.length) + suffix
    if (!taken.has(candidate)) return candidate
  }
}
