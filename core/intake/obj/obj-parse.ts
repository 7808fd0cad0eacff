import { inMillions, limits } from '../../support/limits.ts'
import { PlainError } from '../../support/plain-error.ts'
import { growingFloats, growingIndices, type GrowingFloats, type GrowingIndices } from '../growing-array.ts'
import { fileName, fileStem, utf8Bytes, type SourceFile } from '../source-file.ts'
import { numberAt, WordScanner } from '../../support/word-scanner.ts'

/** Faces of one object with one material, in polygon order. */
export interface ObjGroup {
  material: string | null
  polygonSizes: GrowingIndices
  /** Point of each corner. */
  corners: GrowingIndices
  /** 2 numbers a corner as written, or empty where no corner has any. */
  uvs: GrowingFloats
  /** 3 numbers a corner, or empty. */
  normals: GrowingFloats
  /** Bit of the smoothing group of each polygon; 0 is flat. */
  smoothing: GrowingIndices
}

export interface ObjObject {
  name: string
  groups: Map<string, ObjGroup>
}

export interface ObjFile {
  objects: ObjObject[]
  libraries: string[]
  /** 3 numbers a point. */
  points: Float32Array
  /** sRGB, 3 numbers a point; null unless every point has one. */
  pointColours: Float32Array | null
  /** Whether the file says anything of smoothing. */
  hasSmoothing: boolean
}

/** How many numbers one of each has, and what it is called. */
const asked: Record<keyof Given, { size: number; word: string }> = {
  points: { size: 3, word: 'point' },
  uvs: { size: 2, word: 'texture point' },
  normals: { size: 3, word: 'normal' },
}

const LINES_A_REPORT = 50_000

/**
 * Reads Wavefront OBJ text (the format's appendix B1): objects, groups, polygons, UVs, normals, point colours,
 * smoothing groups, material names. Relative indices, continued lines and faces that ask for points further down are
 * read; curves, lines and points are passed over.
 * @throws PlainError with the line, for numbers that are not numbers and indices out of range
 *
 * @example const { objects, libraries } = parseObj(file)
 */
export function parseObj(file: SourceFile, onProgress?: (fraction: number) => void): ObjFile {
  const reader = new ObjReader(file, onProgress)
  const read = reader.read()
  return reader.asksAhead ? new ObjReader(file, onProgress, reader.given).read() : read
}

/** All that faces may ask for by number. */
interface Given {
  points: GrowingFloats
  uvs: GrowingFloats
  normals: GrowingFloats
}

class ObjReader {
  private readonly name: string
  private readonly scanner: WordScanner
  /** What was given up to this line. */
  readonly given: Given = { points: growingFloats(), uvs: growingFloats(), normals: growingFloats() }
  /** Whether a face asks for what comes further down: the file has to be read once more, knowing all. */
  asksAhead = false
  private readonly pointColours = growingFloats()
  private readonly objects: ObjObject[] = []
  private readonly libraries: string[] = []
  private current: ObjObject | null = null
  private group: ObjGroup | null = null
  private material: string | null = null
  private smoothingBit = 0
  private hasSmoothing = false
  private cornerCount = 0

  constructor(
    private readonly file: SourceFile,
    private readonly onProgress?: (fraction: number) => void,
    /** What the whole file gives, where it was read before. */
    private readonly all: Given | null = null,
  ) {
    this.name = fileName(file.path)
    this.scanner = new WordScanner(utf8Bytes(file))
  }

  read(): ObjFile {
    for (let lines = 1; !this.scanner.atEnd; lines++) {
      if (this.scanner.next()) this.readLine(this.scanner.word())
      this.scanner.skipLine()
      if (lines % LINES_A_REPORT === 0) this.onProgress?.(this.scanner.fraction)
    }
    for (const { groups } of this.objects)
      for (const [key, group] of groups) if (group.corners.length === 0) groups.delete(key)
    const objects = this.objects.filter((object) => object.groups.size > 0)
    if (objects.length === 0)
      throw this.wrong('it has no faces', 'Export the model as a mesh, not as curves or points.')
    return {
      objects,
      libraries: this.libraries,
      points: this.given.points.view(),
      pointColours: this.pointColours.length === this.given.points.length ? this.pointColours.view() : null,
      hasSmoothing: this.hasSmoothing,
    }
  }

  private readLine(keyword: string): void {
    switch (keyword) {
      case 'v':
        return this.readPoint()
      case 'vt':
        return this.readTexturePoint()
      case 'vn':
        for (let axis = 0; axis < 3; axis++) this.given.normals.push(this.wantedNumber(3))
        return
      case 'f':
        return this.readFace()
      case 'o':
      case 'g':
        return this.startObject(this.scanner.rest() || 'object')
      case 's':
        return this.readSmoothing()
      case 'usemtl':
        this.material = this.scanner.rest() || null
        this.group = null
        return
      case 'mtllib':
        this.libraries.push(this.scanner.rest())
    }
  }

  private readPoint(): void {
    for (let axis = 0; axis < 3; axis++) this.given.points.push(this.wantedNumber(3))
    const extra: number[] = []
    while (extra.length < 4 && this.scanner.next()) extra.push(this.scanner.number())
    // Three more numbers are a colour; a single one is a weight, which meshes do not need.
    if (extra.length >= 3)
      for (let channel = 0; channel < 3; channel++)
        this.pointColours.push(Number.isFinite(extra[channel]) ? extra[channel] : 1)
  }

  private readTexturePoint(): void {
    this.given.uvs.push(this.wantedNumber(1))
    const second = this.scanner.next() ? this.scanner.number() : 0
    if (!Number.isFinite(second)) throw this.badNumbers(2)
    this.given.uvs.push(second)
  }

  private readSmoothing(): void {
    this.hasSmoothing = true
    const group = this.scanner.next() ? this.scanner.number() : 0
    // Groups above 31 share bits with lower ones: two of them at one point is rare, and smooth is the milder fault.
    this.smoothingBit = Number.isInteger(group) && group > 0 ? 1 << ((group - 1) % 31) : 0
  }

  private wantedNumber(count: number): number {
    const value = this.scanner.next() ? this.scanner.number() : NaN
    if (!Number.isFinite(value)) throw this.badNumbers(count)
    return value
  }

  private badNumbers(count: number): PlainError {
    return this.wrong(
      `line ${this.scanner.lineNumber}, “${this.scanner.line()}”, needs ${count} ${count === 1 ? 'number' : 'numbers'}`,
      'Export the model again.',
    )
  }

  private startObject(name: string): void {
    this.group = null
    // An object line directly followed by a group line names the same thing twice.
    if (this.current && this.current.groups.size === 0) this.current.name = name
    else {
      this.current = { name, groups: new Map() }
      this.objects.push(this.current)
    }
  }

  private groupForFace(): ObjGroup {
    if (this.group) return this.group
    if (!this.current) this.startObject(fileStem(this.file.path))
    const object = this.current as ObjObject
    const key = this.material ?? ''
    let group = object.groups.get(key)
    if (!group) {
      group = {
        material: this.material,
        polygonSizes: growingIndices(),
        corners: growingIndices(),
        uvs: growingFloats(),
        normals: growingFloats(),
        smoothing: growingIndices(),
      }
      object.groups.set(key, group)
    }
    this.group = group
    return group
  }

  private readFace(): void {
    const group = this.groupForFace()
    const before = group.corners.length
    let corners = 0
    for (; this.scanner.next(); corners++) {
      if (corners >= limits.polygonCorners)
        throw this.wrong(
          `line ${this.scanner.lineNumber} is a face of more than ${limits.polygonCorners} corners`,
          'Split the face.',
        )
      this.readCorner(group, before + corners)
    }
    if (corners === 0)
      throw this.wrong(
        `line ${this.scanner.lineNumber}, “${this.scanner.line()}”, is a face without corners`,
        'Export the model again.',
      )
    if (corners < 3) {
      // Some programs write loose edges as faces; there is nothing to draw of them.
      group.corners.truncate(before)
      group.uvs.truncate(before * 2)
      group.normals.truncate(before * 3)
      return
    }
    this.cornerCount += corners
    if (this.cornerCount > limits.corners)
      throw this.wrong(
        `it has more than ${inMillions(limits.corners)} face corners`,
        'Lower its density where it was made.',
      )
    group.polygonSizes.push(corners)
    group.smoothing.push(this.smoothingBit)
  }

  /** A corner: point, point/uv, point//normal or point/uv/normal. What some corners lack is made up with zeros. */
  private readCorner(group: ObjGroup, corner: number): void {
    const { bytes, start, end } = this.scanner
    let first = start
    while (first < end && bytes[first] !== SLASH) first++
    group.corners.push(this.index(start, first, 'points'))
    let second = first + 1
    while (second < end && bytes[second] !== SLASH) second++
    if (second > first + 1 && first < end) {
      while (group.uvs.length < corner * 2) group.uvs.push(0)
      const uv = this.index(first + 1, second, 'uvs')
      for (let axis = 0; axis < 2; axis++) group.uvs.push((this.all ?? this.given).uvs.at(uv * 2 + axis))
    } else if (group.uvs.length > 0) for (let axis = 0; axis < 2; axis++) group.uvs.push(0)
    if (second + 1 < end) {
      while (group.normals.length < corner * 3) group.normals.push(0)
      const normal = this.index(second + 1, end, 'normals')
      for (let axis = 0; axis < 3; axis++) group.normals.push((this.all ?? this.given).normals.at(normal * 3 + axis))
    } else if (group.normals.length > 0) for (let axis = 0; axis < 3; axis++) group.normals.push(0)
  }

  private index(from: number, to: number, what: keyof Given): number {
    const written = numberAt(this.scanner.bytes, from, to)
    const { size, word } = asked[what]
    const soFar = this.given[what].length / size
    const index = written < 0 ? soFar + written : written - 1
    const count = this.all ? this.all[what].length / size : soFar
    if (Number.isInteger(written) && index >= 0 && index < count) return index
    if (Number.isInteger(written) && index >= count && !this.all) {
      this.asksAhead = true
      return 0
    }
    const { scanner } = this
    throw this.wrong(
      `line ${scanner.lineNumber}, “${scanner.line()}”, asks for ${word} ` +
        `${scanner.text(from, Math.min(to, from + 20))}; there are ${count}`,
      'Export the model again.',
    )
  }

  private wrong(what: string, mend: string): PlainError {
    return new PlainError(what, this.name, mend)
  }
}

const SLASH = 47
