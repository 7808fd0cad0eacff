import { describe, expect, it } from 'vitest'
import { readArchive, writeArchive } from './archive.ts'
import { archivePiece, joinPieces } from './archive-pieces.ts'

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text)
const files = [
  { path: 'manifest.json', bytes: bytesOf('{"game":"landing"}') },
  { path: 'items/props/gate/gate.glb', bytes: Uint8Array.from({ length: 5000 }, (_value, at) => (at * 7) % 31) },
  { path: 'items/props/gate/Schlüssel.dds', bytes: new Uint8Array(0) },
  { path: 'items/props/bell/bell.glb', bytes: bytesOf('bell '.repeat(400)) },
]

describe('an archive of pieces', () => {
  it.each([
    { writer: 'zip-deflated', folders: false },
    { writer: 'zip-stored', folders: false },
    { writer: 'zip-stored', folders: true },
    { writer: 'zip-deflated', folders: true },
  ] as const)('is that of the files in one go: $writer, folders $folders', ({ writer, folders }) => {
    const pieces = files.map(({ path, bytes }) => archivePiece(path, bytes, writer))
    const joined = joinPieces(pieces, folders)
    expect(Buffer.compare(joined, writeArchive(files, writer, folders))).toBe(0)
    expect([...readArchive(joined, 'joined.zip')]).toEqual(files.map(({ path, bytes }) => [path, bytes]))
  })

  it('of nothing is one of nothing', () => {
    expect(readArchive(joinPieces([]), 'empty.zip').size).toBe(0)
  })
})
