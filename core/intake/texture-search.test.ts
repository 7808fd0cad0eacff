import { describe, expect, it } from 'vitest'
import { findTexture } from './texture-search.ts'

const files = ['maps/gate/Stone.png', 'maps/ferry/stone.png', 'WOOD.JPG'].map((path) => ({ path }))
const found = (written: string, links = {}) => findTexture(written, files, links)?.path ?? null

describe('finding the file that a texture path means', () => {
  it('takes the full path before the file name', () => {
    expect(found('maps/ferry/stone.png')).toBe('maps/ferry/stone.png')
    expect(found('MAPS\\Ferry\\STONE.png')).toBe('maps/ferry/stone.png')
  })
  it('ignores case, folder and drive, and takes the file whose folders agree longest', () => {
    expect(found('C:\\Users\\me\\wood.jpg')).toBe('WOOD.JPG')
    expect(found('/home/me/ferry/Stone.PNG')).toBe('maps/ferry/stone.png')
    expect(found('./wood.jpg')).toBe('WOOD.JPG')
  })
  it('finds nothing rather than something else', () => {
    expect(found('stone.jpg')).toBeNull()
    expect(found('')).toBeNull()
  })
  it('lets a hand-made link go first', () => {
    expect(found('stone.png', { 'stone.png': 'WOOD.JPG' })).toBe('WOOD.JPG')
  })
})
