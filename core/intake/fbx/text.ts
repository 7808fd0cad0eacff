import { inMillions, limits } from '../../support/limits.ts'
import { PlainError } from '../../support/plain-error.ts'
import { numberAt } from '../../support/word-scanner.ts'
import type { FbxFile, FbxNode, FbxValue } from './tree.ts'

/**
 * Reads the node tree of a text FBX: `Name: value, value { children }`, lists as `*count { a: 1,2,3 }`.
 * @throws PlainError with the line where the text stops making sense
 *
 * @example const { version, root } = readTextFbx(bytes, 'gate.fbx')
 */
export function readTextFbx(bytes: Uint8Array, file: string): FbxFile {
  return new TextReader(bytes, file).read()
}

class TextReader {
  private offset = 0
  private line = 1
  private nodeCount = 0

  constructor(
    private readonly bytes: Uint8Array,
    private readonly file: string,
  ) {}

  read(): FbxFile {
    const root: FbxNode = { name: '', values: [], children: this.readChildren(0) }
    if (this.offset < this.bytes.length) throw this.wrong('a bracket closes that was not opened')
    const header = root.children.find((node) => node.name === 'FBXHeaderExtension')
    const version = header?.children.find((node) => node.name === 'FBXVersion')?.values[0]
    return { version: typeof version === 'number' ? version : 0, root }
  }

  private readChildren(depth: number): FbxNode[] {
    if (depth > limits.recordDepth) throw this.wrong(`its tree is deeper than ${limits.recordDepth}`)
    const children: FbxNode[] = []
    for (;;) {
      this.skipSpace()
      const byte = this.bytes[this.offset]
      if (byte === undefined || byte === CLOSE) return children
      children.push(this.readNode(depth))
    }
  }

  private readNode(depth: number): FbxNode {
    if (++this.nodeCount > limits.records) throw this.wrong(`it has more than ${inMillions(limits.records)} records`)
    const start = this.offset
    while (
      this.offset < this.bytes.length &&
      this.bytes[this.offset] !== COLON &&
      this.bytes[this.offset] > 32 &&
      this.offset - start < 256
    )
      this.offset++
    const name = this.textBetween(start, this.offset)
    this.skipBlanks()
    if (this.bytes[this.offset] !== COLON || name === '')
      throw this.wrong(`“${name.slice(0, 40)}” is not followed by a colon`)
    this.offset++
    const node: FbxNode = { name, values: [], children: [] }
    this.readValues(node)
    if (this.bytes[this.offset] === OPEN) {
      this.offset++
      node.children = this.readChildren(depth + 1)
      if (this.bytes[this.offset] !== CLOSE) throw this.wrong('it ends before its last bracket closes')
      this.offset++
    }
    return node
  }

  private readValues(node: FbxNode): void {
    for (;;) {
      this.skipBlanks()
      const byte = this.bytes[this.offset]
      if (byte === undefined || byte === OPEN || byte === CLOSE || byte === NEWLINE || byte === SEMICOLON) return
      if (byte === QUOTE) node.values.push(this.readQuoted())
      else if (byte === STAR) {
        node.values.push(this.readList())
        return
      } else node.values.push(this.readWord())
      this.skipBlanks()
      if (this.bytes[this.offset] !== COMMA) return
      this.offset++
      // A list of values may go on in the next line.
      this.skipSpace()
    }
  }

  private readQuoted(): string {
    const start = ++this.offset
    while (this.offset < this.bytes.length && this.bytes[this.offset] !== QUOTE) {
      if (this.bytes[this.offset] === NEWLINE) this.line++
      this.offset++
    }
    if (this.offset >= this.bytes.length) throw this.wrong('a quoted text does not end')
    const text = this.textBetween(start, this.offset++)
    return text.replaceAll('&quot;', '"')
  }

  private readWord(): FbxValue {
    const start = this.offset
    while (this.offset < this.bytes.length && !ENDS_WORD.has(this.bytes[this.offset])) this.offset++
    const word = this.textBetween(start, this.offset)
    if (/^-?\d{16,}$/.test(word)) return BigInt(word)
    const value = Number(word)
    return word !== '' && Number.isFinite(value) ? value : word
  }

  /** `*count { a: 1,2,3 }`. */
  private readList(): Float64Array {
    this.offset++
    const count = Number(this.readWord())
    if (!(count >= 0 && count <= limits.listNumbers) || count > this.bytes.length)
      throw this.wrong('a list has an impossible length')
    this.skipSpace()
    if (this.bytes[this.offset] !== OPEN) return new Float64Array(0)
    const close = this.bytes.indexOf(CLOSE, ++this.offset)
    if (close < 0) throw this.wrong('a list does not end')
    const colon = this.bytes.subarray(this.offset, close).indexOf(COLON)
    if (colon >= 0) this.offset += colon + 1
    const list = new Float64Array(count)
    let read = 0
    while (this.offset < close) {
      if (this.bytes[this.offset] === NEWLINE) this.line++
      if (this.bytes[this.offset] <= 32 || this.bytes[this.offset] === COMMA) {
        this.offset++
        continue
      }
      const start = this.offset
      while (this.offset < close && this.bytes[this.offset] > 32 && this.bytes[this.offset] !== COMMA) this.offset++
      if (read < count) list[read] = numberAt(this.bytes, start, this.offset)
      read++
    }
    this.offset = close + 1
    if (read !== count) throw this.wrong(`a list promises ${count} numbers and has ${read}`)
    return list
  }

  private skipBlanks(): void {
    while (this.bytes[this.offset] === 32 || this.bytes[this.offset] === 9 || this.bytes[this.offset] === 13)
      this.offset++
  }

  /** Blanks, line ends and comments. */
  private skipSpace(): void {
    for (;;) {
      const byte = this.bytes[this.offset]
      if (byte === NEWLINE) this.line++
      if (byte === SEMICOLON)
        while (this.offset < this.bytes.length && this.bytes[this.offset] !== NEWLINE) this.offset++
      else if (byte !== undefined && byte <= 32) this.offset++
      else return
    }
  }

  private textBetween(start: number, end: number): string {
    return new TextDecoder('utf-8').decode(this.bytes.subarray(start, end))
  }

  private wrong(what: string): PlainError {
    return new PlainError(`${what} (line ${this.line})`, this.file, 'Export it again.')
  }
}

const [NEWLINE, QUOTE, STAR, COMMA, COLON, SEMICOLON, OPEN, CLOSE] = [10, 34, 42, 44, 58, 59, 123, 125]
const ENDS_WORD = new Set([9, 10, 13, 32, COMMA, OPEN, CLOSE, SEMICOLON])
