import { describe, expect, it } from 'vitest'
import { fitsPattern } from './name-pattern.ts'

describe('picking by name', () => {
  it.each([
    ['Pennant 3', 'pennant', true],
    ['Pennant 3', 'pennant ?', true],
    ['Pennant pole', 'pennant ?', false],
    ['ferry_rail_03', '*_rail_*', true],
    ['ferry_rail_03', 'rail_*', false],
    ['a.b', 'a.b', true],
    ['axb', 'a.b', false],
    ['a(b', '*(*', true],
    ['anything', '  ', true],
    ['post_03.glb', 'post_*', true],
    ['post_03.glb', '*_0?.g*b', true],
    ['abcabd', '*abd', true],
    ['abcab', '*abd', false],
  ])('%s by “%s”: %s', (name, typed, fits) => {
    expect(fitsPattern(name, typed)).toBe(fits)
  })

  it('takes a whole name where a whole one is meant', () => {
    expect(fitsPattern('post_03.glb', 'post', 'whole')).toBe(false)
    expect(fitsPattern('Post.glb', 'post.glb', 'whole')).toBe(true)
  })

  it('is quick for patterns made to be slow', () => {
    const began = performance.now()
    expect(fitsPattern('a'.repeat(400), '*'.repeat(200) + 'b')).toBe(false)
    expect(fitsPattern('a'.repeat(4000), '*a'.repeat(200) + 'b')).toBe(false)
    expect(performance.now() - began).toBeLessThan(1000)
  })
})
