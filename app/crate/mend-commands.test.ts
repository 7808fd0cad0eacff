import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { tarnAndTiller } from '../../core/test-support/prepared-gate'
import type { WorklistEntry } from '../../core/worklist/entry'
import { mendSettings, proposeStep, type Ask } from '../workers/bench-client'
import { mendCommands, stepThatSaysSo } from './mend-commands'

vi.mock('../workers/bench-client', () => ({ mendSettings: vi.fn(), proposeStep: vi.fn() }))

const game: Game = { rulebook: tarnAndTiller, stock: null }
const ask: Ask = { onProgress: () => undefined }
const entry = (change: Partial<WorklistEntry> = {}): WorklistEntry => ({
  id: 'step-4',
  step: 'two-sided',
  on: true,
  parameters: { parts: ['Old Lid'], how: 'flag' },
  reason: null,
  ...change,
})
const itemWith = (worklist: WorklistEntry[]) => ({ id: 'item-1', worklist }) as CrateItem
const mend = { step: 'two-sided', label: 'Make two-sided', parameters: { parts: ['old_lid', 'old_pot'] } }

describe('pressing Mend', () => {
  beforeEach(() => void vi.resetAllMocks())

  it('puts the step in where it is not, as the bench fills it in', async () => {
    const proposed = { entries: [entry({ id: 'step-1' })], at: 3 }
    vi.mocked(proposeStep).mockResolvedValue(proposed)
    expect(await mendCommands(itemWith([]), mend, game, ask)).toEqual([
      { do: 'add-steps', item: 'item-1', ...proposed },
    ])
    // One that is switched off is not there.
    expect(await mendCommands(itemWith([entry({ on: false })]), mend, game, ask)).toMatchObject([{ do: 'add-steps' }])
  })

  it('sets the step that is there, by the names that things have there, and leaves what else it says', async () => {
    vi.mocked(mendSettings).mockResolvedValue({ parts: ['Old Lid', 'Old Pot'] })
    const item = itemWith([entry({ id: 'step-2' }), entry()])
    expect(await mendCommands(item, mend, game, ask)).toEqual([
      {
        do: 'edit-step',
        item: 'item-1',
        entry: 'step-4',
        parameters: { parts: ['Old Lid', 'Old Pot'], how: 'flag' },
      },
    ])
    expect(mendSettings).toHaveBeenCalledWith(item, game, 'step-4', mend.parameters, ask)
  })

  it('is not offered where the step says all of it', () => {
    const said = { ...mend, parameters: { how: 'flag' } }
    expect(stepThatSaysSo(itemWith([entry()]), said)?.id).toBe('step-4')
    expect(stepThatSaysSo(itemWith([entry()]), { ...mend, parameters: { how: 'faces' } })).toBeNull()
    expect(stepThatSaysSo(itemWith([entry({ on: false })]), said)).toBeNull()
  })
})
