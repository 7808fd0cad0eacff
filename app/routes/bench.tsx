import { useParams, useSearchParams } from 'react-router'
import { z } from 'zod'
import { findKind } from '../../core/game/load'
import { stages } from '../../core/support/stages'
import { Bench } from '../bench/bench'
import { UnknownKind } from '../bench/unknown-kind'
import { useCrate } from '../crate/use-crate'

export default function BenchRoute() {
  const { itemId } = useParams()
  const [search] = useSearchParams()
  const { crate, rulebook } = useCrate()
  const item = crate.items.find((each) => each.id === itemId)
  const stage = z.enum(stages).safeParse(search.get('stage'))
  if (!item) return <p className="p-10">This item is no longer in the crate. Choose another, or undo.</p>
  if (!findKind(rulebook, item.kind)) return <UnknownKind item={item} />
  return (
    <Bench
      key={item.id}
      item={item}
      stage={stage.success ? stage.data : 'mesh'}
      prepared={search.get('desk') === 'prepared'}
    />
  )
}
