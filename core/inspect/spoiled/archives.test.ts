import { describe, it } from 'vitest'
import { agreeAbout, type Spoiler } from '../../test-support/spoiled/agree-about.ts'
import { ENTRY, text } from '../../test-support/spoiled/file-changes.ts'

/** Archive, manifest and entry. */
const spoilers: readonly Spoiler[] = [
  ['nothing at all', 'takes', () => undefined],
  [
    'an archive that is cut off',
    'refuses',
    (pack) => {
      pack.finishArchive.push((zip) => zip.subarray(0, zip.length / 2))
    },
  ],
  [
    'no archive',
    'refuses',
    (pack) => {
      pack.finishArchive.push(() => text('keg'))
    },
  ],
  [
    'a path that climbs out',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set('items/../../keg.txt', text('x')))
    },
  ],
  [
    'a path from the root of a disk',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set('/keg.txt', text('x')))
    },
  ],
  [
    'a path on a drive',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set('c:/keg.txt', text('x')))
    },
  ],
  [
    'a path that climbs out by backslashes',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set('items\\..\\..\\keg.txt', text('x')))
    },
  ],
  [
    'a manifest of another game',
    'refuses',
    (pack) => {
      pack.manifest = { game: 'hollin-keep' }
    },
  ],
  [
    'a manifest of another version',
    'complains',
    (pack) => {
      pack.manifest = { version: '1.3' }
    },
  ],
  [
    'a manifest without files',
    'refuses',
    (pack) => {
      pack.manifest = { files: undefined }
    },
  ],
  [
    'a manifest that lists a file too many',
    'refuses',
    (pack) => {
      pack.manifest = { files: [{ path: 'lost.txt', bytes: 1, sha256: 'x' }] }
    },
  ],
  [
    'a manifest that lists nothing',
    'complains',
    (pack) => {
      pack.manifest = { files: [] }
    },
  ],
  [
    'a manifest with bytes below zero',
    'refuses',
    (pack) => {
      pack.manifest = { files: [{ path: ENTRY, bytes: -1, sha256: 'x' }] }
    },
  ],
  [
    'a manifest with another checksum',
    'refuses',
    (pack) => {
      pack.manifest = { files: [{ path: ENTRY, bytes: 3, sha256: 'x' }] }
    },
  ],
  [
    'an entry that is not JSON',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set(ENTRY, text('{')))
    },
  ],
  [
    'no entry',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.delete(ENTRY))
    },
  ],
  [
    'an entry without looks',
    'refuses',
    (pack) => {
      pack.entry['looks'] = []
    },
  ],
  [
    'an entry of a kind that is not there',
    'refuses',
    (pack) => {
      pack.entry['kind'] = 'boat'
    },
  ],
  [
    'an entry of another category',
    'refuses',
    (pack) => {
      pack.entry['category'] = 'loose'
    },
  ],
  [
    'an entry of another name',
    'refuses',
    (pack) => {
      pack.entry['item'] = 'barrel'
    },
  ],
  [
    'an entry with a name that is not accepted',
    'refuses',
    (pack) => {
      pack.entry['item'] = 'Keg 1'
    },
  ],
  [
    'an entry like what is not in stock',
    'refuses',
    (pack) => {
      pack.entry['like'] = 'stock_barrel'
    },
  ],
  [
    'an entry like what is in stock',
    'takes',
    (pack) => {
      pack.entry['like'] = 'stock_crate'
    },
  ],
  [
    'an entry without a mesh',
    'refuses',
    (pack) => {
      delete pack.entry['mesh']
    },
  ],
  [
    'an entry whose mesh is elsewhere',
    'refuses',
    (pack) => {
      pack.entry['mesh'] = 'keg.glb'
    },
  ],
  [
    'an entry whose look is elsewhere',
    'refuses',
    (pack) => {
      pack.entry['looks'] = ['plain.json']
    },
  ],
  [
    'the same entry in two folders',
    'refuses',
    (pack) => {
      pack.finish.push((files) => files.set('items/props/other/entry.json', files.get(ENTRY) ?? text('')))
    },
  ],
  [
    'a mesh for a finish',
    'refuses',
    (pack) => {
      pack.entry['kind'] = 'finish'
    },
  ],
  [
    'an entry with words of its own',
    'complains',
    (pack) => {
      pack.entry['author'] = 'Edda'
    },
  ],
]

describe('check and the loader about an archive, a manifest, an entry', () => {
  it.each(spoilers)('agree about %s', agreeAbout)
})
