import { useEffect, useEffectEvent, useRef } from 'react'
import { useSearchParams } from 'react-router'

/** Prepares at once where the address asks for it, as it does for what was dropped on the shelf; a reload does not. */
export function useBeginPreparing(prepare: () => void): void {
  const [search, setSearch] = useSearchParams()
  const begun = useRef(false)
  const wanted = search.get('begin') === 'preparing'
  const begin = useEffectEvent(() => {
    if (begun.current) return
    begun.current = true
    setSearch(
      (present) => {
        present.delete('begin')
        return present
      },
      { replace: true },
    )
    prepare()
  })
  useEffect(() => {
    if (wanted) begin()
  }, [wanted])
}
