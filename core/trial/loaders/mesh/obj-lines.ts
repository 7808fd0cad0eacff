import type { LoadedPrimitive } from './read-primitive.ts'

/**
 * A section of one object while the file is read, from one line that names a material to the next: each place, UV and
 * normal that go together are one corner.
 */
interface Group {
  material: string | null
  corners: Map<string, number>
  places: number[]
  uvs: number[]
  normals: number[]
  indices: number[]
}

const MOST_LINES = 20_000_000

/** The lines of an OBJ as the game reads them: triangles alone, numbers counted from one through the whole file. */
export class ObjLines {
  private readonly places: number[] = []
  private readonly uvs: number[] = []
  private readonly normals: number[] = []
  private readonly objects = new Map<string, Group[]>()
  private object: Group[] | null = null
  private material: string | null = null
  private group: Group | null = null
  private placesNumber = 0

  constructor(private readonly bytes: Uint8Array) {}

  /** @throws Error with a short reason at the first line that is not read */
  read(): Map<string, LoadedPrimitive[]> {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(this.bytes)
    let lines = 0
    for (const line of text.split(/\r?\n/)) {
      if (++lines > MOST_LINES) throw new Error('more lines than are read')
      this.take(line)
    }
    return new Map([...this.objects].map(([name, groups]) => [name, groups.map((group) => this.finished(group))]))
  }

  private take(line: string): void {
    const [word, ...rest] = line.trim().split(/\s+/)
    if (word === 'v') this.places.push(...numbersOf(rest, 3))
    else if (word === 'vt') this.uvs.push(...numbersOf(rest, 2))
    else if (word === 'vn') this.normals.push(...numbersOf(rest, 3))
    else if (word === 'o') this.begin(rest.join(' '))
    else if (word === 'usemtl') {
      this.material = rest.join(' ')
      this.group = null
    } else if (word === 'f') this.face(rest)
    else if (word !== '' && word !== 'mtllib' && !word.startsWith('#'))
      throw new Error(`a line that begins with “${word.slice(0, 20)}”`)
  }

  private begin(name: string): void {
    if (this.objects.has(name)) throw new Error(`two objects called ${name}`)
    this.object = []
    this.objects.set(name, this.object)
    this.material = null
    this.group = null
  }

  private face(corners: readonly string[]): void {
    if (corners.length !== 3) throw new Error('only triangles are drawn')
    if (!this.object) throw new Error('a face of no object')
    this.group ??= this.newGroup(this.object)
    for (const corner of corners) this.group.indices.push(this.corner(this.group, corner))
  }

  private newGroup(object: Group[]): Group {
    const group = { material: this.material, corners: new Map(), places: [], uvs: [], normals: [], indices: [] }
    object.push(group)
    return group
  }

  private corner(group: Group, written: string): number {
    const known = group.corners.get(written)
    if (known !== undefined) return known
    const [place, uv, normal] = written.split('/')
    group.places.push(...elementOf(this.places, place, 3))
    if (uv) group.uvs.push(...elementOf(this.uvs, uv, 2))
    if (normal) group.normals.push(...elementOf(this.normals, normal, 3))
    const number = group.corners.size
    group.corners.set(written, number)
    return number
  }

  private finished({ material, places, uvs, normals, indices }: Group): LoadedPrimitive {
    const count = places.length / 3
    if ((uvs.length > 0 && uvs.length / 2 !== count) || (normals.length > 0 && normals.length / 3 !== count))
      throw new Error('corners with and without UVs or normals')
    return {
      positions: Float32Array.from(places),
      places: this.placesNumber++,
      indices: Uint32Array.from(indices),
      normals: normals.length > 0 ? Float32Array.from(normals) : null,
      tangents: null,
      uvs: uvs.length > 0 ? Float32Array.from(uvs, (value, at) => (at % 2 === 1 ? 1 - value : value)) : null,
      influences: [],
      morphs: 0,
      material,
    }
  }
}

function numbersOf(words: readonly string[], count: number): number[] {
  const numbers = words.slice(0, count).map(Number)
  if (numbers.length < count || !numbers.every(Number.isFinite)) throw new Error('a value that is not a number')
  return numbers
}

function elementOf(values: readonly number[], written: string, size: number): number[] {
  const number = Number(written)
  if (!Number.isInteger(number) || number < 1 || number * size > values.length)
    throw new Error('a corner number out of range')
  return values.slice((number - 1) * size, number * size)
}
