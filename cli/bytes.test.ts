import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { namesFolder, writeLoose } from './bytes.ts'
import { readFolder } from './folders.ts'

const folder = mkdtempSync(join(tmpdir(), 'loose-'))
const text = (word: string): Uint8Array => new TextEncoder().encode(word)

describe('files laid loose into a folder', () => {
  it('lie in the folders of their paths, and are read again by them', () => {
    const files = [
      { path: 'a.txt', bytes: text('a') },
      { path: 'deep/er/b c.txt', bytes: text('b') },
    ]
    writeLoose(join(folder, 'game'), files)
    expect([...readFolder(join(folder, 'game'))].map(([path, bytes]) => [path, String.fromCharCode(...bytes)])).toEqual(
      [
        ['a.txt', 'a'],
        ['deep/er/b c.txt', 'b'],
      ],
    )
  })
  it.each(['../out.txt', 'in/../../out.txt', '/out.txt', 'C:\\out.txt'])('never lie outside of it: %s', (path) => {
    expect(() => writeLoose(join(folder, 'closed'), [{ path, bytes: text('x') }])).toThrow(/leads out of the folder/)
    expect(existsSync(join(folder, 'out.txt'))).toBe(false)
  })
  it('take the place of what is there, and leave the rest alone', () => {
    mkdirSync(join(folder, 'other'))
    writeFileSync(join(folder, 'other/kept.txt'), 'kept')
    writeLoose(join(folder, 'other'), [{ path: 'new.txt', bytes: text('1') }])
    writeLoose(join(folder, 'other'), [{ path: 'new.txt', bytes: text('2') }])
    expect(readFileSync(join(folder, 'other/new.txt'), 'utf8')).toBe('2')
    expect(readFileSync(join(folder, 'other/kept.txt'), 'utf8')).toBe('kept')
  })
  it('say where they cannot be written', () => {
    writeFileSync(join(folder, 'file'), '')
    expect(() => writeLoose(join(folder, 'file'), [{ path: 'in/a.txt', bytes: text('a') }])).toThrow(/cannot be/)
  })
  it('are told from archives by a folder that is there, or a slash at the end', () => {
    expect(namesFolder(folder)).toBe(true)
    expect(namesFolder('not-there/')).toBe(true)
    expect(namesFolder('not-there.zip')).toBe(false)
  })
})

describe('a folder that is read whole', () => {
  it('holds more than a thousand files, in folders of folders, or is refused in a sentence', () => {
    const many = Array.from({ length: 2500 }, (_, number) => ({
      path: `a/b/c/d/e/f/g/h/${number}.txt`,
      bytes: text(String(number)),
    }))
    writeLoose(join(folder, 'many'), many)
    expect(readFolder(join(folder, 'many')).size).toBe(2500)
  })
})
