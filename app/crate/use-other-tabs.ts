import { useEffect, useEffectEvent } from 'react'
import { useRevalidator } from 'react-router'
import { hearOtherTabs } from '../storage/news'

/** Shows at once what another tab changes: of one crate, or of any where none is named. */
export function useOtherTabs(crate: string | null): void {
  const { revalidate } = useRevalidator()
  const follow = useEffectEvent((changed: string) => {
    if (crate === null || changed === crate) void revalidate()
  })
  useEffect(() => hearOtherTabs((changed) => follow(changed)), [])
}
