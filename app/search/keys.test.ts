import { describe, expect, it } from 'vitest'
import { actionTitles } from '../yard/play/controls'
import { keyGroups, pageKeys, shownKeys } from './keys'

describe('the sheet of keys', () => {
  const all = keyGroups().flatMap(({ keys }) => keys)

  it('lists every key of the page and of the yard', () => {
    for (const keys of [pageKeys.undo, ...pageKeys.redo, pageKeys.search])
      expect(
        all.some((each) => each.keys.includes(shownKeys(keys))),
        keys,
      ).toBe(true)
    for (const { title, key } of actionTitles) expect(all).toContainEqual({ keys: key, does: title })
  })

  it('says each key of a group once', () => {
    for (const { title, keys } of keyGroups()) {
      const pressed = keys.map((each) => each.keys)
      expect(new Set(pressed).size, title).toBe(pressed.length)
    }
  })

  it('writes keys as they stand on a keyboard', () => {
    expect(shownKeys('$mod+Shift+z')).toMatch(/^(?:Ctrl|⌘) \+ Shift \+ Z$/)
  })
})
