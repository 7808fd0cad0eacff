import { useMemo, useState } from 'react'
import type { SceneData } from '../workers/scene-data'
import { frameOf } from '../yard/yard-framing'
import type { Framing, YardSpace } from '../yard/yard-settings'

/**
 * What the camera takes in: the whole of what stands there, until something else is asked for later.
 * @param asked what another panel asked to be shown
 * @param beside size of what stands beside the item
 */
export function useFraming(
  subject: SceneData | null,
  space: YardSpace,
  beside: readonly number[],
  asked: Framing | null,
): { framing: Framing | null; show: (framing: Framing) => void; showWhole: () => void } {
  const [reframed, setReframed] = useState<Framing | null>(null)
  const [width, height, depth] = beside
  const whole = useMemo(
    () => (subject ? frameOf(subject, space, [width, height, depth]) : null),
    [subject, space, width, height, depth],
  )
  const [latest = null] = [asked, reframed, whole].filter((each) => each !== null).sort((a, b) => b.at - a.at)
  return {
    framing: whole && latest,
    show: setReframed,
    showWhole: () => subject && setReframed(frameOf(subject, space, beside)),
  }
}
