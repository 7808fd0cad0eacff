import { limits } from '../support/limits.ts'
import { identityMatrix } from '../maths/axes.ts'
import { PlainError } from '../support/plain-error.ts'
import { growingFloats, type GrowingFloats } from './growing-array.ts'
import type { MeshReader } from './reader.ts'
import { buildDocument } from './scene/build-document.ts'
import { sourceNode, type SourceNode } from './scene/source-scene.ts'
import { fileName, fileStem, sourceText, type SourceFile } from './source-file.ts'

const HEADER_BYTES = 84
const FACET_BYTES = 50

/**
 * Reads STL, binary and ASCII (the format of the 1989 StereoLithography Interface Specification).
 * It declares neither unit nor axes; millimetres and +Z up are customary. Every `solid` becomes a part.
 *
 * @example const { document } = await readStl(main, files, {})
 */
export const readStl: MeshReader = async (main, files, options) => {
  const name = fileStem(main.path)
  const roots = isBinary(main.bytes) ? [binaryPart(main, name)] : textParts(main, name)
  return buildDocument(
    {
      name,
      roots,
      materials: [],
      clips: [],
      units: { metresPerUnit: 0.001, from: 'customary' },
      axes: { up: '+z', forward: '-y', from: 'customary' },
    },
    main,
    files,
    options,
    new Set([main.path]),
  )
}

/** Some binary files begin with “solid” too: the length that the facet count asks for settles it. */
function isBinary(bytes: Uint8Array): boolean {
  if (bytes.length >= HEADER_BYTES && bytes.length === HEADER_BYTES + facetCount(bytes) * FACET_BYTES) return true
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 512))
  return !/^\s*solid\b/i.test(start) || bytes.subarray(0, 512).some((byte) => byte === 0)
}

const facetCount = (bytes: Uint8Array): number => new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)

function binaryPart(main: SourceFile, name: string): SourceNode {
  const where = fileName(main.path)
  if (main.bytes.length < HEADER_BYTES)
    throw new PlainError('it is too short to be an STL', where, 'Export the model again.')
  const count = facetCount(main.bytes)
  const needed = HEADER_BYTES + count * FACET_BYTES
  if (main.bytes.length < needed)
    throw new PlainError(
      `it is cut off or no STL: ${count} triangles need ${needed} bytes, ${main.bytes.length} are there`,
      where,
      'Export the model again.',
    )
  if (count > limits.triangles)
    throw new PlainError(`it has ${count} triangles; 8 million are read`, where, 'Lower its density where it was made.')
  const view = new DataView(main.bytes.buffer, main.bytes.byteOffset)
  const points = new Float32Array(count * 9)
  for (let facet = 0; facet < count; facet++) {
    const offset = HEADER_BYTES + facet * FACET_BYTES
    for (let index = 0; index < 9; index++) points[facet * 9 + index] = view.getFloat32(offset + 12 + index * 4, true)
  }
  return partOf(name, points)
}

/** Facets as words; a number that is none, or a solid that does not end, names its line. */
function textParts(main: SourceFile, name: string): SourceNode[] {
  const parts: SourceNode[] = []
  let points = growingFloats()
  let title: string | null = null
  const finish = (): void => {
    if (points.length > 0) parts.push(partOf(title || name, points.toArray()))
    points = growingFloats()
    title = null
  }
  let lineNumber = 0
  for (const line of linesOf(sourceText(main))) {
    lineNumber++
    const words = line.trim().split(/\s+/)
    const keyword = words[0].toLowerCase()
    if (keyword === 'solid') title = words.slice(1).join(' ')
    else if (keyword === 'endsolid') finish()
    else if (keyword === 'vertex') pushVertex(words, points, `line ${lineNumber}`, main)
    else if (keyword === 'endfacet' && points.length % 9 !== 0)
      throw new PlainError(
        `the facet that ends on line ${lineNumber} has no 3 corners`,
        fileName(main.path),
        'Export the model again.',
      )
  }
  if (points.length > 0)
    throw new PlainError(
      `it is cut off at line ${lineNumber}, before its “endsolid”`,
      fileName(main.path),
      'Copy it again.',
    )
  return parts
}

function pushVertex(words: string[], points: GrowingFloats, place: string, main: SourceFile): void {
  for (let axis = 0; axis < 3; axis++) {
    const value = Number(words[axis + 1])
    if (words[axis + 1] === undefined || !Number.isFinite(value))
      throw new PlainError(`${place} needs 3 numbers`, fileName(main.path), 'Export the model again.')
    points.push(value)
  }
  if (points.length > limits.triangles * 9)
    throw new PlainError(
      'it has more than 8 million triangles',
      fileName(main.path),
      'Lower its density where it was made.',
    )
}

function* linesOf(text: string): Generator<string> {
  for (let start = 0; start < text.length;) {
    const end = text.indexOf('\n', start)
    yield text.slice(start, end < 0 ? text.length : end)
    if (end < 0) return
    start = end + 1
  }
}

/** Facet normals are left out: they say what the corners say, and many programs write zeros. */
function partOf(name: string, points: Float32Array): SourceNode {
  const cornerCount = points.length / 3
  const node = sourceNode(name, identityMatrix())
  node.mesh = {
    name,
    points,
    faces: [
      {
        material: null,
        polygonSizes: new Uint8Array(cornerCount / 3).fill(3),
        corners: Uint32Array.from({ length: cornerCount }, (_, index) => index),
        normals: null,
        uvs: [],
        colours: null,
        smoothing: null,
      },
    ],
  }
  return node
}
