import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { findKind } from '../../core/game/load'
import { useItemPicture } from '../queries/item-pictures'
import { KindMark } from './kind-mark'

interface ItemPictureProps {
  crateId: string
  item: CrateItem
  game: Game
  size?: number
  /** Whether it is what one looks at, and not one of a list. */
  urgent?: boolean
}

/** A real picture of an item; the mark of its kind until one is drawn. */
export function ItemPicture({ crateId, item, game, size = 32, urgent = false }: ItemPictureProps) {
  const picture = useItemPicture(crateId, item, game, urgent)
  if (!picture) return <KindMark kind={findKind(game.rulebook, item.kind)} size={size} />
  return (
    <span className="yard-ground block shrink-0 overflow-hidden rounded" style={{ width: size, height: size }}>
      <img src={picture} alt="" className="size-full object-contain p-px" draggable={false} />
    </span>
  )
}
