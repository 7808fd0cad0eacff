import { skipToken, useQuery } from '@tanstack/react-query'
import type { CrateItem } from '../../core/crate/schema'
import { rulebookKey, type Game } from '../../core/game/game'
import { compareOfficial, thumbnailsOf } from '../workers/clients'
import type { Official, Thumbnail } from '../workers/source-messages'

/** Small pictures of what was brought with an item; none while they are made. */
export function useThumbnails(item: CrateItem | null): readonly Thumbnail[] {
  const { data } = useQuery({
    queryKey: ['thumbnails', item?.sources],
    queryFn: item ? () => thumbnailsOf(item) : skipToken,
  })
  return data ?? []
}

/** What an item's source is compared with: an object of the game's stock, or another item of the crate. */
export type OfficialChoice = { stock: string } | { item: CrateItem }

/** The comparison with an official object, and whether it is being made; nothing while none is chosen. */
export function useComparison(
  item: CrateItem,
  game: Game,
  official: OfficialChoice | null,
): { comparison: Official | null; busy: boolean } {
  const source = ({ main, models, sources, reading }: CrateItem) => [main, models, sources, reading]
  const { data, isFetching } = useQuery({
    queryKey: [
      'official',
      rulebookKey(game.rulebook),
      source(item),
      official && ('item' in official ? source(official.item) : official),
    ],
    queryFn: official ? () => compareOfficial(item, game, official) : skipToken,
  })
  return { comparison: (official && data) || null, busy: isFetching }
}
