import { describe, expect, it } from 'vitest'
import { completionsAt } from './completions'

/** Completions where the text has a bar. */
const proposed = (text: string) => completionsAt(text.replace('|', ''), text.indexOf('|'))

describe('completions in the text of a rulebook', () => {
  it('are the fields that an object does not have yet', () => {
    const words = proposed('{ "id": "mine", "maps": { "powersOfTwo": true, "| } }')?.words
    expect(words).toContain('"largestPixels"')
    expect(words).not.toContain('"powersOfTwo"')
  })
  it('are the words that a value may be, in the place of what is written there', () => {
    const text = '{ "maps": { "mipmaps": "al|" } }'
    const found = proposed(text)
    expect(found?.words).toEqual(['"all"', '"none"', '"any"'])
    expect(text.replace('|', '').slice(found?.from, found?.to)).toBe('"al"')
  })
  it('know what may be true, false or nothing', () => {
    expect(proposed('{ "maps": { "powersOfTwo": | } }')?.words).toEqual(['true', 'false'])
    expect(proposed('{ "slots": | }')?.words).toEqual(['null'])
  })
  it('go by the shape that an object has', () => {
    expect(proposed('{ "materials": { "naming": { "form": "path", "| } } }')?.words).toEqual(['"ofRole"', '"longest"'])
  })
  it('are none for a text of one’s own', () => {
    expect(proposed('{ "title": "Mi|" }')).toBeNull()
  })
})
