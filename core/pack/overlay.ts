import type { Rulebook } from '../game/schema.ts'
import { comparePackNames, namedAgainst } from '../game/pack-order.ts'
import { sha256Hex } from '../support/hashing.ts'

/** A pack that lies in the game's folder. */
export interface LyingPack {
  /** Its file name: the game reads packs in the order of their names. */
  name: string
  files: ReadonlyMap<string, Uint8Array>
}

/** A path that several packs have. */
export interface OverlaidPath {
  path: string
  /** In the order in which the game reads them; the last one wins. */
  packs: string[]
  wins: string
  /** Whether all of them have the same file there. */
  same: boolean
}

export interface Overlay {
  /** All packs in the order in which the game reads them. */
  order: string[]
  overlaid: OverlaidPath[]
  /** Packs of which every path is won by another: the game sees nothing of them. */
  hidden: string[]
  warnings: string[]
}

/**
 * What the game shows of packs that lie beside each other: files of later names win. Lists of contents belong to their
 * packs, and are no conflict.
 *
 * @example const { overlaid } = overlayOf([{ name: 'zz_gate.zip', files }], rulebook)
 */
export function overlayOf(packs: readonly LyingPack[], rulebook: Rulebook): Overlay {
  const { base } = rulebook.files.archive
  const sorted = [...packs].sort((a, b) => comparePackNames(a.name, b.name))
  const holders = new Map<string, LyingPack[]>()
  for (const pack of sorted)
    for (const path of pack.files.keys())
      if (path !== rulebook.files.manifest.path) holders.set(path, [...(holders.get(path) ?? []), pack])
  const overlaid = [...holders]
    .filter(([, of]) => of.length > 1)
    .map(([path, of]): OverlaidPath => ({
      path,
      packs: of.map(({ name }) => name),
      wins: of[of.length - 1].name,
      same: new Set(of.map(({ files }) => sha256Hex(files.get(path) ?? new Uint8Array(0)))).size === 1,
    }))
    .sort((a, b) => comparePackNames(a.path, b.path))
  const shown = new Set([...holders.values()].map((of) => of[of.length - 1].name))
  return {
    order: sorted.map(({ name }) => name),
    overlaid,
    hidden: sorted.filter(({ name }) => !shown.has(name)).map(({ name }) => name),
    warnings: base === null ? [] : sorted.flatMap(({ name }) => namedAgainst(name, base)),
  }
}
