import { describe, expect, it } from 'vitest'
import { whatWasDone, type StepDone } from './what-was-done.ts'

const step = (stage: StepDone['stage'], title: string, headline: string, changed = true): StepDone => ({
  stage,
  title,
  headline,
  changed,
})

describe('what was done, told in lines', () => {
  it('is a line a stage in the order of the job, whatever the order of the steps', () => {
    expect(
      whatWasDone([
        step('surface', 'Compress', '3 maps'),
        step('mesh', 'Weld', '−12'),
        step('mesh', 'Reduce', '9 → 4'),
      ]),
    ).toEqual([
      { stage: 'mesh', text: 'Weld −12, Reduce 9 → 4' },
      { stage: 'surface', text: 'Compress 3 maps' },
    ])
  })

  it('leaves out what changed nothing, and only counts what is beyond three', () => {
    const many = ['a', 'b', 'c', 'd', 'e'].map((title) => step('mesh', title, '1'))
    expect(whatWasDone([...many, step('fit', 'Turn', 'as it was', false)])).toEqual([
      { stage: 'mesh', text: 'a 1, b 1, c 1 and 2 more' },
    ])
  })
})
