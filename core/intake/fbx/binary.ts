import { inMillions, limits } from '../../support/limits.ts'
import { unzlibSync } from 'fflate'
import { ByteReader, decodeText } from '../../support/byte-reader.ts'
import { PlainError } from '../../support/plain-error.ts'
import type { FbxFile, FbxNode, FbxValue } from './tree.ts'

const SIGNATURE = 'Kaydara FBX Binary  \u0000'

/**
 * Whether bytes begin as a binary FBX does.
 * @example isBinaryFbx(new TextEncoder().encode('; FBX 7.4.0')) // false
 */
export const isBinaryFbx = (bytes: Uint8Array): boolean =>
  new TextDecoder('latin1').decode(bytes.subarray(0, SIGNATURE.length)) === SIGNATURE

/**
 * Reads the node tree of a binary FBX. Each record says where it ends; since version 7.5 with 64-bit numbers.
 * @throws PlainError when a record runs past its parent, or lists are larger than they may be
 *
 * @example const { version, root } = readBinaryFbx(bytes, 'gate.fbx')
 */
export function readBinaryFbx(bytes: Uint8Array, file: string, onProgress?: (fraction: number) => void): FbxFile {
  return new BinaryReader(bytes, file, onProgress).read()
}

class BinaryReader {
  private readonly reader: ByteReader
  private readonly version: number
  private nodeCount = 0
  private listBytes = 0

  constructor(
    bytes: Uint8Array,
    private readonly file: string,
    private readonly onProgress?: (fraction: number) => void,
  ) {
    this.reader = new ByteReader(
      bytes,
      () =>
        new PlainError('it is cut off, or a piece of it runs past its end', file, 'Copy it again, or export it again.'),
    )
    this.reader.take(23)
    this.version = this.reader.uint32()
  }

  read(): FbxFile {
    const root: FbxNode = { name: '', values: [], children: this.readChildren(this.reader.bytes.length, 0) }
    return { version: this.version, root }
  }

  private readChildren(end: number, depth: number): FbxNode[] {
    const children: FbxNode[] = []
    if (depth > limits.recordDepth) throw this.wrong(`its tree is deeper than ${limits.recordDepth}`)
    while (this.reader.offset < end) {
      const node = this.readNode(depth)
      if (!node) break
      children.push(node)
    }
    return children
  }

  private readNode(depth: number): FbxNode | null {
    const wide = this.version >= 7500
    const number = (): number => (wide ? this.reader.uint64() : this.reader.uint32())
    const [end, valueCount, valueBytes] = [number(), number(), number()]
    const name = decodeText(this.reader.take(this.reader.uint8()))
    if (end === 0) return null
    this.onProgress?.(this.reader.offset / this.reader.bytes.length)
    if (++this.nodeCount > limits.records) throw this.wrong(`it has more than ${inMillions(limits.records)} records`)
    const valuesEnd = this.reader.offset + valueBytes
    if (end > this.reader.bytes.length || valuesEnd > end || valueCount > valueBytes) throw this.reader.cutOff()
    const values: FbxValue[] = []
    for (let index = 0; index < valueCount; index++) values.push(this.readValue())
    this.reader.offset = valuesEnd
    const children = valuesEnd < end ? this.readChildren(end, depth + 1) : []
    this.reader.offset = end
    return { name, values, children }
  }

  private readValue(): FbxValue {
    const { reader } = this
    const type = String.fromCharCode(reader.uint8())
    switch (type) {
      case 'Y':
        return reader.int16()
      case 'C':
      case 'B':
        return reader.uint8() !== 0
      case 'I':
        return reader.int32()
      case 'F':
        return reader.float32()
      case 'D':
        return reader.float64()
      case 'L':
        return reader.int64()
      case 'S':
        return decodeText(reader.take(reader.uint32()))
      case 'R':
        return reader.take(reader.uint32())
      case 'f':
        return new Float32Array(this.readList(4))
      case 'd':
        return new Float64Array(this.readList(8))
      case 'i':
        return new Int32Array(this.readList(4))
      case 'l':
        return new BigInt64Array(this.readList(8))
      case 'b':
      case 'c':
        return new Uint8Array(this.readList(1))
    }
    throw this.wrong(`a value of the unknown type “${type}” stands in it`)
  }

  /** A list of numbers, packed with zlib or not; its unpacked size is known beforehand. */
  private readList(elementBytes: number): ArrayBuffer {
    const [count, encoding, storedBytes] = [this.reader.uint32(), this.reader.uint32(), this.reader.uint32()]
    const size = count * elementBytes
    this.listBytes += size
    if (this.listBytes > limits.listBytes)
      throw this.wrong(`its lists would unpack to more than ${limits.listBytes / 1024 / 1024} MB`)
    if (encoding === 0) return copyOf(this.reader.take(size))
    const stored = this.reader.take(storedBytes)
    // Deflate packs at most about a thousand to one: a list that claims more is a lie that would only cost room.
    if (encoding !== 1 || size > stored.length * 1100 + 1024) throw this.wrong('one of its lists is damaged')
    try {
      const unpacked = unzlibSync(stored, { out: new Uint8Array(size) })
      if (unpacked.length === size) return copyOf(unpacked)
    } catch {
      // Told below, in words.
    }
    throw this.wrong('one of its lists is damaged')
  }

  private wrong(what: string): PlainError {
    return new PlainError(what, this.file, 'Export it again.')
  }
}

const copyOf = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer as ArrayBuffer
