import type { BroughtGame } from '../core/crate/brought-game.ts'
import { namedItems, type NamedItem } from '../core/crate/evaluate-items.ts'
import { togetherPacked, type PackedCrate, type PackedOne } from '../core/crate/pack-crate.ts'
import { planItems, type PlannedItem } from '../core/crate/plan-items.ts'
import { newCrate, type Crate } from '../core/crate/schema.ts'
import { withSlots } from '../core/crate/slots.ts'
import { rulebookKey } from '../core/game/game.ts'
import type { Rulebook } from '../core/game/schema.ts'
import { kindOf } from '../core/game/load.ts'
import type { SourceFile } from '../core/intake/source-file.ts'
import { hashValue, sha256Hex } from '../core/support/hashing.ts'
import { itemWorkers, type ItemWorkers } from './item-workers.ts'
import { prepareMany, putIntoCrate, type OfFile, type PrepareCall } from './prepare-many.ts'
import { sourcesOf } from './sources-of.ts'

/** What a round came to. */
export interface Built extends PackedCrate {
  crate: Crate
  sources: Map<string, Uint8Array>
  /** Names of the items that were worked on; the others are as they were. */
  worked: string[]
  /** Why files became no item, a sentence each. */
  refused: string[]
}

interface Known {
  of: OfFile
  /** Paths of all files that it might have asked for: one that is new may be what was missing. */
  beside: string
}

/** Checksums of bytes that stay the same bytes from round to round. */
const checksums = new WeakMap<Uint8Array, string>()
function checksumOf(bytes: Uint8Array): string {
  const known = checksums.get(bytes) ?? sha256Hex(bytes)
  checksums.set(bytes, known)
  return known
}

/**
 * Builds packs again and again, each time only what changed: files that are as they were are neither read nor prepared
 * anew, items that are as they were are not run, checked, written or compressed.
 * @param items how many there will be about: as many workers are begun, up to the cores of the machine
 */
export function rebuilder(game: BroughtGame, items: number) {
  const workers: ItemWorkers = itemWorkers(game, items)
  const known = new Map<string, Known>()
  let packed = new Map<string, PackedOne>()
  let crate: Crate | null = null
  const sources = new Map<string, Uint8Array>(
    game.game.stock && game.stock ? [[game.game.stock.sha256, game.stock]] : [],
  )

  const besideOf = ({ files }: PlannedItem): string => hashValue(files.map(({ path }) => path))

  function isAsBefore(planned: PlannedItem): boolean {
    const before = known.get(planned.main)
    if (before?.beside !== besideOf(planned)) return false
    const now = new Map(planned.files.map((file) => [file.path, file]))
    const used = before.of.prepared.at(0)?.files
    if (!used) return false
    return used.every(({ sha256, file: { path } }) => {
      const file = now.get(path)
      return file !== undefined && checksumOf(file.bytes) === sha256
    })
  }

  /** What the files of an item depend on. */
  const keyOf = ({ item: { id: _id, ...item }, itemName, slot }: NamedItem, rulebook: Rulebook): string =>
    hashValue([item, itemName, slot ?? null, rulebookKey(rulebook)])

  /** Packs a crate; items that are as they were are taken from the last round. */
  async function pack(of: Crate, all: ReadonlyMap<string, Uint8Array>): Promise<PackedCrate & { worked: string[] }> {
    const worked: string[] = []
    const kept = new Map<string, PackedOne>()
    const ones = await Promise.all(
      namedItems(of).map(async (named) => {
        const key = keyOf(named, of.rulebook)
        const before = packed.get(key)
        if (!before) worked.push(named.item.name)
        const one = before ?? (await workers.run({ do: 'pack', named, sources: sourcesOf(named.item, all) }))
        kept.set(key, one)
        return { ...one, report: { ...one.report, item: named.item } }
      }),
    )
    packed = kept
    return { ...togetherPacked(ones, of), worked }
  }

  return {
    close: workers.close,

    /** Prepares and packs what files become. @throws PlainError when there is neither a mesh nor a picture */
    async ofSources(files: readonly SourceFile[], said: PrepareCall): Promise<Built> {
      const models = said.kind === undefined ? [] : kindOf(game.game.rulebook, said.kind).models
      const plan = planItems(files, models)
      const fresh = plan.filter((planned) => !isAsBefore(planned))
      const made = await prepareMany(fresh, game, { ...said, pack: true }, workers, crate?.items)
      const fine = made.flatMap(({ prepared }) => prepared)
      for (const { packed: own } of fine) if (own) packed.set(keyOf(own.named, game.game.rulebook), own.one)
      for (const [at, of] of made.entries()) known.set(of.main, { of, beside: besideOf(fresh[at]) })
      const all = plan.flatMap(({ main }) => known.get(main)?.of ?? [])
      const prepared = all.flatMap((of) => of.prepared)
      const next: Crate = {
        ...(crate ?? newCrate(said.name ?? prepared.at(0)?.item.name ?? 'Crate', game.game, [])),
        items: [...(crate?.items ?? [])],
      }
      putIntoCrate(next, sources, prepared)
      const mains = new Set(prepared.map(({ item }) => item.main))
      crate = withSlots({ ...next, items: next.items.filter(({ main }) => mains.has(main)) })
      const { worked, ...rest } = await pack(crate, sources)
      const names = new Set([...fine.map(({ item }) => item.name), ...worked])
      return { ...rest, worked: [...names], crate, sources, refused: all.flatMap(({ refused }) => refused ?? []) }
    },

    /** Packs a crate as it is kept. */
    async ofCrate(of: Crate, all: Map<string, Uint8Array>): Promise<Built> {
      return { ...(await pack(of, all)), crate: of, sources: all, refused: [] }
    },
  }
}
