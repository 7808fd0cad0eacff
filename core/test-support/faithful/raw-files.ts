import { deflateSync } from 'node:zlib'

/** A PNG of 8-bit RGBA (W3C PNG, third edition), written with Node's own deflate. */
export function rawPng(
  width: number,
  height: number,
  paint: (x: number, y: number) => readonly [number, number, number, number],
): Uint8Array {
  const rows = Buffer.alloc(height * (1 + width * 4))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      paint(x, y).forEach((value, channel) => (rows[y * (1 + width * 4) + 1 + x * 4 + channel] = value))
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
    let crc = 0xffffffff
    for (const byte of body) {
      crc ^= byte
      for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1
    }
    const out = Buffer.alloc(12 + data.length)
    out.writeUInt32BE(data.length, 0)
    body.copy(out, 4)
    out.writeUInt32BE((crc ^ 0xffffffff) >>> 0, 8 + data.length)
    return out
  }
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width, 0)
  header.writeUInt32BE(height, 4)
  header.set([8, 6, 0, 0, 0], 8)
  return new Uint8Array(
    Buffer.concat([
      Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
      chunk('IHDR', header),
      chunk('IDAT', deflateSync(rows)),
      chunk('IEND', Buffer.alloc(0)),
    ]),
  )
}

export type Json = Record<string, unknown>
export interface Array3D {
  values: readonly number[]
  type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4'
  /** 5126 floats, 5123 short integers. */
  component?: number
  normalized?: boolean
}

/** A GLB of arrays and pictures; `json` gives the rest and names accessors and images by number. */
export function rawGlb(arrays: readonly Array3D[], images: readonly Uint8Array[], json: Json): Uint8Array {
  const pieces: Buffer[] = []
  const bufferViews: Json[] = []
  let length = 0
  const put = (bytes: Buffer): number => {
    const padded = Buffer.concat([bytes, Buffer.alloc((4 - (bytes.length % 4)) % 4)])
    pieces.push(padded)
    bufferViews.push({ buffer: 0, byteOffset: length, byteLength: bytes.length })
    length += padded.length
    return bufferViews.length - 1
  }
  const sizes = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 }
  const accessors = arrays.map(({ values, type, component = 5126, normalized }) => {
    const typed =
      component === 5126
        ? Float32Array.from(values)
        : component === 5123
          ? Uint16Array.from(values)
          : Uint8Array.from(values)
    const bounds =
      type === 'VEC3'
        ? {
            min: [0, 1, 2].map((axis) => Math.min(...values.filter((_, at) => at % 3 === axis))),
            max: [0, 1, 2].map((axis) => Math.max(...values.filter((_, at) => at % 3 === axis))),
          }
        : {}
    return {
      bufferView: put(Buffer.from(typed.buffer)),
      componentType: component,
      count: values.length / sizes[type],
      type,
      ...(normalized ? { normalized } : {}),
      ...bounds,
    }
  })
  const pictures = images.map((bytes) => ({ bufferView: put(Buffer.from(bytes)), mimeType: 'image/png' }))
  const whole = {
    asset: { version: '2.0' },
    buffers: [{ byteLength: length }],
    bufferViews,
    accessors,
    ...(pictures.length > 0 ? { images: pictures } : {}),
    ...json,
  }
  const text = Buffer.from(JSON.stringify(whole))
  const body = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 0x20)])
  const head = Buffer.alloc(20)
  head.write('glTF', 0, 'latin1')
  head.writeUInt32LE(2, 4)
  head.writeUInt32LE(28 + body.length + length, 8)
  head.writeUInt32LE(body.length, 12)
  head.write('JSON', 16, 'latin1')
  const binary = Buffer.alloc(8)
  binary.writeUInt32LE(length, 0)
  binary.write('BIN\0', 4, 'latin1')
  return new Uint8Array(Buffer.concat([head, body, binary, ...pieces]))
}
