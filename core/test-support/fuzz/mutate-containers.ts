import { unzipSync, zipSync } from 'fflate'
import type { Draw } from './draw.ts'
import { mutateBytes } from './mutate-bytes.ts'
import { mutateJson } from './mutate-json.ts'
import { mutateText } from './mutate-text.ts'

const decode = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes)
const encode = (text: string): Uint8Array => new TextEncoder().encode(text)

/** Bytes changed as what they hold is: JSON by value, text by token, everything else by byte. */
export function mutateByKind(path: string, bytes: Uint8Array, draw: Draw): Uint8Array {
  if (draw.chance(0.15)) return mutateBytes(bytes, draw)
  if (/\.(json|gltf)$/i.test(path)) return encode(mutateJson(new TextDecoder().decode(bytes), draw))
  if (/\.(glb|state)$/i.test(path)) return mutateGlb(bytes, draw)
  if (/\.zip$/i.test(path)) return mutateZip(bytes, draw)
  if (isText(bytes)) return encode(mutateText(decode(bytes), draw))
  return mutateBytes(bytes, draw)
}

const isText = (bytes: Uint8Array): boolean => !bytes.subarray(0, 400).some((byte) => byte < 9)

const JSON_CHUNK = 0x4e4f534a

/** A GLB whose JSON or data is changed, put together again so that its lengths are right. */
function mutateGlb(bytes: Uint8Array, draw: Draw): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const length = bytes.length > 20 ? view.getUint32(12, true) : 0
  if (length === 0 || view.getUint32(16, true) !== JSON_CHUNK || 20 + length > bytes.length)
    return mutateBytes(bytes, draw)
  const rest = bytes.slice(20 + length)
  const text = new TextDecoder().decode(bytes.subarray(20, 20 + length))
  const json = encode(draw.chance(0.8) ? mutateJson(text, draw) : text)
  const data = draw.chance(0.3) ? mutateBytes(rest, draw) : rest
  const padded = Math.ceil(json.length / 4) * 4
  const out = new Uint8Array(20 + padded + data.length).fill(0x20, 20, 20 + padded)
  out.set(bytes.subarray(0, 20))
  out.set(json, 20)
  out.set(data, 20 + padded)
  const head = new DataView(out.buffer)
  head.setUint32(8, out.length, true)
  head.setUint32(12, padded, true)
  return out
}

/** A ZIP with one of its files changed and packed anew, or with its directory changed. */
function mutateZip(bytes: Uint8Array, draw: Draw): Uint8Array {
  if (draw.chance(0.3)) return mutateDirectory(bytes, draw)
  const files = unzipSync(bytes)
  const paths = Object.keys(files)
  const path = draw.one(paths)
  const what = draw.below(10)
  if (what < 8) files[path] = mutateByKind(path, files[path], draw) as Uint8Array<ArrayBuffer>
  else if (what < 9) Reflect.deleteProperty(files, path)
  else files[draw.one(['../x', '/etc/x', 'constructor', `${path}/${path}`, 'a'.repeat(400)])] = files[path]
  return zipSync(files, { level: 1 })
}

const ENTRY = 0x02014b50
const END = 0x06054b50

/** Sizes, places and counts in the directory of a ZIP set to what is not so. */
function mutateDirectory(bytes: Uint8Array, draw: Draw): Uint8Array {
  const out = bytes.slice()
  const view = new DataView(out.buffer)
  const records: number[] = []
  for (let at = 0; at + 22 <= out.length; at++) if ([ENTRY, END].includes(view.getUint32(at, true))) records.push(at)
  if (records.length === 0) return mutateBytes(bytes, draw)
  const at = draw.one(records)
  const field = at + (view.getUint32(at, true) === END ? draw.one([8, 10, 12, 16]) : draw.one([8, 10, 20, 24, 28, 42]))
  if (field + 4 <= out.length) view.setUint32(field, draw.one([0, 1, 0xffff, 0x7fffffff, 0xffffffff, 1e9]), true)
  return out
}
