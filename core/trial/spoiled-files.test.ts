import { unzipSync } from 'fflate'
import { beforeAll, describe, expect, it } from 'vitest'
import { writeArchive } from '../document/archive.ts'
import { sha256Hex } from '../document/hashing.ts'
import { judgeFile } from '../test-support/faithful/judge.ts'
import { pillowIsPresent } from '../test-support/faithful/other-pictures.ts'
import { traitFiles } from '../test-support/faithful/traits.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { loadPack } from './load-pack.ts'

/** Packs spoiled in their files alone, by code that knows nothing of what wrote them. */
type Files = Record<string, Uint8Array>
type Json = Record<string, unknown> & { accessors: { bufferView: number; byteOffset?: number; min?: number[] }[]; bufferViews: { byteOffset?: number; byteStride?: number }[]; meshes: { primitives: { attributes: Record<string, number> }[] }[]; nodes: Record<string, unknown>[] }

const ending = (files: Files, suffix: string): string => Object.keys(files).find((path) => path.endsWith(suffix)) ?? ''

function rewritten(files: Files): Uint8Array {
  const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as { files: object[] }
  const others = Object.entries(files).filter(([path]) => path !== 'manifest.json')
  manifest.files = others.map(([path, bytes]) => ({ path, bytes: bytes.length, sha256: sha256Hex(bytes) }))
  return writeArchive([{ path: 'manifest.json', bytes: new TextEncoder().encode(JSON.stringify(manifest)) }, ...others.map(([path, bytes]) => ({ path, bytes }))], 'zip-deflated')
}

function alterGlb(files: Files, alter: (json: Json, binary: DataView) => void): void {
  const path = ending(files, '.glb')
  const glb = files[path].slice()
  const view = new DataView(glb.buffer)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as Json
  alter(json, new DataView(glb.buffer, 28 + length))
  const text = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(text.length / 4) * 4
  const made = new Uint8Array(20 + padded + glb.length - 20 - length).fill(0x20, 20)
  made.set(glb.subarray(0, 20))
  made.set(text, 20)
  made.set(glb.subarray(20 + length), 20 + padded)
  new DataView(made.buffer).setUint32(8, made.length, true)
  new DataView(made.buffer).setUint32(12, padded, true)
  files[path] = made
}

const alterMap = (files: Files, suffix: string, alter: (bytes: Uint8Array, view: DataView) => Uint8Array | void): void => {
  const path = ending(files, suffix)
  const bytes = files[path].slice()
  files[path] = alter(bytes, new DataView(bytes.buffer)) ?? bytes
}

const firstOf = (json: Json, semantic: string): number => {
  const accessor = json.accessors[json.meshes[0].primitives[0].attributes[semantic]]
  return (json.bufferViews[accessor.bufferView].byteOffset ?? 0) + (accessor.byteOffset ?? 0)
}

const longer = (bytes: Uint8Array): Uint8Array => Uint8Array.from([...bytes, 0, 0, 0, 0])

const spoilers: readonly [string, 'refused' | 'complaint', string, (files: Files) => void][] = [
  ['a GLB longer than its header says', 'refused', 'mesh.unreadable', (files) => { files[ending(files, '.glb')] = longer(files[ending(files, '.glb')]) }],
  ['an extension that the file needs', 'refused', 'mesh.unreadable', (files) => alterGlb(files, (json) => { json['extensionsRequired'] = ['EXT_mesh_gpu_instancing'] })],
  ['a UV that is no number', 'refused', 'mesh.unreadable', (files) => alterGlb(files, (json, binary) => binary.setFloat32(firstOf(json, 'TEXCOORD_0'), NaN, true))],
  ['a place that is no number', 'refused', 'mesh.unreadable', (files) => alterGlb(files, (json, binary) => binary.setFloat32(firstOf(json, 'POSITION'), Infinity, true))],
  ['a cube map', 'refused', 'map.unreadable', (files) => alterMap(files, '_col.dds', (_, view) => view.setUint32(136, 4, true))],
  ['a row of textures', 'refused', 'map.unreadable', (files) => alterMap(files, '_col.dds', (_, view) => view.setUint32(140, 2, true))],
  ['bytes after the last level', 'refused', 'map.unreadable', (files) => alterMap(files, '_col.dds', longer)],
  ['colour stored as numbers', 'complaint', 'map.space', (files) => alterMap(files, '_col.dds', (_, view) => view.setUint32(128, 98, true))],
  ['numbers stored as colour', 'complaint', 'map.space', (files) => alterMap(files, '_mix.dds', (_, view) => view.setUint32(128, 99, true))],
  ['a path that leads out of it', 'refused', 'pack.path', (files) => { files['items/../../outside.txt'] = new Uint8Array(3) }],
]

describe.runIf(pillowIsPresent())('the loader reads the bytes themselves', () => {
  let pack = new Uint8Array()
  beforeAll(async () => {
    const file = traitFiles().find(({ name }) => name === 'metal-rough-map')
    pack = (await judgeFile('metal-rough-map.glb', file?.files ?? new Map(), { metresPerUnit: 1 })).pack as Uint8Array<ArrayBuffer>
  })

  it('and takes a pack that was only written anew', () => {
    const { loads, log } = loadPack(rewritten(unzipSync(pack)), tarnAndTiller)
    expect([loads, log.filter((line) => line.level !== 'told')]).toEqual([true, []])
  })

  it.each(spoilers)('and notices %s', (_name, level, code, spoil) => {
    const files = unzipSync(pack)
    spoil(files)
    const { log, loads } = loadPack(rewritten(files), tarnAndTiller)
    expect(log.filter((line) => line.level !== 'told').map((line) => [line.level, line.code])).toContainEqual([level, code])
    expect(loads).toBe(level !== 'refused')
  })
})
