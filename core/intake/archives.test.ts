import { describe, expect, it } from 'vitest'
import { writeArchive } from '../support/archive.ts'
import { textFile } from '../test-support/sources.ts'
import { unpackSources } from './archives.ts'

const zip = (files: Record<string, string>) =>
  writeArchive(
    Object.entries(files).map(([path, text]) => textFile(path, text)),
    'zip-deflated',
  )

describe('archives', () => {
  it('gives the files inside in place of the archive, below its name, and leaves litter out', () => {
    const files = unpackSources([
      {
        path: 'sent/pier.zip',
        bytes: zip({
          'pier.obj': 'a',
          'maps/wood.png': 'b',
          '__MACOSX/._pier.obj': 'x',
          '.DS_Store': 'x',
          'maps/Thumbs.db': 'x',
        }),
      },
      textFile('readme.txt', 'c'),
    ])
    expect(files.map((file) => file.path)).toEqual(['sent/pier/pier.obj', 'sent/pier/maps/wood.png', 'readme.txt'])
  })

  it('opens an archive inside an archive, but not for ever', () => {
    const inner = zip({ 'a.obj': 'a' })
    const middle = writeArchive([{ path: 'inner.zip', bytes: inner }], 'zip-stored')
    const outer = writeArchive([{ path: 'middle.zip', bytes: middle }], 'zip-stored')
    expect(unpackSources([{ path: 'm.zip', bytes: middle }]).map((file) => file.path)).toEqual(['m/inner/a.obj'])
    expect(unpackSources([{ path: 'o.zip', bytes: outer }]).map((file) => file.path)).toEqual(['o/middle/inner.zip'])
  })

  it.each(['../../etc/evil.obj', '/srv/evil.obj', 'C:\\evil.obj', 'a/../../evil.obj'])(
    'refuses a path that climbs out: %s',
    (path) => {
      expect(() => unpackSources([{ path: 'x.zip', bytes: zip({ [path]: 'a' }) }])).toThrow(
        /x\.zip: the path .* climbs out of the archive/,
      )
    },
  )

  it('refuses an archive that would unpack to more than there is room for, before it does', () => {
    const bomb = zip({ 'a.bin': 'x' })
    // The directory of the archive is made to promise 3 GiB.
    const view = new DataView(bomb.buffer)
    for (let at = 0; at + 4 < bomb.length; at++)
      if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 3 * 1024 ** 3, true)
    const began = performance.now()
    expect(() => unpackSources([{ path: 'bomb.zip', bytes: bomb }])).toThrow(
      /bomb\.zip: it would unpack to more than 600 MB/,
    )
    expect(performance.now() - began).toBeLessThan(2000)
  })

  it('refuses an archive whose file holds more than it says', () => {
    const lying = zip({ 'a.obj': Array.from({ length: 4000 }, (_, at) => `v ${Math.sin(at)} 0 0`).join('\n') })
    const view = new DataView(lying.buffer)
    for (let at = 0; at + 4 < lying.length; at++)
      if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 10, true)
    expect(() => unpackSources([{ path: 'lie.zip', bytes: lying }])).toThrow(
      /lie\.zip: “a\.obj” holds more than it says: .* bytes packed for 10/,
    )
  })

  it('counts one stretch of bytes that many entries share as often as it would be unpacked', () => {
    const single = zip({ 'a.obj': 'v 0 0 0\n'.repeat(1_000_000) })
    const view = new DataView(single.buffer)
    const find = (mark: number): number => {
      for (let at = 0; at + 4 <= single.length; at++) if (view.getUint32(at, true) === mark) return at
      throw new Error('no such record')
    }
    const [directory, end] = [find(0x02014b50), find(0x06054b50)]
    const entry = single.slice(directory, end)
    const shared = new Uint8Array(directory + entry.length * 200 + 22)
    shared.set(single.subarray(0, directory))
    for (let copy = 0; copy < 200; copy++) shared.set(entry, directory + copy * entry.length)
    shared.set(single.subarray(end), directory + entry.length * 200)
    const tail = new DataView(shared.buffer, directory + entry.length * 200)
    tail.setUint16(8, 200, true)
    tail.setUint16(10, 200, true)
    tail.setUint32(12, entry.length * 200, true)
    expect(() => unpackSources([{ path: 'shared.zip', bytes: shared }])).toThrow(/would unpack to more than 600 MB/)
  })

  it('refuses an archive that is cut off', () => {
    const whole = zip({ 'a.obj': 'v 0 0 0\n'.repeat(400) })
    expect(() => unpackSources([{ path: 'cut.zip', bytes: whole.slice(0, whole.length - 30) }])).toThrow(
      /cut\.zip: it is not a whole ZIP archive/,
    )
  })
})
