/** Writers for tests, made apart from the readers they test: straight from the formats' descriptions. */

const latin = (text: string): number[] => [...text].map((character) => character.charCodeAt(0))
const u16 = (value: number): number[] => [value & 255, (value >> 8) & 255]
const u32 = (value: number): number[] => [...u16(value & 0xffff), ...u16(Math.floor(value / 65536) & 0xffff)]
const f32 = (value: number): number[] => [...new Uint8Array(Float32Array.from([value]).buffer)]
const f64 = (value: number): number[] => [...new Uint8Array(Float64Array.from([value]).buffer)]

/** A chunk of a 3DS file. */
export const chunk3ds = (id: number, ...content: number[][]): number[] => {
  const bytes = content.flat()
  return [...u16(id), ...u32(bytes.length + 6), ...bytes]
}
export const bytes3ds = {
  name: (text: string) => [...latin(text), 0],
  u16,
  u32,
  floats: (...values: number[]) => values.flatMap(f32),
}

type FbxTestValue = { long: number } | { list: number[] } | { ints: number[] } | string | number
export interface FbxTestNode {
  name: string
  values?: FbxTestValue[]
  children?: FbxTestNode[]
}

/** A binary FBX of version 7.4 with unpacked lists. */
export function binaryFbx(nodes: readonly FbxTestNode[]): Uint8Array {
  const bytes: number[] = [...latin('Kaydara FBX Binary  '), 0, 0x1a, 0, ...u32(7400)]
  for (const node of nodes) writeNode(bytes, node)
  bytes.push(...new Array<number>(13).fill(0))
  return Uint8Array.from(bytes)
}

function writeNode(bytes: number[], { name, values = [], children = [] }: FbxTestNode): void {
  const start = bytes.length
  const valueBytes = values.flatMap(fbxValue)
  bytes.push(...u32(0), ...u32(values.length), ...u32(valueBytes.length), name.length, ...latin(name), ...valueBytes)
  for (const child of children) writeNode(bytes, child)
  if (children.length > 0) bytes.push(...new Array<number>(13).fill(0))
  u32(bytes.length).forEach((byte, index) => {
    bytes[start + index] = byte
  })
}

function fbxValue(value: FbxTestValue): number[] {
  if (typeof value === 'string') return [...latin('S'), ...u32(value.length), ...latin(value)]
  if (typeof value === 'number') return [...latin('D'), ...f64(value)]
  if ('long' in value) return [...latin('L'), ...u32(value.long), ...u32(0)]
  const [letter, list] =
    'list' in value ? ['d', value.list.flatMap(f64)] : ['i', value.ints.flatMap((each) => u32(each >>> 0))]
  const count = 'list' in value ? value.list.length : value.ints.length
  return [...latin(letter), ...u32(count), ...u32(0), ...u32(list.length), ...list]
}

export interface TgaTest {
  width: number
  height: number
  type: number
  bits: number
  descriptor: number
  map?: { bits: number; colours: number[][] }
  data: number[]
}

export const tgaFile = ({ width, height, type, bits, descriptor, map, data }: TgaTest): Uint8Array =>
  Uint8Array.from([
    0,
    map ? 1 : 0,
    type,
    ...u16(0),
    ...u16(map?.colours.length ?? 0),
    map?.bits ?? 0,
    0,
    0,
    0,
    0,
    ...u16(width),
    ...u16(height),
    bits,
    descriptor,
    ...(map?.colours.flat() ?? []),
    ...data,
  ])

/** A BMP with the 40-byte header. */
export const bmpFile = (
  width: number,
  height: number,
  bits: number,
  compression: number,
  palette: number[][],
  data: number[],
): Uint8Array =>
  Uint8Array.from([
    ...latin('BM'),
    ...u32(54 + palette.length * 4 + data.length),
    ...u32(0),
    ...u32(54 + palette.length * 4),
    ...u32(40),
    ...u32(width),
    ...u32(height >>> 0),
    ...u16(1),
    ...u16(bits),
    ...u32(compression),
    ...u32(data.length),
    ...u32(0),
    ...u32(0),
    ...u32(palette.length),
    ...u32(0),
    ...palette.flat(),
    ...data,
  ])

/** A DDS with the old header: either four characters, or bits and masks. */
export function oldDds(
  width: number,
  height: number,
  format: string | { bits: number; masks: [number, number, number, number]; flags: number },
  data: number[],
): Uint8Array {
  const pixelFormat =
    typeof format === 'string' ? [32, 4, ...[0, 0, 0, 0, 0, 0]] : [32, format.flags, 0, format.bits, ...format.masks]
  const bytes = [
    ...latin('DDS '),
    ...[124, 0x1007, height, width, 0, 0, 0].flatMap(u32),
    ...new Array<number>(44).fill(0),
    ...pixelFormat.flatMap(u32),
    ...[0x1000, 0, 0, 0, 0].flatMap(u32),
    ...data,
  ]
  if (typeof format === 'string') latin(format).forEach((byte, index) => (bytes[84 + index] = byte))
  return Uint8Array.from(bytes)
}

/** The smallest binary FBX that holds a mesh: one triangle. */
export const sheetFbx = (): Uint8Array =>
  binaryFbx([
    {
      name: 'Objects',
      children: [
        {
          name: 'Geometry',
          values: [{ long: 10 }, 'Sheet', 'Mesh'],
          children: [
            { name: 'Vertices', values: [{ list: [0, 0, 0, 1, 0, 0, 0, 1, 0] }] },
            { name: 'PolygonVertexIndex', values: [{ ints: [0, 1, -3] }] },
          ],
        },
        { name: 'Model', values: [{ long: 20 }, 'Sheet', 'Mesh'] },
      ],
    },
    {
      name: 'Connections',
      children: [
        { name: 'C', values: ['OO', { long: 10 }, { long: 20 }] },
        { name: 'C', values: ['OO', { long: 20 }, { long: 0 }] },
      ],
    },
  ])
