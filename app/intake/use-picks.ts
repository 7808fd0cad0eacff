import { useCallback, useMemo, useState } from 'react'

/** The parts that are picked, in the list and in the yard alike. */
export interface Picks {
  names: ReadonlySet<string>
  has: (name: string) => boolean
  toggle: (name: string) => void
  set: (names: readonly string[]) => void
}

export function usePicks(): Picks {
  const [names, setNames] = useState<ReadonlySet<string>>(new Set())
  const toggle = useCallback((name: string) => {
    setNames((before) => {
      const after = new Set(before)
      if (!after.delete(name)) after.add(name)
      return after
    })
  }, [])
  const set = useCallback((chosen: readonly string[]) => setNames(new Set(chosen)), [])
  return useMemo(() => ({ names, has: (name) => names.has(name), toggle, set }), [names, toggle, set])
}
