import { useEffect, useState } from 'react'

const MILLISECONDS = 700

/** Turns over between true and false while something flickers; stands still for those who want no motion. */
export function useFlicker(on: boolean): [boolean, () => void] {
  const [first, setFirst] = useState(true)
  useEffect(() => {
    if (!on || matchMedia('(prefers-reduced-motion: reduce)').matches) return
    const timer = setInterval(() => setFirst((before) => !before), MILLISECONDS)
    return () => clearInterval(timer)
  }, [on])
  return [first, () => setFirst((before) => !before)]
}
