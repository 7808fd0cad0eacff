import { useParams, useSearchParams } from 'react-router'
import { z } from 'zod'
import { stages } from '../../core/support/stages'
import { Bench } from '../bench/bench'
import { useCrate } from '../crate/use-crate'

export default function BenchRoute() {
  const { itemId } = useParams()
  const [search] = useSearchParams()
  const { crate } = useCrate()
  const item = crate.items.find((each) => each.id === itemId)
  const stage = z.enum(stages).safeParse(search.get('stage'))
  if (!item) return <p className="p-10">This item is no longer in the crate. Choose another, or undo.</p>
  return <Bench key={item.id} item={item} stage={stage.success ? stage.data : 'mesh'} />
}
