import { describe, expect, it } from 'vitest'
import { oneAtATime } from './one-at-a-time'
import type { YardFrameMessage } from './yard-messages'

const frameAt = (seconds: number, told: Partial<YardFrameMessage> = {}): YardFrameMessage => ({
  seconds,
  feet: [0, 0, seconds],
  touches: null,
  moved: [],
  balls: [],
  remains: [],
  broken: [],
  knocks: [],
  carries: null,
  ridesOn: null,
  run: null,
  happened: [],
  hidden: [],
  lit: false,
  standing: [],
  ...told,
})
const knock = (surface: string) => ({ surface, loudness: 1 })
const rang = (seconds: number) => ({
  seconds,
  item: 'bell',
  words: 'bell touched → ring bell',
  effect: 'sounds' as const,
})

/** A page that is done with a frame when it is told to be. */
function slowPage() {
  const taken: YardFrameMessage[] = []
  let ready = (): void => undefined
  return {
    taken,
    take: (frame: YardFrameMessage): Promise<void> => {
      taken.push(frame)
      return new Promise((resolve) => (ready = resolve))
    },
    draw: async (): Promise<void> => {
      ready()
      await new Promise((resolve) => setTimeout(resolve))
    },
  }
}

describe('frames of the yard', () => {
  it('go to a page that keeps up one by one', async () => {
    const page = slowPage()
    const show = oneAtATime(page.take)
    for (const seconds of [1, 2, 3]) {
      show(frameAt(seconds))
      await page.draw()
    }
    expect(page.taken.map(({ seconds }) => seconds)).toEqual([1, 2, 3])
  })

  it('that come while the page draws are passed over for the latest', async () => {
    const page = slowPage()
    const show = oneAtATime(page.take)
    for (let seconds = 1; seconds <= 50; seconds++) show(frameAt(seconds))
    expect(page.taken.map(({ seconds }) => seconds)).toEqual([1])
    await page.draw()
    expect(page.taken.map(({ seconds }) => seconds)).toEqual([1, 50])
    await page.draw()
    expect(page.taken).toHaveLength(2)
  })

  it('that are passed over lose neither a knock nor what happened', async () => {
    const page = slowPage()
    const show = oneAtATime(page.take)
    show(frameAt(1))
    show(frameAt(2, { knocks: [knock('wood')] }))
    show(frameAt(3, { happened: [rang(3)] }))
    show(frameAt(4, { knocks: [knock('iron')] }))
    await page.draw()
    expect(page.taken.at(-1)).toMatchObject({
      seconds: 4,
      feet: [0, 0, 4],
      knocks: [knock('wood'), knock('iron')],
      happened: [rang(3)],
    })
  })

  it('go on after the page was away, and what they tell does not grow without end', async () => {
    const page = slowPage()
    const show = oneAtATime(page.take)
    show(frameAt(0))
    for (let seconds = 1; seconds <= 1000; seconds++) show(frameAt(seconds, { knocks: [knock(String(seconds))] }))
    await page.draw()
    expect(page.taken.at(-1)?.knocks).toHaveLength(300)
    expect(page.taken.at(-1)?.knocks.at(-1)?.surface).toBe('1000')
    await page.draw()
    show(frameAt(1001))
    expect(page.taken.at(-1)?.seconds).toBe(1001)
  })
})
