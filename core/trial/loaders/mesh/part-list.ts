import type { LoadedNode, MeshLoader } from './loaded-mesh.ts'

const MOST_BLOCKS = 2_000_000
const still = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/**
 * A list of half-blocks, each set where it says: a triangle of three corners of its own, the one at the right angle
 * first. A tray is an object of its own; how short its shortest side is, is kept with it.
 *
 * @example const { nodes } = loadPartList({ ...files, rulebook })
 */
export const loadPartList: MeshLoader = ({ bytes, beside, rulebook }) => {
  const words = rulebook.halfBlocks?.words
  if (!words) throw new Error('the game has no half-blocks')
  const list: unknown = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  const root = node(textOf(field(beside, 'item'), 'item'), null)
  const nodes = [root]
  let count = 0
  for (const tray of arrayOf(field(list, words.trays), words.trays)) {
    const made = node(textOf(field(tray, words.tray), words.tray), root)
    const finish = field(tray, words.finish)
    const blocks = arrayOf(field(tray, words.blocks), words.blocks)
    if (blocks.length === 0) throw new Error(`the tray ${made.name} is empty`)
    count += blocks.length
    if (count > MOST_BLOCKS) throw new Error('more half-blocks than any board holds')
    const positions = new Float32Array(blocks.length * 9)
    const normals = new Float32Array(blocks.length * 9)
    let shortestSide = Infinity
    blocks.forEach((block, number) => {
      const at = numbersOf(field(block, words.at), 3, words.at)
      const turn = numbersOf(field(block, words.turn), 4, words.turn)
      const size = numbersOf(field(block, words.size), 2, words.size)
      if (Math.abs(Math.hypot(...turn) - 1) > 1e-3) throw new Error(`a ${words.turn} that is none`)
      if (size.some((side) => side <= 0)) throw new Error(`a ${words.size} that is none`)
      shortestSide = Math.min(shortestSide, ...size)
      const sides = [turnedBy(turn, [size[0], 0, 0]), turnedBy(turn, [0, size[1], 0])]
      const front = turnedBy(turn, [0, 0, 1])
      for (let axis = 0; axis < 3; axis++) {
        positions[number * 9 + axis] = at[axis]
        positions[number * 9 + 3 + axis] = at[axis] + sides[0][axis]
        positions[number * 9 + 6 + axis] = at[axis] + sides[1][axis]
        for (let corner = 0; corner < 3; corner++) normals[number * 9 + corner * 3 + axis] = front[axis]
      }
    })
    made.extras['shortestSide'] = shortestSide
    made.primitives.push({
      positions,
      places: nodes.length,
      indices: Uint32Array.from({ length: blocks.length * 3 }, (_, corner) => corner),
      normals,
      tangents: null,
      uvs: null,
      influences: [],
      morphs: 0,
      material: finish === undefined || finish === null ? null : textOf(finish, words.finish),
    })
    nodes.push(made)
  }
  return { nodes, images: 0, clips: [] }
}

const node = (name: string, parent: LoadedNode | null): LoadedNode => ({
  name,
  world: [...still],
  translation: [0, 0, 0],
  turned: false,
  primitives: [],
  parent,
  extras: {},
  extensions: [],
  bones: [],
  skeleton: [],
  light: null,
  moves: false,
})

/** Rotates a vector by a unit quaternion: v + 2q × (q × v + wv). */
function turnedBy([x, y, z, w]: readonly number[], [a, b, c]: readonly number[]): number[] {
  const [p, q, r] = [y * c - z * b + w * a, z * a - x * c + w * b, x * b - y * a + w * c]
  return [a + 2 * (y * r - z * q), b + 2 * (z * p - x * r), c + 2 * (x * q - y * p)]
}

const field = (value: unknown, word: string): unknown =>
  typeof value === 'object' && value !== null && Object.hasOwn(value, word)
    ? (value as Record<string, unknown>)[word]
    : undefined

function arrayOf(value: unknown, word: string): unknown[] {
  if (!Array.isArray(value)) throw new Error(`no list of ${word}`)
  return value
}

function textOf(value: unknown, word: string): string {
  if (typeof value !== 'string') throw new Error(`a ${word} that is no text`)
  return value
}

function numbersOf(value: unknown, count: number, word: string): number[] {
  const numbers: unknown[] = Array.isArray(value) ? value : []
  if (numbers.length !== count || !numbers.every((each) => typeof each === 'number' && Number.isFinite(each)))
    throw new Error(`a ${word} that is not ${count} numbers`)
  return numbers as number[]
}
