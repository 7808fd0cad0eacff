import type { SceneData } from '../workers/scene-data'

type Motion = NonNullable<SceneData['motion']>

/** The frame at or before a time, and how far the next is along. */
export function framesAt({ seconds, frames }: Pick<Motion, 'seconds' | 'frames'>, at: number): [number, number] {
  const place = Math.min(1, Math.max(0, at / seconds)) * (frames - 1)
  const frame = Math.min(frames - 2, Math.floor(place))
  return [frame, place - frame]
}

/**
 * Where one thing is at a time. Frames are so near each other that what lies between is straight.
 * @param matrices 16 numbers a frame, column-major
 * @returns 16 numbers
 */
export function matrixAt(motion: Pick<Motion, 'seconds' | 'frames'>, matrices: Float32Array, at: number): number[] {
  const [frame, share] = framesAt(motion, at)
  const next = Math.min(motion.frames - 1, frame + 1)
  return Array.from({ length: 16 }, (_, number) => {
    const here = matrices[frame * 16 + number]
    return here + (matrices[next * 16 + number] - here) * share
  })
}
