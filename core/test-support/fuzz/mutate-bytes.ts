import type { Draw } from './draw.ts'

/** Numbers at which readers break: none, one off an end, larger than anything that is there. */
const extremes32 = [0, 1, 0x7f, 0xff, 0xffff, 0x10000, 0x7fffffff, 0x80000000, 0xfffffffe, 0xffffffff, 1e6, 5e7, 1e9]
const extremesFloat = [NaN, Infinity, -Infinity, 1e308, -1e308, 1e-320, 3.4e38, -0]

/** Most files say in their first bytes how large the rest is. */
const HEAD_BYTES = 256

const placeIn = (bytes: Uint8Array, draw: Draw): number =>
  draw.below(draw.chance(0.5) ? Math.min(bytes.length, HEAD_BYTES) : bytes.length)

type Change = (bytes: Uint8Array, draw: Draw) => Uint8Array

const setNumber: Change = (bytes, draw) => {
  const out = bytes.slice()
  const view = new DataView(out.buffer)
  const size = draw.one([2, 4, 4, 4, 8])
  if (out.length < size) return out
  const at = Math.min(placeIn(bytes, draw), out.length - size)
  const place = draw.chance(0.7) ? at - (at % size) : at
  const little = draw.chance(0.8)
  if (size === 2) view.setUint16(place, draw.one(extremes32) & 0xffff, little)
  else if (size === 8) view.setFloat64(place, draw.one(extremesFloat), little)
  else if (draw.chance(0.3)) view.setFloat32(place, draw.one(extremesFloat), little)
  else view.setUint32(place, draw.one(extremes32), little)
  return out
}

const setByte: Change = (bytes, draw) => {
  const out = bytes.slice()
  if (out.length > 0) out[placeIn(bytes, draw)] = draw.one([0, 1, 0x20, 0x2d, 0x7f, 0x80, 0xff, draw.below(256)])
  return out
}

const cutOff: Change = (bytes, draw) => bytes.slice(0, draw.below(bytes.length + 1))

const takeOut: Change = (bytes, draw) => {
  const at = placeIn(bytes, draw)
  const end = Math.min(bytes.length, at + 1 + draw.below(64))
  return Uint8Array.from([...bytes.slice(0, at), ...bytes.slice(end)])
}

const repeat: Change = (bytes, draw) => {
  const at = placeIn(bytes, draw)
  const piece = bytes.slice(at, at + 1 + draw.below(64))
  const times = draw.one([1, 2, 50])
  return Uint8Array.from([
    ...bytes.slice(0, at),
    ...Array.from({ length: times }, () => [...piece]).flat(),
    ...bytes.slice(at),
  ])
}

const changes: readonly Change[] = [setNumber, setNumber, setNumber, setByte, setByte, cutOff, takeOut, repeat]

/**
 * Bytes with one to four things changed: numbers set to extremes, bytes, pieces that are cut off, taken out, repeated.
 */
export function mutateBytes(bytes: Uint8Array, draw: Draw): Uint8Array {
  let out = bytes
  for (let count = 1 + draw.below(4); count > 0 && out.length > 0; count--) out = draw.one(changes)(out, draw)
  return out
}
