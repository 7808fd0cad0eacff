import { zlibSync } from 'fflate'

/** A value of a record, by the letter that the format has for its type. */
export type Value =
  | { type: 'S'; value: string }
  | { type: 'I' | 'D' | 'L'; value: number }
  | { type: 'd' | 'f' | 'i' | 'l'; value: ArrayLike<number> }

export interface FbxRecord {
  name: string
  values: Value[]
  children: FbxRecord[]
}

/**
 * A text.
 * @example line('Creator', text('Gentle Crate'))
 */
export const text = (value: string): Value => ({ type: 'S', value })
/**
 * A whole number of 32 bits.
 * @example line('Version', whole(232))
 */
export const whole = (value: number): Value => ({ type: 'I', value })
/**
 * A number of 64 bits.
 * @example line('DefaultAttributeIndex', real(0.5))
 */
export const real = (value: number): Value => ({ type: 'D', value })
/**
 * 64 bits: ids and times.
 * @example line('KTime', long(46186158000))
 */
export const long = (value: number): Value => ({ type: 'L', value })
/**
 * Numbers of 64 bits each.
 * @example line('Vertices', reals(positions))
 */
export const reals = (value: ArrayLike<number>): Value => ({ type: 'd', value })
/**
 * Numbers of 32 bits each.
 * @example line('KeyValueFloat', floats(Float32Array.of(0, 1)))
 */
export const floats = (value: ArrayLike<number>): Value => ({ type: 'f', value })
/**
 * Whole numbers of 32 bits each.
 * @example line('PolygonVertexIndex', wholes([0, 1, -3]))
 */
export const wholes = (value: ArrayLike<number>): Value => ({ type: 'i', value })
/**
 * Whole numbers of 64 bits each: ids and times.
 * @example line('KeyTime', longs([0, 46186158000]))
 */
export const longs = (value: ArrayLike<number>): Value => ({ type: 'l', value })

/**
 * A record with its values and the records in it.
 * @example record('Layer', [whole(0)], line('Version', whole(100)))
 */
export const record = (name: string, values: readonly Value[] = [], ...children: FbxRecord[]): FbxRecord => ({
  name,
  values: [...values],
  children,
})

/**
 * A record with one value.
 * @example line('Name', text('gate'))
 */
export const line = (name: string, value: Value): FbxRecord => record(name, [value])

/**
 * A list of properties: name, type, label, flags and values of each.
 * @example properties(['UnitScaleFactor', 'double', 'Number', '', real(1)])
 */
export const properties = (
  ...lines: readonly (readonly [name: string, type: string, label: string, flags: string, ...values: Value[]])[]
): FbxRecord =>
  record(
    'Properties70',
    [],
    ...lines.map(([name, type, label, flags, ...values]) =>
      record('P', [text(name), text(type), text(label), text(flags), ...values]),
    ),
  )

const VERSION = 7400
const MAGIC = 'Kaydara FBX Binary  \0\u001a\0'
/** Length of the record that ends a list: 3 numbers and an empty name. */
const END_BYTES = 13
const FOOTER_ID = [0xfa, 0xbc, 0xab, 0x09, 0xd0, 0xc8, 0xd4, 0x66, 0xb1, 0x76, 0xfb, 0x83, 0x1c, 0xf7, 0x26, 0x7e]
const FOOTER_END = [0xf8, 0x5a, 0x8c, 0x6a, 0xde, 0xf5, 0xd9, 0x7e, 0xec, 0xe9, 0x0c, 0xe3, 0x75, 0x8f, 0x29, 0x0b]
/** Lists of fewer bytes are not packed. */
const PACKED_FROM_BYTES = 256
const widths = { d: 8, f: 4, i: 4, l: 8 } as const

/**
 * A binary FBX of version 7.4: records one behind the other, each with the place of its end (the layout as Blender's
 * developers published it, “FBX binary file format specification”, 2013).
 *
 * @example writeFileSync('gate.fbx', fbxBytes(records))
 */
export function fbxBytes(records: readonly FbxRecord[]): Uint8Array {
  const bytes = new GrowingBytes()
  for (const character of MAGIC) bytes.byte(character.charCodeAt(0))
  bytes.whole(VERSION)
  for (const each of records) writeRecord(bytes, each)
  bytes.nothing(END_BYTES)
  for (const each of FOOTER_ID) bytes.byte(each)
  bytes.nothing(16 - (bytes.length % 16))
  bytes.nothing(4)
  bytes.whole(VERSION)
  bytes.nothing(120)
  for (const each of FOOTER_END) bytes.byte(each)
  return bytes.toArray()
}

function writeRecord(bytes: GrowingBytes, { name, values, children }: FbxRecord): void {
  const start = bytes.length
  bytes.nothing(4)
  bytes.whole(values.length)
  bytes.nothing(4)
  bytes.byte(name.length)
  for (const character of name) bytes.byte(character.charCodeAt(0))
  const from = bytes.length
  for (const value of values) writeValue(bytes, value)
  bytes.wholeAt(start + 8, bytes.length - from)
  for (const child of children) writeRecord(bytes, child)
  // A record without values ends like one that holds others, as readers expect.
  if (children.length > 0 || values.length === 0) bytes.nothing(END_BYTES)
  bytes.wholeAt(start, bytes.length)
}

function writeValue(bytes: GrowingBytes, value: Value): void {
  bytes.byte(value.type.charCodeAt(0))
  switch (value.type) {
    case 'S': {
      const encoded = new TextEncoder().encode(value.value)
      bytes.whole(encoded.length)
      bytes.all(encoded)
      return
    }
    case 'I':
      bytes.whole(value.value)
      return
    case 'D':
    case 'L':
      bytes.all(packedNumbers([value.value], value.type === 'D' ? 'd' : 'l'))
      return
    default: {
      const plain = packedNumbers(value.value, value.type)
      const isPacked = plain.length >= PACKED_FROM_BYTES
      const written = isPacked ? zlibSync(plain, { level: 6 }) : plain
      bytes.whole(value.value.length)
      bytes.whole(isPacked ? 1 : 0)
      bytes.whole(written.length)
      bytes.all(written)
    }
  }
}

function packedNumbers(values: ArrayLike<number>, type: keyof typeof widths): Uint8Array {
  const width = widths[type]
  const view = new DataView(new ArrayBuffer(values.length * width))
  for (let at = 0; at < values.length; at++) {
    if (type === 'd') view.setFloat64(at * width, values[at], true)
    else if (type === 'f') view.setFloat32(at * width, values[at], true)
    else if (type === 'i') view.setInt32(at * width, values[at], true)
    else view.setBigInt64(at * width, BigInt(Math.round(values[at])), true)
  }
  return new Uint8Array(view.buffer)
}

class GrowingBytes {
  private bytes = new Uint8Array(1 << 16)
  length = 0

  byte(value: number): void {
    this.room(1)
    this.bytes[this.length++] = value
  }

  whole(value: number): void {
    this.room(4)
    this.length += 4
    this.wholeAt(this.length - 4, value)
  }

  wholeAt(at: number, value: number): void {
    new DataView(this.bytes.buffer).setInt32(at, value, true)
  }

  all(values: Uint8Array): void {
    this.room(values.length)
    this.bytes.set(values, this.length)
    this.length += values.length
  }

  /** So many bytes of 0. */
  nothing(count: number): void {
    this.all(new Uint8Array(count))
  }

  toArray(): Uint8Array {
    return this.bytes.slice(0, this.length)
  }

  private room(count: number): void {
    if (this.length + count <= this.bytes.length) return
    const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + count))
    larger.set(this.bytes)
    this.bytes = larger
  }
}
