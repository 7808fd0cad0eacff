/**
 * Reads little-endian numbers one after another and never past its end.
 * `cutOff` makes the error that is thrown there.
 */
export class ByteReader {
  private readonly view: DataView
  offset: number

  constructor(
    readonly bytes: Uint8Array,
    readonly cutOff: () => Error,
    start = 0,
    readonly end = bytes.length,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    this.offset = start
    if (end > bytes.length || start > end) throw cutOff()
  }

  get left(): number {
    return this.end - this.offset
  }

  /** A reader of the next `length` bytes, which this one steps over. */
  slice(length: number): ByteReader {
    const start = this.step(length)
    return new ByteReader(this.bytes, this.cutOff, start, start + length)
  }

  uint8 = (): number => this.view.getUint8(this.step(1))
  uint16 = (): number => this.view.getUint16(this.step(2), true)
  int16 = (): number => this.view.getInt16(this.step(2), true)
  uint32 = (): number => this.view.getUint32(this.step(4), true)
  int32 = (): number => this.view.getInt32(this.step(4), true)
  uint64 = (): number => Number(this.view.getBigUint64(this.step(8), true))
  int64 = (): bigint => this.view.getBigInt64(this.step(8), true)
  float32 = (): number => this.view.getFloat32(this.step(4), true)
  float64 = (): number => this.view.getFloat64(this.step(8), true)

  /** The next bytes, shared with the file. */
  take(length: number): Uint8Array {
    const start = this.step(length)
    return this.bytes.subarray(start, start + length)
  }

  /** Text up to a zero byte, of at most `most` bytes. */
  textToZero(most: number): string {
    const start = this.offset
    while (this.uint8() !== 0) if (this.offset - start > most) throw this.cutOff()
    return decodeText(this.bytes.subarray(start, this.offset - 1))
  }

  private step(length: number): number {
    const at = this.offset
    if (!(length >= 0) || at + length > this.end) throw this.cutOff()
    this.offset = at + length
    return at
  }
}

/**
 * Text as UTF-8, or as Windows-1252 where it is not: what older programs wrote.
 * @example decodeText(Uint8Array.of(0xe9)) // 'é'
 */
export function decodeText(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
