import { describe, expect, it } from 'vitest'
import { nameOfFiles } from './name-of-files'

describe('the name that a dropped mod begins with', () => {
  it('is the file’s in words, without its ending', () => {
    expect(nameOfFiles(['dist/left_hand.v2.glb'])).toBe('Left hand v2')
  })

  it('is the folder’s where several came in one', () => {
    expect(nameOfFiles(['old-jetty/planks.obj', 'old-jetty/planks.mtl'])).toBe('Old jetty')
  })

  it('is the model’s where a licence and pictures come before it', () => {
    expect(nameOfFiles(['74269_licence.txt', 'bark.jpg', 'mooring-post.obj'])).toBe('Mooring post')
    expect(nameOfFiles(['landing_planks.png'])).toBe('Landing planks')
  })

  it('is there and short enough whatever files are called', () => {
    for (const path of ['', '.glb', '---.obj', '/']) expect(nameOfFiles([path]).trim()).not.toBe('')
    expect(nameOfFiles([`${'a'.repeat(300)}.glb`]).length).toBeLessThanOrEqual(200)
  })
})
