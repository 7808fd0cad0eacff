/**
 * Walks over the words of a text file's bytes without making strings of them: numbers of large files are read several
 * times faster so. A line that ends in a backslash goes on in the next.
 */
export class WordScanner {
  private offset = 0
  private lineStart = 0
  lineNumber = 1
  /** Bounds of the present word. */
  start = 0
  end = 0

  constructor(readonly bytes: Uint8Array) {}

  get atEnd(): boolean {
    return this.offset >= this.bytes.length
  }

  /** Share of the file that was walked over. */
  get fraction(): number {
    return this.bytes.length === 0 ? 1 : this.offset / this.bytes.length
  }

  /** Steps to the next word of the line; false where the line ends. */
  next(): boolean {
    const { bytes } = this
    for (;;) {
      const byte = bytes[this.offset]
      if (byte === 32 || byte === 9 || byte === 13) this.offset++
      else if (byte === BACKSLASH && this.skipContinuation()) continue
      else break
    }
    if (this.offset >= bytes.length || bytes[this.offset] === NEWLINE) return false
    this.start = this.offset
    while (
      this.offset < bytes.length &&
      bytes[this.offset] > 32 &&
      !(bytes[this.offset] === BACKSLASH && this.continues())
    )
      this.offset++
    this.end = this.offset
    return true
  }

  /** Steps over what is left of the line. */
  skipLine(): void {
    while (this.offset < this.bytes.length && this.bytes[this.offset] !== NEWLINE) {
      if (this.bytes[this.offset] === BACKSLASH && this.skipContinuation()) continue
      this.offset++
    }
    if (this.offset < this.bytes.length) {
      this.offset++
      this.lineNumber++
    }
    this.lineStart = this.offset
  }

  /** The rest of the line as text, spaces at its ends cut off. */
  rest(): string {
    const from = this.offset
    let to = from
    while (to < this.bytes.length && this.bytes[to] !== NEWLINE) to++
    return this.text(from, to).trim()
  }

  /** The present word as text. */
  word(): string {
    return this.text(this.start, this.end)
  }

  /** The present line, for a message. */
  line(): string {
    let to = this.lineStart
    while (to < this.bytes.length && this.bytes[to] !== NEWLINE && to - this.lineStart < 60) to++
    return this.text(this.lineStart, to).trim()
  }

  /** The present word as a number; NaN when it is none. */
  number(): number {
    return numberAt(this.bytes, this.start, this.end)
  }

  text(from: number, to: number): string {
    return new TextDecoder('utf-8').decode(this.bytes.subarray(from, to))
  }

  private continues(): boolean {
    const after = this.bytes[this.offset + 1]
    return after === NEWLINE || (after === 13 && this.bytes[this.offset + 2] === NEWLINE)
  }

  private skipContinuation(): boolean {
    if (!this.continues()) return false
    this.offset += this.bytes[this.offset + 1] === NEWLINE ? 2 : 3
    this.lineNumber++
    return true
  }
}

const NEWLINE = 10
const BACKSLASH = 92
const MOST_EXACT_DIGITS = 15
const powersOfTen = Float64Array.from({ length: 23 }, (_, power) => Number(`1e${power}`))

/**
 * A number between two offsets. Short plain ones are exact by one division (Clinger 1990, the fast path); others go the
 * slow way.
 *
 * @example numberAt(new TextEncoder().encode('v 1.25'), 2, 6) // 1.25
 */
export function numberAt(bytes: Uint8Array, start: number, end: number): number {
  let at = start
  const negative = bytes[at] === 45
  if (negative || bytes[at] === 43) at++
  let digits = 0
  let value = 0
  let decimals = 0
  let seenPoint = false
  for (; at < end; at++) {
    const byte = bytes[at]
    if (byte >= 48 && byte <= 57) {
      value = value * 10 + (byte - 48)
      digits++
      if (seenPoint) decimals++
    } else if (byte === 46 && !seenPoint) seenPoint = true
    else break
  }
  if (at < end || digits === 0 || digits > MOST_EXACT_DIGITS) return slowNumber(bytes, start, end)
  const exact = decimals === 0 ? value : value / powersOfTen[decimals]
  return negative ? -exact : exact
}

function slowNumber(bytes: Uint8Array, start: number, end: number): number {
  if (end === start) return NaN
  return Number(new TextDecoder('latin1').decode(bytes.subarray(start, Math.min(end, start + 400))))
}
