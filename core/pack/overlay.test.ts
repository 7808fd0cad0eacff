import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { overlayOf } from './overlay.ts'

const keep = rulebookById('hollin-keep')
const pack = (name: string, files: Record<string, string>) => ({
  name,
  files: new Map(Object.entries(files).map(([path, text]) => [path, new TextEncoder().encode(text)])),
})

describe('packs beside each other', () => {
  it('are read in the order of their names, whatever their capitals, and the last one wins each path', () => {
    const { order, overlaid } = overlayOf(
      [
        pack('Zinnia.zip', { 'things/K-000.obj': 'table of zinnia', 'contents.json': '1' }),
        pack('a-keep.zip', { 'things/K-000.obj': 'long table', 'things/K-001.obj': 'bench', 'contents.json': '2' }),
        pack('moss.zip', { 'things/K-000.obj': 'table of moss', 'things/K-001.obj': 'bench', 'contents.json': '3' }),
      ],
      keep,
    )
    expect(order).toEqual(['a-keep.zip', 'moss.zip', 'Zinnia.zip'])
    expect(overlaid).toEqual([
      {
        path: 'things/K-000.obj',
        packs: ['a-keep.zip', 'moss.zip', 'Zinnia.zip'],
        wins: 'Zinnia.zip',
        same: false,
      },
      { path: 'things/K-001.obj', packs: ['a-keep.zip', 'moss.zip'], wins: 'moss.zip', same: true },
    ])
  })

  it('tell of one of which nothing is seen', () => {
    const files = { 'things/K-000.obj': 'a' }
    expect(overlayOf([pack('moss.zip', files), pack('nettle.zip', { ...files, more: 'b' })], keep).hidden).toEqual([
      'moss.zip',
    ])
  })

  it('warn of a name that is the game’s own, which its builder writes anew, and of one read before it', () => {
    const { warnings } = overlayOf([pack('A-Keep.ZIP', {}), pack('2-apple.zip', {}), pack('pear.zip', {})], keep)
    expect(warnings).toEqual([
      expect.stringMatching(/^2-apple\.zip is read before the game’s own a-keep\.zip/),
      expect.stringMatching(/^A-Keep\.ZIP is the name of the game’s own pack/),
    ])
  })
})
