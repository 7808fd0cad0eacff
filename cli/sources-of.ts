import type { CrateItem } from '../core/crate/schema.ts'

/** The sources of one item among those of a crate. */
export const sourcesOf = (
  { sources }: Pick<CrateItem, 'sources'>,
  all: ReadonlyMap<string, Uint8Array>,
): Map<string, Uint8Array> =>
  new Map(
    sources.flatMap(({ sha256 }): [string, Uint8Array][] => {
      const bytes = all.get(sha256)
      return bytes ? [[sha256, bytes]] : []
    }),
  )
