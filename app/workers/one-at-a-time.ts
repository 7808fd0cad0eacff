import type { YardFrameMessage } from './yard-messages'

/**
 * Hands frames to the page one at a time. A page that draws slower than the yard steps would otherwise have ever more
 * of them before it, and show what was long ago: what comes meanwhile is passed over, but for its knocks and for what
 * happened in it, which the next frame tells.
 * @param take shows a frame; done when the page is ready for another
 *
 * @example const show = oneAtATime(onFrame); show(yard.step(input))
 */
export function oneAtATime(take: (frame: YardFrameMessage) => Promise<void>): (frame: YardFrameMessage) => void {
  let isTaking = false
  let waiting: YardFrameMessage | null = null
  const hand = async (frame: YardFrameMessage): Promise<void> => {
    isTaking = true
    await take(frame)
    isTaking = false
    const next = waiting
    waiting = null
    if (next) await hand(next)
  }
  return (frame) => {
    if (!isTaking) void hand(frame)
    else
      waiting = waiting
        ? { ...frame, knocks: joined(waiting.knocks, frame.knocks), happened: joined(waiting.happened, frame.happened) }
        : frame
  }
}

/** What is told of frames that were passed over, at most; a page that is away for minutes needs no more. */
const MOST_TOLD = 300
const joined = <Told>(earlier: readonly Told[], later: readonly Told[]): Told[] =>
  [...earlier, ...later].slice(-MOST_TOLD)
