import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { PackFacts } from '../storage/database'
import { getPackFacts } from '../storage/packs'

const keyOf = (crateId: string) => ['pack', crateId]

/** What is known of a crate's last pack: null where there is none, undefined while it is looked up. */
export const usePack = (crateId: string): PackFacts | null | undefined =>
  useQuery({ queryKey: keyOf(crateId), queryFn: () => getPackFacts(crateId) }).data

/** Says that a crate was packed anew. */
export function useRepacked(crateId: string): () => Promise<void> {
  const queries = useQueryClient()
  return () => queries.invalidateQueries({ queryKey: keyOf(crateId) })
}
