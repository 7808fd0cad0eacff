import { describe, expect, it } from 'vitest'
import { writeArchive, type ArchiveFile } from '../support/archive.ts'
import { sha256Hex } from '../support/hashing.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { loadPack } from './load-pack.ts'
import { nameInPath } from './sorted-nodes.ts'
import { loadGlb } from './loaders/mesh/glb.ts'

const readGlb = (bytes: Uint8Array) =>
  loadGlb({ path: 'a.glb', bytes, archive: new Map(), beside: null, rulebook: tarnAndTiller })
const json = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value))
const entryPath = 'items/props/pier/entry.json'
const entry = {
  path: entryPath,
  bytes: json({
    item: 'pier',
    kind: 'prop',
    category: 'props',
    mesh: 'items/props/pier/pier.glb',
    looks: ['items/props/pier/looks/plain.json'],
  }),
}

function packOf(files: ArchiveFile[], manifest: object = {}): Uint8Array {
  const listed = files.map(({ path, bytes }) => ({ path, bytes: bytes.length, sha256: sha256Hex(bytes) }))
  return writeArchive(
    [
      {
        path: 'manifest.json',
        bytes: json({ game: tarnAndTiller.id, version: tarnAndTiller.version, files: listed, ...manifest }),
      },
      ...files,
    ],
    'zip-deflated',
  )
}
const codes = (bytes: Uint8Array): string[] => loadPack(bytes, tarnAndTiller).log.map((line) => line.code)

describe('the loader', () => {
  it('refuses what is no archive, has no manifest or no item', () => {
    expect(codes(new Uint8Array([1, 2, 3]))).toEqual(['pack.archive'])
    expect(codes(writeArchive([entry], 'zip-stored'))).toContain('manifest.missing')
    expect(codes(packOf([]))).toEqual(['pack.empty'])
  })
  it('compares the manifest with the files', () => {
    expect(codes(packOf([entry], { game: 'another-game' }))).toContain('manifest.game')
    expect(codes(packOf([entry], { files: [{ path: entryPath, bytes: 3, sha256: 'x' }] }))).toContain(
      'manifest.checksum',
    )
    expect(codes(packOf([entry], { files: [{ path: 'lost.dds', bytes: 3, sha256: 'x' }] }))).toEqual(
      expect.arrayContaining(['manifest.file', 'manifest.unlisted']),
    )
    expect(codes(packOf([entry], { version: '0.9' }))).toContain('manifest.version')
  })
  it('refuses an entry whose mesh is missing or unreadable, or whose kind is not known', () => {
    expect(codes(packOf([entry]))).toContain('entry.mesh')
    expect(codes(packOf([entry, { path: 'items/props/pier/pier.glb', bytes: new Uint8Array(40) }]))).toContain(
      'mesh.unreadable',
    )
    expect(
      codes(
        packOf([{ ...entry, bytes: json({ item: 'pier', kind: 'boat', category: 'props', mesh: 'a', looks: ['b'] }) }]),
      ),
    ).toContain('entry.kind')
    expect(codes(packOf([{ ...entry, path: 'items/gear/pier/entry.json' }]))).toContain('entry.path')
  })
  it('refuses a pack over the size that is read', () => {
    const small = structuredClone(tarnAndTiller)
    small.files.archive.largestBytes = 100
    expect(loadPack(packOf([entry]), small).log.map((line) => line.code)).toEqual(['pack.size'])
  })
  it('never reads past the end of a mesh file', () => {
    const glb = (text: string): Uint8Array => {
      const body = new TextEncoder().encode(text.padEnd(Math.ceil(text.length / 4) * 4))
      const bytes = new Uint8Array(20 + body.length + 8 + 36)
      const view = new DataView(bytes.buffer)
      ;[0x46546c67, 2, bytes.length, body.length, 0x4e4f534a].forEach((value, index) =>
        view.setUint32(index * 4, value, true),
      )
      view.setUint32(20 + body.length, 36, true)
      view.setUint32(24 + body.length, 0x004e4942, true)
      bytes.set(body, 20)
      return bytes
    }
    const mesh = {
      asset: { version: '2.0' },
      buffers: [{ byteLength: 36 }],
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
    }
    expect(() =>
      readGlb(
        glb(JSON.stringify({ ...mesh, accessors: [{ bufferView: 0, componentType: 5126, count: 1e9, type: 'VEC3' }] })),
      ),
    ).toThrow(/past the end/)
    expect(() =>
      readGlb(glb(JSON.stringify({ asset: { version: '2.0' }, scenes: [{ nodes: [0] }], nodes: [{ children: [0] }] }))),
    ).toThrow(/node tree/)
    expect(() => readGlb(glb('{"scenes":"none"}'))).toThrow()
  })
})

describe('the name of a map', () => {
  const called = (map: string, path: string, slots: string[] | null = null) =>
    nameInPath(path, {
      ...tarnAndTiller,
      files: { ...tarnAndTiller.files, paths: { ...tarnAndTiller.files.paths, map } },
      slots: slots && {
        described: '',
        listed: slots.map((slot) => ({ slot, title: slot, kinds: [tarnAndTiller.kinds[0].id] })),
      },
    })
  it.each([
    ['items/{item}/maps/{map}.dds', 'items/gate/maps/wood_col.dds', null, 'wood_col'],
    ['skins/{item}_{map}.tga', 'skins/Gate-1_Wood-s.tga', null, 'Wood-s'],
    ['skins/{category}-{item}/{map}_of_{item}.png', 'skins/props-gate/wood_of_gate.png', null, 'wood'],
    ['skins/{SLOT}_{map}.tga', 'skins/A10_wood.tga', ['a1', 'a10'], 'wood'],
    ['skins/{slot}_{map}.tga', 'skins/none_wood.tga', ['a1'], 'none_wood'],
    ['skins/{slot}_{map}.tga', 'elsewhere/odd.tga', ['a1'], 'odd'],
  ])('by the template %s, of %s', (map, path, slots, name) => expect(called(map, path, slots)).toBe(name))
})
