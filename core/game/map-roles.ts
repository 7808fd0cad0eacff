import type { ExtensibleProperty, Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../item/extras.ts'
import { packedRole, type GameMapRole } from '../item/map-roles.ts'
import { materialMap } from '../item/source-maps.ts'
import type { ChannelMeaning } from './schema-surface.ts'
import type { MapRole, Rulebook } from './schema.ts'

const channelLetters = ['r', 'g', 'b', 'a'] as const

/**
 * What the channels of a map say, red first.
 * @example const channel = meaningsOf(role).indexOf('roughness')
 */
export const meaningsOf = ({ channels }: MapRole): (ChannelMeaning | null)[] =>
  channelLetters.map((letter) => channels[letter])

/** The first role of a game that has a meaning in some channel. */
const roleWith = ({ maps }: Rulebook, meaning: ChannelMeaning): MapRole | null =>
  maps.roles.find((role) => meaningsOf(role).includes(meaning)) ?? null

/**
 * The role by which a game reads colours; null where it reads none.
 * @example const ending = colourRole(rulebook)?.ending
 */
export const colourRole = (rulebook: Rulebook): MapRole | null => roleWith(rulebook, 'red')

/**
 * The role by which a game reads relief; null where it reads none.
 * @example const name = normalRole(rulebook)?.role
 */
export const normalRole = (rulebook: Rulebook): MapRole | null => roleWith(rulebook, 'normal-x')

/**
 * The roles that a game packs of several things, beside colour and relief.
 * @example for (const role of packedRoles(rulebook)) await pack(role)
 */
export const packedRoles = (rulebook: Rulebook): MapRole[] =>
  rulebook.maps.roles.filter((role) => role !== colourRole(rulebook) && role !== normalRole(rulebook))

/**
 * Where an item keeps the map of a role: colour and relief stand where every material has them, the rest under the
 * role's own name.
 * @example keyOf(role, rulebook) // 'colour', 'normal' or `packed:${role.role}`
 */
export function keyOf(role: MapRole, rulebook: Rulebook): GameMapRole {
  if (role === colourRole(rulebook)) return 'colour'
  return role === normalRole(rulebook) ? 'normal' : packedRole(role.role)
}

/**
 * The role that a game reads what an item keeps under a key by; null where it reads no such map.
 *
 * @example const role = roleOfKey(card.output, rulebook)
 */
export const roleOfKey = (key: string, rulebook: Rulebook): MapRole | null =>
  rulebook.maps.roles.find((role) => keyOf(role, rulebook) === key) ?? null

/**
 * A role by its own name.
 * @example roleNamed('nothing of the kind', rulebook) // null
 */
export const roleNamed = (name: string, { maps }: Rulebook): MapRole | null =>
  maps.roles.find(({ role }) => role === name) ?? null

/**
 * The roles of a game for which a material has a map, of its own or of the game's.
 * @example const names = presentMaps(material, rulebook).map(({ role }) => role)
 */
export function presentMaps(material: Material, rulebook: Rulebook): MapRole[] {
  const stock = stockMaps(material, rulebook)
  return rulebook.maps.roles.filter((role) => stock.has(role.role) || materialMap(material, keyOf(role, rulebook)))
}

/**
 * For each role, by its name, the game's own texture that was chosen, where one was.
 * @example const path = stockMaps(material, rulebook).get(role.role)
 */
export function stockMaps(material: ExtensibleProperty, rulebook: Rulebook): Map<string, string> {
  const chosen = new Map<string, string>()
  for (const { role: key, stock } of getMaterialExtras(material).references) {
    const role = roleOfKey(key, rulebook)
    if (stock !== undefined && role && !chosen.has(role.role)) chosen.set(role.role, stock)
  }
  return chosen
}

/**
 * Whether a material shows relief in a game.
 * @example const bumpy = listUsedMaterials(document).filter((material) => showsRelief(material, rulebook))
 */
export const showsRelief = (material: Material, rulebook: Rulebook): boolean =>
  presentMaps(material, rulebook).some((role) => role === normalRole(rulebook))

/**
 * A channel of one of a material's packed maps that says a thing, or its opposite; null where none does.
 * @example const glow = packedChannel(material, 'glow', rulebook)
 */
export function packedChannel(
  material: Material,
  meaning: 'occlusion' | 'roughness' | 'metalness' | 'glow',
  rulebook: Rulebook,
): { key: GameMapRole; channel: 0 | 1 | 2 | 3; inverted: boolean } | null {
  for (const role of packedRoles(rulebook)) {
    const key = keyOf(role, rulebook)
    if (!materialMap(material, key)) continue
    const meanings = meaningsOf(role)
    const straight = meanings.indexOf(meaning)
    const turned = meaning === 'roughness' ? meanings.indexOf('gloss') : -1
    if (straight >= 0) return { key, channel: straight as 0 | 1 | 2 | 3, inverted: false }
    if (turned >= 0) return { key, channel: turned as 0 | 1 | 2 | 3, inverted: true }
  }
  return null
}
