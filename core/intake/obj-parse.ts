import { PlainError } from '../document/plain-error.ts'
import { fileName, sourceText, type SourceFile } from './source-file.ts'

/** Faces of one object with one material. Corners are unshared: one for each corner of each polygon. */
export interface ObjGroup {
  material: string | null
  /** 3 floats a corner. */
  positions: number[]
  /** 2 floats a corner, or empty where no corner has one. */
  uvs: number[]
  normals: number[]
  /** Number of corners of each polygon. */
  polygonSizes: number[]
}

export interface ObjObject {
  name: string
  groups: Map<string, ObjGroup>
}

export interface ObjFile {
  objects: ObjObject[]
  libraries: string[]
}

const MOST_CORNERS = 24_000_000
const MOST_POLYGON_CORNERS = 4096

/**
 * Reads Wavefront OBJ text: objects, groups, polygons, UVs, normals, material names.
 * Relative (negative) indices and continued lines are read; curves, lines and points are passed over.
 * @throws PlainError with the line, for numbers that are not numbers and indices out of range
 */
export function parseObj(file: SourceFile): ObjFile {
  return new ObjReader(file).read()
}

class ObjReader {
  private readonly name: string
  private readonly points: number[] = []
  private readonly uvs: number[] = []
  private readonly normals: number[] = []
  private readonly objects: ObjObject[] = []
  private readonly libraries: string[] = []
  private current: ObjObject | null = null
  private material: string | null = null
  private lineNumber = 0
  private cornerCount = 0

  constructor(private readonly file: SourceFile) {
    this.name = fileName(file.path)
  }

  read(): ObjFile {
    const text = sourceText(this.file)
    let start = 0
    let carried = ''
    while (start < text.length) {
      let end = text.indexOf('\n', start)
      if (end < 0) end = text.length
      this.lineNumber++
      const line = carried + text.slice(start, end).trim()
      start = end + 1
      if (line.endsWith('\\')) {
        carried = `${line.slice(0, -1)} `
        continue
      }
      carried = ''
      if (line !== '' && line[0] !== '#') this.readLine(line)
    }
    const objects = this.objects.filter((object) => object.groups.size > 0)
    if (objects.length === 0) throw this.wrong('it has no faces', 'Export the model as a mesh, not as curves or points.')
    return { objects, libraries: this.libraries }
  }

  private readLine(line: string): void {
    const words = line.split(/\s+/)
    switch (words[0]) {
      case 'v':
        this.readNumbers(words, 3, this.points, line)
        break
      case 'vt':
        this.readNumbers(words.length < 3 ? [...words, '0'] : words, 2, this.uvs, line)
        break
      case 'vn':
        this.readNumbers(words, 3, this.normals, line)
        break
      case 'f':
        this.readFace(words, line)
        break
      case 'o':
      case 'g':
        this.startObject(line.slice(1).trim() || 'object')
        break
      case 'usemtl':
        this.material = line.slice(6).trim() || null
        break
      case 'mtllib':
        this.libraries.push(line.slice(6).trim())
        break
    }
  }

  private readNumbers(words: string[], count: number, target: number[], line: string): void {
    for (let index = 1; index <= count; index++) {
      const value = Number(words[index])
      if (words[index] === undefined || !Number.isFinite(value)) {
        throw this.wrong(`line ${this.lineNumber}, “${line.slice(0, 60)}”, needs ${count} numbers`, 'Export the model again.')
      }
      target.push(value)
    }
  }

  private startObject(name: string): void {
    // An object line directly followed by a group line names the same thing twice.
    if (this.current && this.current.groups.size === 0) this.current.name = name
    else {
      this.current = { name, groups: new Map() }
      this.objects.push(this.current)
    }
  }

  private groupForFace(): ObjGroup {
    if (!this.current) this.startObject(this.name.replace(/\.[^.]*$/, ''))
    const object = this.current as ObjObject
    const key = this.material ?? ''
    let group = object.groups.get(key)
    if (!group) {
      group = { material: this.material, positions: [], uvs: [], normals: [], polygonSizes: [] }
      object.groups.set(key, group)
    }
    return group
  }

  private readFace(words: string[], line: string): void {
    const corners = words.length - 1
    if (corners < 3) throw this.wrong(`line ${this.lineNumber}, “${line.slice(0, 60)}”, is a face of fewer than 3 corners`, 'Export the model again.')
    if (corners > MOST_POLYGON_CORNERS) throw this.wrong(`line ${this.lineNumber} is a face of ${corners} corners; ${MOST_POLYGON_CORNERS} are read`, 'Split the face.')
    this.cornerCount += corners
    if (this.cornerCount > MOST_CORNERS) throw this.wrong('it has more than 24 million face corners', 'Lower its density where it was made.')
    const group = this.groupForFace()
    const before = group.positions.length / 3
    for (let index = 1; index <= corners; index++) {
      const [point, uv, normal] = words[index].split('/')
      this.copy(point, this.points, 3, group.positions, 'point', line)
      if (uv) {
        while (group.uvs.length / 2 < before + index - 1) group.uvs.push(0)
        this.copy(uv, this.uvs, 2, group.uvs, 'texture point', line)
      } else if (group.uvs.length > 0) group.uvs.push(0, 0)
      if (normal) {
        while (group.normals.length / 3 < before + index - 1) group.normals.push(0)
        this.copy(normal, this.normals, 3, group.normals, 'normal', line)
      } else if (group.normals.length > 0) group.normals.push(0, 0, 0)
    }
    group.polygonSizes.push(corners)
  }

  private copy(word: string, from: number[], size: number, to: number[], what: string, line: string): void {
    const written = Number(word)
    const count = from.length / size
    const index = written < 0 ? count + written : written - 1
    if (!Number.isInteger(written) || index < 0 || index >= count) {
      throw this.wrong(`line ${this.lineNumber}, “${line.slice(0, 60)}”, asks for ${what} ${word}; there are ${count} so far`, 'Export the model again.')
    }
    for (let axis = 0; axis < size; axis++) to.push(from[index * size + axis])
  }

  private wrong(what: string, mend: string): PlainError {
    return new PlainError(what, this.name, mend)
  }
}
