import { beforeAll, describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import { writeArchive } from '../support/archive.ts'
import { demoSources } from '../test-support/sources.ts'
import { applyCommand } from './commands.ts'
import { bringIn } from './bring-in.ts'
import { isCrateFolder, writeCrateFolder } from './crate-folder.ts'
import { assembleCrate, readCrateFile, writeCrateFile, type CrateWithSources } from './file.ts'
import { newCrate, type CrateItem } from './schema.ts'

type Files = Map<string, Uint8Array>

/** The gate and the bell as they came. */
async function landing(): Promise<CrateWithSources> {
  const crate = newCrate('Otterby Landing', { rulebook: rulebookById('tarn-and-tiller'), stock: null }, [])
  const sources = new Map<string, Uint8Array>()
  for (const [folder, kind] of [
    ['mooring_bell', 'mover'],
    ['boathouse_gate', 'prop'],
  ] as const)
    for (const { item, files } of await bringIn(
      demoSources(folder),
      kind,
      {},
      crate.items.map(({ id }) => id),
    )) {
      crate.items.push(item)
      for (const { sha256, file } of files) sources.set(sha256, file.bytes)
    }
  return { crate, sources }
}
const plain = (files: Files): Record<string, string> =>
  Object.fromEntries([...files].map(([path, bytes]) => [path, Buffer.from(bytes).toString('base64')]))
const changedPaths = (before: Files, after: Files): string[] =>
  [...new Set([...before.keys(), ...after.keys()])].filter(
    (path) => Buffer.compare(before.get(path) ?? Buffer.of(), after.get(path) ?? Buffer.of()) !== 0,
  )

let content: CrateWithSources
let files: Files
beforeAll(async () => {
  content = await landing()
  files = writeCrateFolder(content)
})

describe('a crate folder', () => {
  it('has a file an item and its sources beside it, under the names that they came with', () => {
    expect([...files.keys()].sort()).toEqual(
      expect.arrayContaining([
        'crate.json',
        'items/boathouse-gate.json',
        'items/mooring-bell.json',
        'rulebook.json',
        'sources/boathouse-gate/Boathouse gate.v2.mtl',
        'sources/boathouse-gate/boathouse_gate.obj',
        'sources/mooring-bell/mooring_bell.glb',
      ]),
    )
    expect(isCrateFolder(files)).toBe(true)
  })

  it('comes back the same, byte for byte, by way of a crate file too', () => {
    const opened = assembleCrate(files, 'landing')
    expect(opened.setAside).toEqual([])
    expect(opened.lost).toEqual([])
    expect(plain(writeCrateFolder(opened))).toEqual(plain(files))
    const asFile = readCrateFile(writeCrateFile(opened), 'landing.zip')
    expect(plain(writeCrateFolder(asFile))).toEqual(plain(files))
  })

  it('is opened from an archive of the folder, its name before every path', () => {
    const zip = writeArchive(
      [...files].map(([path, bytes]) => ({ path: `landing-main/${path}`, bytes })),
      'zip-deflated',
    )
    expect(plain(writeCrateFolder(readCrateFile(zip, 'landing-main.zip')))).toEqual(plain(files))
  })

  it('changes in the files of one item alone when that item is changed', () => {
    const [bell, gate] = content.crate.items
    const of = (item: CrateItem, kind: string): Files =>
      writeCrateFolder({ ...content, crate: applyCommand(content.crate, { do: 'set-kind', item: item.id, kind }) })
    expect(changedPaths(files, of(bell, 'prop'))).toEqual(['items/mooring-bell.json'])
    expect(changedPaths(files, of(gate, 'mover'))).toEqual(['items/boathouse-gate.json'])
  })

  it('takes a source that was saved anew as it is now', () => {
    const saved = new Map(files).set(
      'sources/boathouse-gate/Boathouse gate.v2.mtl',
      new TextEncoder().encode('# none\n'),
    )
    const { crate, lost } = assembleCrate(saved, 'landing')
    const source = crate.items[0].sources.find(({ path }) => path.endsWith('.mtl'))
    expect(lost).toEqual([])
    expect(source?.bytes).toBe(7)
  })

  it('tells what is gone or broken of it, and opens the rest', () => {
    const broken = new Map(files)
    broken.delete('sources/mooring-bell/mooring_bell.glb')
    broken.set('items/boathouse-gate.json', new TextEncoder().encode('<<<<<<< HEAD'))
    const { crate, lost, setAside } = assembleCrate(broken, 'landing')
    expect(crate.items.map(({ id }) => id)).toEqual(['mooring-bell'])
    expect(lost.map(({ path, reason }) => [path, reason])).toEqual([['mooring_bell.glb', 'missing']])
    expect(setAside).toHaveLength(1)
    expect(() =>
      assembleCrate(
        new Map(files).set('crate.json', new TextEncoder().encode('{"format":"gentle-crate-folder"}')),
        'landing',
      ),
    ).toThrow(/its crate.json is wrong at formatVersion/)
  })

  it('keeps sources that would lie over each other or outside of it apart and inside', () => {
    const [bell] = content.crate.items
    const [source] = bell.sources
    const odd = ['../../etc/passwd', 'Tex/A.png', 'tex/a.PNG', 'C:\\maps\\con?.png', '.hidden']
    const crate = {
      ...content.crate,
      items: [{ ...bell, main: odd[1], sources: odd.map((path) => ({ ...source, path })) }],
    }
    const written = writeCrateFolder({ ...content, crate })
    expect([...written.keys()].filter((path) => path.startsWith('sources/')).sort()).toEqual([
      'sources/mooring-bell/C_/maps/con_.png',
      'sources/mooring-bell/Tex/A.png',
      'sources/mooring-bell/_hidden',
      'sources/mooring-bell/etc/passwd',
      'sources/mooring-bell/tex/a~2.PNG',
    ])
    expect(assembleCrate(written, 'odd').crate.items[0].sources.map(({ path }) => path)).toEqual(odd)
    const climbing = new TextEncoder().encode(
      JSON.stringify({ ...bell, sources: [{ path: 'x.glb', file: '../../crate.json' }] }),
    )
    expect(assembleCrate(new Map(written).set('items/mooring-bell.json', climbing), 'odd').lost).toHaveLength(1)
  })
})
