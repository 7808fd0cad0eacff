import { useQuery, useQueryClient } from '@tanstack/react-query'
import { listRulebooks, type OwnRulebook } from '../storage/rulebooks'

const KEY = ['rulebooks']

/** The modder's own rulebooks, the last changed first. */
export const useOwnRulebooks = (): readonly OwnRulebook[] =>
  useQuery({ queryKey: KEY, queryFn: listRulebooks }).data ?? []

/** Says that a rulebook was added, changed or removed. */
export function useRulebooksChanged(): () => Promise<void> {
  const queries = useQueryClient()
  return () => queries.invalidateQueries({ queryKey: KEY })
}
