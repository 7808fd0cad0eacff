import type { Crate } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import type { CompanionShape } from '../yard/companion'
import { useOtherItem, useStockScene } from '../queries/item-queries'
import { useYardView } from '../yard/yard-view'

/** What is to stand beside the item: its title, and its shape once that is there. */
export function useCompanion(crate: Crate, game: Game): { title: string; shape: CompanionShape | null } {
  const thing = useYardView((view) => view.companion?.thing ?? null)
  const item = (thing?.what === 'item' && crate.items.find((each) => each.id === thing.id)) || null
  const { rulebook } = game
  const stock = useStockScene(game, thing?.what === 'stock' ? thing.id : null)
  const other = useOtherItem(item, game)
  switch (thing?.what) {
    case undefined:
      return { title: '', shape: null }
    case 'stock':
      return {
        title: rulebook.stock.objects.find((object) => object.id === thing.id)?.title ?? thing.id,
        shape: stock && { kind: 'scene', scene: stock },
      }
    case 'item':
      return { title: item?.name ?? thing.id, shape: other && { kind: 'scene', scene: other } }
    case 'cube':
      return { title: `Cube of one ${rulebook.space.unit.name}`, shape: { kind: 'cube' } }
    case 'doorway':
      return { title: 'Doorway', shape: { kind: 'doorway' } }
    case 'figure':
      return { title: 'Figure', shape: { kind: 'figure' } }
  }
}
