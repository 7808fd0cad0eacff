import { keyOf } from '../game/map-roles.ts'
import type { Rulebook } from '../game/schema.ts'
import { getMaterialExtras } from '../item/extras.ts'
import { listLooks, materialsInLook } from '../item/looks.ts'
import { listMaterialMaps } from '../item/source-maps.ts'
import type { PackableItem } from './pack-item.ts'
import type { LeftOut } from './packed-file.ts'

/**
 * What an item shows or was told to show and its pack does not hold: the game's own textures, maps of roles that the
 * game has not, pictures that no material shows.
 *
 * @example const leftOut = items.flatMap((item) => leftOutOf(item, rulebook))
 */
export function leftOutOf({ name: item, document }: PackableItem, rulebook: Rulebook): LeftOut[] {
  const found: LeftOut[] = []
  const roles: ReadonlySet<string> = new Set(rulebook.maps.roles.map((role) => keyOf(role, rulebook)))
  const shown = new Set<unknown>()
  for (const look of listLooks(document))
    for (const [, material] of materialsInLook(document, look)) {
      for (const { path, stock } of getMaterialExtras(material).references)
        if (stock !== undefined) found.push({ what: path, item, why: 'the game has it itself' })
      for (const { role, texture } of listMaterialMaps(material)) {
        shown.add(texture)
        if (!roles.has(role))
          found.push({ what: texture.getName() || role, item, why: `${rulebook.title} has no map for “${role}”` })
      }
    }
  for (const texture of document.getRoot().listTextures())
    if (!shown.has(texture)) found.push({ what: texture.getName() || 'a picture', item, why: 'no material shows it' })
  const seen = new Set<string>()
  return found.filter(({ what, why }) => !seen.has(`${what}\n${why}`) && seen.add(`${what}\n${why}`))
}
