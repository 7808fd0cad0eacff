import { z } from 'zod'

/** Maps that are painted as games read them: what a thing's colour is, and which way its surface leans. */
export const paintedRoles = ['colour', 'normal'] as const

/** A map whose channels one game packs in its own way, by the name its rulebook gives the role: `packed:mixed`. */
export type PackedRole = `packed:${string}`

/** A map that a game reads. */
export type GameMapRole = (typeof paintedRoles)[number] | PackedRole

/**
 * Maps that makers paint, and that are packed into those that games read. `gloss` is roughness turned round;
 * `metal-rough` has roughness in green and metalness in blue, as glTF has it, and says nothing by its red and alpha;
 * `orm` has occlusion in red as well.
 */
export const ingredientRoles = [
  'metal-rough',
  'orm',
  'occlusion',
  'roughness',
  'gloss',
  'metalness',
  'glow',
  'height',
  'opacity',
  'specular',
] as const
export type IngredientRole = (typeof ingredientRoles)[number]

/** What a picture of a source can be. */
export type SourceRole = (typeof paintedRoles)[number] | IngredientRole

/**
 * The key of a game’s packed role, by the name that the game gives it.
 * @example packedRole('mix') // 'packed:mix'
 */
export const packedRole = (name: string): PackedRole => `packed:${name}`
/**
 * Whether a key stands for a map whose channels mean several things.
 * @example isPackedRole('packed:mix') // true
 */
export const isPackedRole = (role: string): role is PackedRole => role.startsWith('packed:')
/**
 * Whether a role is one that a game’s maps may have, and no ingredient of one.
 *
 * @example isGameMapRole('normal') // true
 */
export const isGameMapRole = (role: string): role is GameMapRole =>
  paintedRoles.some((known) => known === role) || isPackedRole(role)
/**
 * Whether a role is one that goes into maps and is none itself.
 * @example isIngredientRole('colour') // false
 */
export const isIngredientRole = (role: string): role is IngredientRole =>
  ingredientRoles.some((known) => known === role)

/** The role of any map of a material, as it is kept and sent about. */
export const mapRoleSchema = z.union([
  z.enum([...paintedRoles, ...ingredientRoles]),
  z.templateLiteral(['packed:', z.string().max(64)]),
])

/** Words by which people name what a picture is for. The first role that has one of a name's words is taken. */
const wordsOfRole: readonly [SourceRole, readonly string[]][] = [
  ['normal', ['normal', 'normals', 'nrm', 'nor', 'norm', 'normalmap', 'n', 'ngl', 'ndx']],
  ['orm', ['orm', 'arm', 'occlusionroughnessmetallic']],
  ['metal-rough', ['metallicroughness', 'metalroughness', 'metalrough', 'roughmetal']],
  ['gloss', ['gloss', 'glossy', 'glossiness', 'smooth', 'smoothness']],
  ['roughness', ['rough', 'roughness', 'rgh', 'r']],
  ['metalness', ['metal', 'metallic', 'metalness', 'met', 'mtl', 'm']],
  ['occlusion', ['ao', 'occ', 'occlusion', 'ambientocclusion', 'cavity']],
  ['glow', ['glow', 'emissive', 'emission', 'emit', 'selfillum']],
  ['height', ['height', 'disp', 'displacement', 'bump', 'h']],
  ['opacity', ['opacity', 'alpha', 'mask', 'transparency', 'cutout', 'a']],
  ['specular', ['specular', 'spec', 's']],
  [
    'colour',
    [
      'albedo',
      'diffuse',
      'diff',
      'dif',
      'colour',
      'color',
      'col',
      'basecolor',
      'basecolour',
      'base',
      'bc',
      'd',
      'c',
      'kd',
    ],
  ],
]

const allRoleWords = new Set([...wordsOfRole.flatMap(([, words]) => words), ...paintedRoles, ...ingredientRoles])

/**
 * Whether a word of a name says what a picture is for, or which way its green points, and not what it shows.
 * @example isRoleWord('roughness') // true
 */
export const isRoleWord = (word: string): boolean => allRoleWords.has(word) || word === 'gl' || word === 'dx'

/** Words that say how large a picture is, or which copy: `2k`, `1024`, `512x512`, `copy`, `(1)`, `v2`, `final`. */
const sizeOrCopy = /^(\d+k?|\d{2,5}x\d{2,5}|copy|kopie|v\d+|final|new|old|gl|dx|ogl)$/

/**
 * The words of a file's name, lower case: split at punctuation and where small letters turn to capitals.
 * @example wordsOfName('GateOak_BaseColor') // ['gate', 'oak', 'base', 'color']
 */
export function wordsOfName(stem: string): string[] {
  return stem
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '')
}

/**
 * What a picture is for, by its file's name without ending; null when the name does not say. Single letters count only
 * at the end.
 *
 * @example roleFromName('gate_oak_normal') // 'normal'
 */
export function roleFromName(stem: string): SourceRole | null {
  const words = wordsOfName(stem).filter((word) => !sizeOrCopy.test(word))
  const joined = new Set(words.slice(1).map((word, index) => words[index] + word))
  const last = words.length > 1 ? words.at(-1) : undefined
  const has = (word: string): boolean => (word.length === 1 ? last === word : words.includes(word) || joined.has(word))
  // A word at the end says more than one before it: “metal_door_normal” is a normal map of a metal door.
  const byLast = wordsOfRole.find(([, known]) => last !== undefined && known.includes(last))
  return (byLast ?? wordsOfRole.find(([, known]) => known.some(has)))?.[0] ?? null
}

/**
 * The name of what a picture belongs to: its words without role, size and copy.
 * @param saysRole which words tell a role; those of the trade, unless a game has more
 *
 * @example subjectOfName('gate_oak_normal') // 'gate_oak'
 */
export function subjectOfName(stem: string, saysRole: (word: string) => boolean = isRoleWord): string {
  const words = wordsOfName(stem)
  const kept = words.filter((word, index) => index === 0 || !(sizeOrCopy.test(word) || saysRole(word)))
  return kept.join('_')
}
