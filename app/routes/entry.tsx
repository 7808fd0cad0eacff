import { useParams } from 'react-router'
import { findKind } from '../../core/game/load'
import { UnknownKind } from '../bench/unknown-kind'
import { useCrate } from '../crate/use-crate'
import { EntryDesk } from '../entry/entry-desk'

export default function EntryRoute() {
  const { itemId } = useParams()
  const { crate, rulebook } = useCrate()
  const item = crate.items.find((each) => each.id === itemId)
  if (!item) return <p className="p-10">This item is no longer in the crate. Choose another, or undo.</p>
  if (!findKind(rulebook, item.kind)) return <UnknownKind item={item} />
  return <EntryDesk key={item.id} item={item} />
}
