import { DYE, PARTS, PIECE, parishBox, type Half, type ParishPack } from './parish-pack.ts'

/** One thing that is wrong with a pack, and what the game says of it. */
export interface ParishSpoiler {
  what: string
  says: 'refuses' | 'complains' | 'takes'
  spoil?: (pack: ParishPack) => void
  /** What is wrong with the list of contents. */
  list?: (contents: Record<string, unknown>) => void
}

export type Loose = Record<string, unknown>
export interface Tray {
  tray: unknown
  dye?: unknown
  halves: Half[]
}

export const inFile =
  <T = Loose>(path: string, change: (value: T) => void) =>
  ({ texts }: ParishPack): void => {
    const value = JSON.parse(texts.get(path) ?? '{}') as T
    change(value)
    texts.set(path, `${JSON.stringify(value)}\n`)
  }
export const inPiece = (change: (piece: Loose) => void) => inFile(PIECE, change)
export const inTrays = (change: (trays: Tray[]) => void) =>
  inFile<{ trays: Tray[] }>(PARTS, ({ trays }) => change(trays))
export const inHalf = (change: (half: Half) => void) => inTrays(([seat]) => change(seat.halves[0]))
export const ofDye = (name: string, change: (line: Loose) => void) =>
  inFile<{ materials: Record<string, Loose> }>(DYE, ({ materials }) => change(materials[name]))
export const inText =
  (path: string, from: string | RegExp, to: string) =>
  ({ texts }: ParishPack): void => {
    const text = texts.get(path) ?? ''
    const changed = text.replace(from, to)
    if (changed === text) throw new Error(`${path} has no ${String(from)}`)
    texts.set(path, changed)
  }
export const moved =
  (from: string, to: string) =>
  ({ texts }: ParishPack): void => {
    texts.set(to, texts.get(from) ?? '')
    texts.delete(from)
  }
export const loose = (value: unknown): Loose => value as Loose
/** So many boxes beside each other, twelve half-blocks each. */
export const boxes = (count: number): Half[] =>
  Array.from({ length: count }, (_, number) => {
    const [x, z] = [number % 30, Math.floor(number / 30)]
    return parishBox([x * 4, 0, z * 4], [x * 4 + 3, 3, z * 4 + 3])
  }).flat()
