import {
  changeJson,
  changeText,
  ENTRY,
  keepBox,
  keepPicture,
  LOOK,
  MATERIALS,
  MESH,
  OAK,
  type KeepPack,
} from './keep-pack.ts'

/** One thing that is wrong with a pack, and what the game says of it. */
export interface KeepSpoiler {
  what: string
  says: 'refuses' | 'complains' | 'takes'
  spoil?: (pack: KeepPack) => void
  /** What is wrong with the list of contents. */
  list?: (contents: Record<string, unknown>) => void
}

export type Loose = Record<string, never>
/** A value of a file whose shape only the spoiler knows. */
export const loose = (value: unknown): Record<string, unknown> => value as Record<string, unknown>
export const inEntry =
  (change: (entry: Record<string, unknown>) => void) =>
  (pack: KeepPack): void =>
    changeJson(pack, ENTRY, (entry: Loose) => change(loose(entry)))
export const ofMaterial =
  (name: string, change: (line: Record<string, unknown>) => void) =>
  (pack: KeepPack): void =>
    changeJson(pack, LOOK, (look: Loose) => change(loose(loose(loose(look)['materials'])[name])))
export const picture =
  (path: string, bytes: Uint8Array) =>
  (pack: KeepPack): void =>
    void pack.pictures.set(path, bytes)
export const nodesOf = (entry: Record<string, unknown>): Record<string, unknown>[] =>
  entry['nodes'] as Record<string, unknown>[]

/** So many boxes in a grid, as sections of their own material lines. */
export function boxes(pack: KeepPack, count: number, sections: boolean): void {
  const all = Array.from({ length: count }, (_, number) => {
    const [x, y, z] = [number % 10, Math.floor(number / 10) % 10, Math.floor(number / 100)]
    return keepBox([x * 4, y * 4, z * 4], [x * 4 + 3, y * 4 + 3, z * 4 + 3], number)
  })
  const lines = all.flatMap((box) => [...(sections ? [`usemtl ${OAK}`] : []), ...box])
  pack.texts.set(MESH, ['mtllib K-00B.mtl', 'o box', ...(sections ? [] : [`usemtl ${OAK}`]), ...lines, ''].join('\n'))
  inEntry((entry) => nodesOf(entry).pop())(pack)
}

export function changedPicture(width: number, height: number, change: (bytes: Uint8Array) => void): Uint8Array {
  const bytes = keepPicture(width, height)
  change(bytes)
  return bytes
}

/** A material called otherwise, in the mesh, its list and the look. */
export function renameMaterial(pack: KeepPack, from: string, to: string): void {
  for (const path of [MESH, MATERIALS]) changeText(pack, path, from, to)
  changeText(pack, LOOK, `"${from}":`, `"${to}":`)
}
