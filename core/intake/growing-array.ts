/** A typed array that grows as numbers are pushed: what a reader fills without knowing the end. */
class GrowingArray<T extends Float32Array | Uint32Array> {
  private array: T
  private used = 0

  constructor(private readonly make: (length: number) => T) {
    this.array = make(1024)
  }

  get length(): number {
    return this.used
  }

  push(value: number): void {
    if (this.used === this.array.length) {
      const larger = this.make(this.array.length * 2)
      larger.set(this.array)
      this.array = larger
    }
    this.array[this.used++] = value
  }

  /** Takes back what was pushed beyond a length. */
  truncate(length: number): void {
    this.used = Math.min(this.used, length)
  }

  at(index: number): number {
    return this.array[index]
  }

  /** A copy with just what was pushed. */
  toArray(): T {
    return this.array.slice(0, this.used) as T
  }

  /** What was pushed, without copying; not to be pushed to afterwards. */
  view(): T {
    return this.array.subarray(0, this.used) as T
  }
}

export type GrowingFloats = GrowingArray<Float32Array>
export type GrowingIndices = GrowingArray<Uint32Array>
/**
 * An array of floats whose length is not known beforehand.
 * @example const places = growingFloats()
 */
export const growingFloats = (): GrowingFloats => new GrowingArray((length) => new Float32Array(length))
/**
 * An array of whole numbers, 0 to 2³² − 1, whose length is not known beforehand.
 * @example const corners = growingIndices()
 */
export const growingIndices = (): GrowingIndices => new GrowingArray((length) => new Uint32Array(length))
