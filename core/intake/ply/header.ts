import { PlainError } from '../../support/plain-error.ts'

/** Number types of PLY under both of their names, with their size in bytes. */
const typeSizes = { char: 1, uchar: 1, short: 2, ushort: 2, int: 4, uint: 4, float: 4, double: 8 } as const
export type PlyType = keyof typeof typeSizes
const otherNames: Record<string, PlyType> = {
  int8: 'char',
  uint8: 'uchar',
  int16: 'short',
  uint16: 'ushort',
  int32: 'int',
  uint32: 'uint',
  float32: 'float',
  float64: 'double',
}

/**
 * Bytes of one number of a type.
 * @example sizeOf('float') // 4
 */
export const sizeOf = (type: PlyType): number => typeSizes[type]

export interface PlyProperty {
  name: string
  type: PlyType
  /** Type of the length that stands before a list; null for a single number. */
  lengthType: PlyType | null
}

export interface PlyElement {
  name: string
  count: number
  properties: PlyProperty[]
}

export interface PlyHeader {
  format: 'ascii' | 'binary_little_endian' | 'binary_big_endian'
  elements: PlyElement[]
  /** Texture files that comments name, as several scanners write them. */
  textures: string[]
  /** Where the body begins. */
  bodyOffset: number
}

const MOST_HEADER_BYTES = 64 * 1024
const MOST_PROPERTIES = 256

/**
 * Reads the header of a PLY file (Turk 1994, “The PLY Polygon File Format”).
 * @throws PlainError when it is no PLY, or promises more than the file can hold
 *
 * @example const { elements } = readPlyHeader(bytes, 'gate.ply')
 */
export function readPlyHeader(bytes: Uint8Array, file: string): PlyHeader {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_HEADER_BYTES))
  const end = /\bend_header[^\S\r\n]*(\r\n|\n|\r)/.exec(text)
  if (!/^ply\s/.test(text) || !end)
    throw new PlainError('it does not begin like a PLY', file, 'Check the ending of its name, or export it again.')
  const header: PlyHeader = { format: 'ascii', elements: [], textures: [], bodyOffset: end.index + end[0].length }
  for (const line of text.slice(0, end.index).split(/\r\n|\n|\r/)) readLine(line.trim(), header, file)
  for (const element of header.elements) {
    // A number takes a byte at least, so a count beyond the file's size is a lie that would cost time and room.
    if (element.properties.length === 0 && element.count > 0)
      throw new PlainError(`its element “${element.name.slice(0, 40)}” has no properties`, file, 'Export it again.')
    if (element.count > bytes.length)
      throw new PlainError(
        `it promises ${element.count} of “${element.name.slice(0, 40)}”, more than its ${bytes.length} bytes can hold`,
        file,
        'Copy it again, or export it again.',
      )
  }
  return header
}

function readLine(line: string, header: PlyHeader, file: string): void {
  const words = line.split(/\s+/)
  const wrong = (): PlainError =>
    new PlainError(`its header line “${line.slice(0, 60)}” is not understood`, file, 'Export it again.')
  if (words[0] === 'format') {
    const format = (['ascii', 'binary_little_endian', 'binary_big_endian'] as const).find((each) => each === words[1])
    if (!format) throw wrong()
    header.format = format
  } else if (words[0] === 'comment' && /^texturefile$/i.test(words[1] ?? ''))
    header.textures.push(words.slice(2).join(' '))
  else if (words[0] === 'element') {
    const count = Number(words[2])
    if (!words[1] || !Number.isInteger(count) || count < 0) throw wrong()
    header.elements.push({ name: words[1], count, properties: [] })
  } else if (words[0] === 'property') {
    const element = header.elements.at(-1)
    const isList = words[1] === 'list'
    const [type, name] = isList ? [words[3], words[4]] : [words[1], words[2]]
    if (!element || !name || element.properties.length >= MOST_PROPERTIES) throw wrong()
    element.properties.push({
      name,
      type: typeOf(type) ?? fail(wrong()),
      lengthType: isList ? (typeOf(words[2]) ?? fail(wrong())) : null,
    })
  }
}

const typeOf = (word: string): PlyType | null =>
  Object.hasOwn(typeSizes, word) ? (word as PlyType) : Object.hasOwn(otherNames, word) ? otherNames[word] : null

function fail(error: Error): never {
  throw error
}
