import { createHash } from 'node:crypto'
import { zipSync } from 'fflate'

/** A pack of Pegboard Parish as texts, so that what spoils it is seen. */
export interface ParishPack {
  texts: Map<string, string>
  /** Files that the list of contents leaves out. */
  unlisted: Set<string>
}

export const PIECE = 'kerbs/bench/piece.json'
export const PARTS = 'kerbs/bench/parts.json'
export const DYE = 'kerbs/bench/dye-plain.json'
export const PARISH = 'parish.json'

/** A half-block as the game's list has it. */
export interface Half {
  corner: number[]
  turn: number[]
  legs: number[]
}

const HALF_TURN = Math.SQRT1_2

/** Turns by which a half-block looks along each axis, with its first leg and its second along two others. */
const looks: { turn: number[]; first: number[]; second: number[] }[] = [
  { turn: [0, 0, 0, 1], first: [1, 0, 0], second: [0, 1, 0] },
  { turn: [0, 1, 0, 0], first: [-1, 0, 0], second: [0, 1, 0] },
  { turn: [0, HALF_TURN, 0, HALF_TURN], first: [0, 0, -1], second: [0, 1, 0] },
  { turn: [0, -HALF_TURN, 0, HALF_TURN], first: [0, 0, 1], second: [0, 1, 0] },
  { turn: [-HALF_TURN, 0, 0, HALF_TURN], first: [1, 0, 0], second: [0, 0, -1] },
  { turn: [HALF_TURN, 0, 0, HALF_TURN], first: [1, 0, 0], second: [0, 0, 1] },
]

/** The twelve half-blocks of a box, looking outward: two for each side, one at each of two corners across. */
export function parishBox(min: readonly number[], max: readonly number[]): Half[] {
  return looks.flatMap(({ turn, first, second }) => {
    const reach = (way: readonly number[]): number =>
      way.reduce((sum, step, axis) => sum + Math.abs(step) * (max[axis] - min[axis]), 0)
    const begin = (way: readonly number[], axis: number): number => (way[axis] < 0 ? max[axis] : min[axis])
    const front = [
      first[1] * second[2] - first[2] * second[1],
      first[2] * second[0] - first[0] * second[2],
      first[0] * second[1] - first[1] * second[0],
    ]
    const corner = [0, 1, 2].map((axis) =>
      first[axis] !== 0
        ? begin(first, axis)
        : second[axis] !== 0
          ? begin(second, axis)
          : front[axis] > 0
            ? max[axis]
            : min[axis],
    )
    const across = corner.map((value, axis) => value + first[axis] * reach(first) + second[axis] * reach(second))
    // Turned by half a turn about where it looks: both legs run back.
    const [x, y, z] = front
    const [a, b, c, d] = turn
    const back = [
      d * 0 + x * d + (y * c - z * b),
      y * d + (z * a - x * c),
      z * d + (x * b - y * a),
      -(x * a + y * b + z * c),
    ]
    return [
      { corner, turn, legs: [reach(first), reach(second)] },
      { corner: across, turn: back, legs: [reach(first), reach(second)] },
    ]
  })
}

const json = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`

/** The pack as it is taken without a word: a bench of two trays. */
export const parishPack = (): ParishPack => ({
  texts: new Map([
    [PIECE, json({ item: 'bench', kind: 'kerbpiece', category: 'kerbs', mesh: PARTS, looks: [DYE] })],
    [
      PARTS,
      json({
        trays: [
          { tray: 'seat', dye: 'plank', halves: parishBox([-60, 40, -20], [60, 45, 20]) },
          {
            tray: 'legs',
            dye: 'frame',
            halves: [...parishBox([-55, 0, -18], [-50, 40, 18]), ...parishBox([50, 0, -18], [55, 40, 18])],
          },
        ],
      }),
    ],
    [
      DYE,
      json({
        look: 'plain',
        materials: {
          plank: { shading: 'dyed', surface: 'beechwood', flags: [], tint: '#a87844', maps: {} },
          frame: { shading: 'dyed', surface: 'tinplate', flags: [], tint: '#303438', maps: {} },
        },
      }),
    ],
  ]),
  unlisted: new Set(),
})

/** The archive with its list of contents. */
export function assembleParish(pack: ParishPack, list: (contents: Record<string, unknown>) => void = () => undefined) {
  const files: Record<string, Uint8Array> = {}
  for (const [path, text] of pack.texts) files[path] = new TextEncoder().encode(text)
  const contents: Record<string, unknown> = {
    game: 'pegboard-parish',
    version: '1.5',
    title: 'Bench',
    items: [{ name: 'bench', kind: 'kerbpiece' }],
    files: Object.entries(files)
      .filter(([path]) => !pack.unlisted.has(path))
      .map(([path, bytes]) => ({
        path,
        bytes: bytes.length,
        sha256: createHash('sha256').update(bytes).digest('hex'),
      })),
  }
  list(contents)
  return zipSync({ [PARISH]: new TextEncoder().encode(json(contents)), ...files })
}
