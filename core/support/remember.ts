/**
 * Two sums of 32 bits, mixed apart from each other (after MurmurHash3's mixing of words, A. Appleby, public domain).
 */
class ValueSum {
  private a = 0x9747b28c
  private b = 0x1b873593

  number(word: number): void {
    this.a = Math.imul((this.a ^ Math.imul(word, 0xcc9e2d51)) >>> 0, 0x85ebca6b)
    this.a = (this.a << 13) | (this.a >>> 19)
    this.b = Math.imul((this.b + Math.imul(word, 0x38b34ae5)) ^ (this.b >>> 15), 0xc2b2ae35)
    this.b = (this.b << 15) | (this.b >>> 17)
  }

  bytes(view: ArrayBufferView): void {
    const bytes = new Uint8Array(view.buffer, view.byteOffset, view.byteLength)
    const whole = bytes.byteLength >>> 2
    this.number(bytes.byteLength)
    if (bytes.byteOffset % 4 === 0)
      for (const word of new Uint32Array(bytes.buffer, bytes.byteOffset, whole)) this.number(word)
    else for (let at = 0; at < whole * 4; at++) this.number(bytes[at])
    for (let at = whole * 4; at < bytes.byteLength; at++) this.number(bytes[at])
  }

  text(value: string): void {
    this.number(value.length)
    for (let at = 0; at < value.length; at++) this.number(value.charCodeAt(at))
  }

  get word(): string {
    return `${(this.a >>> 0).toString(36)}-${(this.b >>> 0).toString(36)}`
  }
}

/** Typed arrays by what they hold, objects by their fields, everything else as JSON writes it. */
function add(sum: ValueSum, value: unknown): void {
  if (ArrayBuffer.isView(value)) {
    sum.text(value.constructor.name)
    sum.bytes(value)
  } else if (Array.isArray(value)) {
    sum.number(value.length)
    for (const each of value) add(sum, each)
  } else if (typeof value === 'object' && value !== null) {
    for (const [key, each] of Object.entries(value)) {
      sum.text(key)
      add(sum, each)
    }
  } else sum.text(`${typeof value} ${String(value)}`)
}

/**
 * The same function, that does not compute again what it was asked last. What is asked is told apart by its value, so
 * that a copy of a mesh is the same mesh; the answer is shared, and must not be changed.
 * @param work a pure function of plain values and typed arrays
 * @param most how many answers are kept, the ones used last
 * @example const openingsOf = rememberByValue(findOpenings, 16)
 */
export function rememberByValue<A extends unknown[], R>(work: (...given: A) => R, most: number): (...given: A) => R {
  const kept = new Map<string, R>()
  return (...given) => {
    const sum = new ValueSum()
    add(sum, given)
    const key = sum.word
    const known = kept.has(key)
    const answer = known ? (kept.get(key) as R) : work(...given)
    kept.delete(key)
    kept.set(key, answer)
    const [oldest] = kept.keys()
    if (kept.size > most) kept.delete(oldest)
    return answer
  }
}
