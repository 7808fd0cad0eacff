import { type Spoiler, ENTRY, text } from './file-changes.ts'

/** Archive, manifest and entry. */
export const archiveSpoilers: readonly Spoiler[] = [
  ['nothing at all', 'silent', () => undefined],
  [
    'an archive that is cut off',
    'refused',
    (pack) => {
      pack.finishArchive.push((zip) => zip.subarray(0, zip.length / 2))
    },
  ],
  [
    'no archive',
    'refused',
    (pack) => {
      pack.finishArchive.push(() => text('keg'))
    },
  ],
  [
    'a path that climbs out',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set('items/../../keg.txt', text('x')))
    },
  ],
  [
    'a path from the root of a disk',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set('/keg.txt', text('x')))
    },
  ],
  [
    'a path on a drive',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set('c:/keg.txt', text('x')))
    },
  ],
  [
    'a path that climbs out by backslashes',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set('items\\..\\..\\keg.txt', text('x')))
    },
  ],
  [
    'a manifest of another game',
    'refused',
    (pack) => {
      pack.manifest = { game: 'hollin-keep' }
    },
  ],
  [
    'a manifest of another version',
    'complaint',
    (pack) => {
      pack.manifest = { version: '1.3' }
    },
  ],
  [
    'a manifest without files',
    'refused',
    (pack) => {
      pack.manifest = { files: undefined }
    },
  ],
  [
    'a manifest that lists a file too many',
    'refused',
    (pack) => {
      pack.manifest = { files: [{ path: 'lost.txt', bytes: 1, sha256: 'x' }] }
    },
  ],
  [
    'a manifest that lists nothing',
    'complaint',
    (pack) => {
      pack.manifest = { files: [] }
    },
  ],
  [
    'a manifest with bytes below zero',
    'refused',
    (pack) => {
      pack.manifest = { files: [{ path: ENTRY, bytes: -1, sha256: 'x' }] }
    },
  ],
  [
    'a manifest with another checksum',
    'refused',
    (pack) => {
      pack.manifest = { files: [{ path: ENTRY, bytes: 3, sha256: 'x' }] }
    },
  ],
  [
    'an entry that is not JSON',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set(ENTRY, text('{')))
    },
  ],
  [
    'no entry',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.delete(ENTRY))
    },
  ],
  [
    'an entry without looks',
    'refused',
    (pack) => {
      pack.entry['looks'] = []
    },
  ],
  [
    'an entry of a kind that is not there',
    'refused',
    (pack) => {
      pack.entry['kind'] = 'boat'
    },
  ],
  [
    'an entry of another category',
    'refused',
    (pack) => {
      pack.entry['category'] = 'loose'
    },
  ],
  [
    'an entry of another name',
    'refused',
    (pack) => {
      pack.entry['item'] = 'barrel'
    },
  ],
  [
    'an entry with a name that is not accepted',
    'refused',
    (pack) => {
      pack.entry['item'] = 'Keg 1'
    },
  ],
  [
    'an entry like what is not in stock',
    'refused',
    (pack) => {
      pack.entry['like'] = 'stock_barrel'
    },
  ],
  [
    'an entry like what is in stock',
    'silent',
    (pack) => {
      pack.entry['like'] = 'stock_crate'
    },
  ],
  [
    'an entry without a mesh',
    'refused',
    (pack) => {
      delete pack.entry['mesh']
    },
  ],
  [
    'an entry whose mesh is elsewhere',
    'refused',
    (pack) => {
      pack.entry['mesh'] = 'keg.glb'
    },
  ],
  [
    'an entry whose look is elsewhere',
    'refused',
    (pack) => {
      pack.entry['looks'] = ['plain.json']
    },
  ],
  [
    'the same entry in two folders',
    'refused',
    (pack) => {
      pack.finish.push((files) => files.set('items/props/other/entry.json', files.get(ENTRY) ?? text('')))
    },
  ],
  [
    'a mesh for a finish',
    'refused',
    (pack) => {
      pack.entry['kind'] = 'finish'
    },
  ],
  [
    'an entry with words of its own',
    'complaint',
    (pack) => {
      pack.entry['author'] = 'Edda'
    },
  ],
]
