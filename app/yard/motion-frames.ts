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
 * @param into 16 numbers, written over
 * @returns `into`
 */
export function matrixAt<Into extends number[]>(
  motion: Pick<Motion, 'seconds' | 'frames'>,
  matrices: Float32Array,
  at: number,
  into: Into,
): Into {
  const [frame, share] = framesAt(motion, at)
  const next = Math.min(motion.frames - 1, frame + 1)
  for (let number = 0; number < 16; number++) {
    const here = matrices[frame * 16 + number]
    into[number] = here + (matrices[next * 16 + number] - here) * share
  }
  return into
}
