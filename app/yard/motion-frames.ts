import type { SceneData } from '../workers/scene-data'

type Motion = NonNullable<SceneData['motion']>

/** The frame at or before a time, and how far the next is along. */
export function framesAt({ seconds, frames }: Pick<Motion, 'seconds' | 'frames'>, at: number): [number, number] {
  const place = Math.min(1, Math.max(0, at / seconds)) * (frames - 1)
  const frame = Math.min(frames - 2, Math.floor(place))
  return [frame, place - frame]
}
