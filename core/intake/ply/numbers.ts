import { PlainError } from '../../support/plain-error.ts'
import { sizeOf, type PlyHeader, type PlyType } from './header.ts'

/** Gives the numbers of a PLY body one after another. */
export interface PlyNumbers {
  next: (type: PlyType) => number
}

const cutOff = (file: string): PlainError =>
  new PlainError('it is cut off before its last face', file, 'Copy it again, or export it again.')

/**
 * Numbers of a body in the format that the header names; reading past the end throws a PlainError.
 * @example const next = plyNumbers(bytes, readPlyHeader(bytes, 'gate.ply'), 'gate.ply')
 */
export function plyNumbers(bytes: Uint8Array, header: PlyHeader, file: string): PlyNumbers {
  const body = bytes.subarray(header.bodyOffset)
  return header.format === 'ascii'
    ? textNumbers(body, file)
    : binaryNumbers(body, header.format === 'binary_little_endian', file)
}

function binaryNumbers(body: Uint8Array, littleEndian: boolean, file: string): PlyNumbers {
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength)
  let offset = 0
  const read: Record<PlyType, (at: number) => number> = {
    char: (at) => view.getInt8(at),
    uchar: (at) => view.getUint8(at),
    short: (at) => view.getInt16(at, littleEndian),
    ushort: (at) => view.getUint16(at, littleEndian),
    int: (at) => view.getInt32(at, littleEndian),
    uint: (at) => view.getUint32(at, littleEndian),
    float: (at) => view.getFloat32(at, littleEndian),
    double: (at) => view.getFloat64(at, littleEndian),
  }
  return {
    next: (type) => {
      const at = offset
      offset += sizeOf(type)
      if (offset > body.length) throw cutOff(file)
      return read[type](at)
    },
  }
}

function textNumbers(body: Uint8Array, file: string): PlyNumbers {
  let offset = 0
  return {
    next: () => {
      while (offset < body.length && body[offset] <= 32) offset++
      const start = offset
      while (offset < body.length && body[offset] > 32) offset++
      if (offset === start) throw cutOff(file)
      const word = String.fromCharCode(...body.subarray(start, Math.min(offset, start + 64)))
      const value = Number(word)
      // Out-of-range numbers are judged where they are used; a word that is none is the file's fault.
      if (Number.isNaN(value) && !/^[+-]?nan/i.test(word))
        throw new PlainError(`“${word.slice(0, 40)}” stands where a number should`, file, 'Export it again.')
      return value
    },
  }
}
