import { describe, expect, it } from 'vitest'
import { rulebookById } from './load.ts'
import { groupInName, groupName } from './group-names.ts'
import { rulebookSchema, type Rulebook } from './schema.ts'

const changed = (change: (rulebook: Rulebook) => void): Rulebook => {
  const rulebook = structuredClone(rulebookById('tarn-and-tiller'))
  change(rulebook)
  return rulebook
}
const courseOf = (rulebook: Rulebook) => rulebook.kinds.findIndex(({ groupsAsked }) => groupsAsked)

describe('groups of a rulebook', () => {
  it.each([
    [
      'no names for groups',
      (rulebook: Rulebook): void => void (rulebook.motion.groups = null),
      'does not say how groups',
    ],
    [
      'one name for all',
      (rulebook: Rulebook): void =>
        void (rulebook.motion.groups = { moves: 'moves', stays: 's_{group}', backdrop: 'b_{group}' }),
      'every group would have the same name',
    ],
    [
      'a format without a tree',
      (rulebook: Rulebook): void => void (rulebook.files.mesh.writer = 'obj'),
      'OBJ holds no groups, and the kind “course”',
    ],
  ] as const)('are refused in a sentence: %s', (_, change, sentence) => {
    const { error } = rulebookSchema.safeParse(changed(change))
    expect(error?.issues.map(({ message }) => message).join('; ')).toContain(sentence)
  })
  it('of a kind that wants none need no names', () => {
    const rulebook = changed((own) => {
      own.motion.groups = null
      own.kinds[courseOf(own)].groupsAsked = false
    })
    expect(rulebookSchema.safeParse(rulebook).error).toBe(undefined)
    expect(groupInName(rulebook, 'moves_gate')).toBe(null)
    expect(groupName(rulebook, 'moves', 'Gate 1')).toBe('gate_1')
  })
})

describe('the name of a group', () => {
  const rulebook = changed((own) => {
    own.motion.groups = { moves: '{group}-dyn', stays: '{group}-fix', backdrop: 'sky-{group}' }
    own.names = { ...own.names, pattern: '[a-z][a-z0-9_-]*', longest: 16 }
  })
  it('is told by whichever end the game marks', () => {
    expect(['lid-dyn', 'lid-fix', 'sky-hills', 'lid', '-dyn'].map((name) => groupInName(rulebook, name))).toEqual([
      'moves',
      'stays',
      'backdrop',
      null,
      null,
    ])
  })
  it('is made once: a group that is named already only changes what it is', () => {
    expect(groupName(rulebook, 'moves', 'Lid')).toBe('lid-dyn')
    expect(groupName(rulebook, 'moves', 'lid-dyn')).toBe('lid-dyn')
    expect(groupName(rulebook, 'stays', 'lid-dyn')).toBe('lid-fix')
  })
  it('leaves room for what the game puts on it', () => {
    expect(groupName(rulebook, 'moves', 'A very long name of a group').length).toBeLessThanOrEqual(16)
  })
})
