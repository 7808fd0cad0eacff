import { useCallback, useEffect, useRef } from 'react'

/**
 * The same function at each drawing, which calls the latest one: for what is handed to parts that are drawn again only
 * when something of theirs is another.
 *
 * @example const select = useSteady(onSelect)
 */
export function useSteady<Given extends unknown[], Answer>(
  does: (...given: Given) => Answer,
): (...given: Given) => Answer {
  const latest = useRef(does)
  useEffect(() => {
    latest.current = does
  })
  return useCallback((...given: Given) => latest.current(...given), [])
}
