import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { hearing } from './hear'

const schema = z.object({ fraction: z.number() })

describe('what is heard of a call to a worker', () => {
  it('is all that it says while it is at work', async () => {
    const heard: number[] = []
    const answer = await hearing(
      schema,
      ({ fraction }) => heard.push(fraction),
      (told) => {
        told({ fraction: 0.2 })
        told({ fraction: 0.7 })
        return Promise.resolve('done')
      },
    )
    expect(answer).toBe('done')
    expect(heard).toEqual([0.2, 0.7])
  })

  it.each([
    ['was done', () => Promise.resolve()],
    ['was stopped', () => Promise.reject(new Error('Stopped.'))],
  ])('is nothing more once it %s', async (_, end) => {
    const heard: number[] = []
    let late: (message: unknown) => void = () => undefined
    const call = hearing(
      schema,
      ({ fraction }) => heard.push(fraction),
      (told) => {
        late = told
        return end()
      },
    )
    await call.catch(() => undefined)
    late({ fraction: 0.7 })
    expect(heard).toEqual([])
  })

  it('has to be what was agreed on', async () => {
    const call = hearing(
      schema,
      () => undefined,
      (told) => {
        told({ fraction: 'most' })
        return Promise.resolve()
      },
    )
    await expect(call).rejects.toThrow('expected number')
  })
})
