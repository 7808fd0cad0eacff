import type { SeenPack, SeenRecord } from './game-files.ts'
import type { SeenItem } from './learn-files.ts'
import type { LearnedLine } from './learned.ts'

type Field = 'item' | 'kind' | 'category' | 'slot' | 'mesh' | 'looks'

/** What the game calls the fields of its entries, and what each says. */
export interface EntryWords {
  words: Partial<Record<Field, string>>
  lines: LearnedLine[]
}

/**
 * Entries’ fields by what they hold: the path of a mesh, paths of looks, a word of its own path, a word of few.
 * @example const { words } = learnEntryWords(packs)
 */
export function learnEntryWords(packs: readonly SeenPack[]): EntryWords {
  const entries = packs.flatMap((pack) => pack.entries.map((entry) => ({ pack, entry })))
  const fields = [...new Set(entries.flatMap(({ entry }) => Object.keys(entry.value)))]
  const shareOf = (field: string, holds: (value: unknown, pack: SeenPack, entry: SeenRecord) => boolean): number =>
    entries.filter(({ pack, entry }) => holds(entry.value[field], pack, entry)).length / Math.max(1, entries.length)
  const taken = new Set<string>()
  const words: EntryWords['words'] = {}
  const take = (ours: Field, holds: Parameters<typeof shareOf>[1], least: number): void => {
    const shares = fields
      .filter((field) => !taken.has(field))
      .map((field) => ({ field, share: shareOf(field, holds) + (field === ours ? 0.01 : 0) }))
      .sort((a, b) => b.share - a.share)
    const [best] = shares
    if (!best || best.share < least) return
    words[ours] = best.field
    taken.add(best.field)
  }
  const stepsOf = (path: string): string[] => path.split(/[/.]/)
  const isText = (value: unknown): value is string => typeof value === 'string' && value !== ''
  const differ = (field: string): number => new Set(entries.map(({ entry }) => entry.value[field])).size
  take('mesh', (value, pack) => isText(value) && pack.meshes.includes(value), 0.2)
  take(
    'looks',
    (value, pack) =>
      Array.isArray(value) && value.length > 0 && value.every((each) => pack.looks.some(({ path }) => path === each)),
    0.5,
  )
  const inPath = (value: unknown, _pack: SeenPack, entry: SeenRecord): boolean =>
    isText(value) &&
    stepsOf(entry.path).some((step) => step.toLowerCase() === value.toLowerCase() || step.startsWith(`${value}_`))
  // A name of a place is short and has digits; an item's own name differs from entry to entry.
  take('slot', (value) => isText(value) && /^[a-z]{0,3}[-_]?[0-9a-f]{2,5}$/i.test(value) && /\d/.test(value), 0.9)
  const differing = fields.filter((field) => differ(field) > Math.max(1, entries.length * 0.6))
  take(
    'item',
    (value, pack, entry) => {
      const field = fields.find((each) => entry.value[each] === value)
      return isText(value) && (entries.length < 2 || differing.includes(field ?? '')) && !pack.meshes.includes(value)
    },
    0.5,
  )
  take('category', inPath, 0.5)
  take('kind', (value) => isText(value) && !value.includes('/'), 0.5)
  const named = (['item', 'kind', 'category', 'slot', 'mesh', 'looks'] as const).flatMap((field): LearnedLine[] => {
    const word = words[field]
    if (word === undefined || word === field) return []
    return [
      {
        path: ['files', 'words', 'entry', field],
        value: word,
        files: entries.filter(({ entry }) => word in entry.value).length,
        sureness: 'likely',
        why:
          'the field of entries that holds ' +
          `${field === 'mesh' ? 'the path of a mesh' : field === 'looks' ? 'paths of looks' : `the ${field}`}`,
        against: [],
      },
    ]
  })
  return { words, lines: named }
}

/**
 * The items of packs, as their entries name them.
 * @example const items = itemsOf(packs, learnEntryWords(packs))
 */
export function itemsOf(packs: readonly SeenPack[], { words }: EntryWords): SeenItem[] {
  return packs.flatMap((pack) => {
    const meshes = new Set(pack.meshes)
    const looks = new Map(pack.looks.map((look) => [look.path, look]))
    return pack.entries.map((entry): SeenItem => {
      const said = (field: Field): string => {
        const value = words[field] === undefined ? undefined : entry.value[words[field] ?? '']
        return typeof value === 'string' ? value : ''
      }
      const category = said('category')
      const named = new Set(entry.leaves.flatMap(({ value }) => (typeof value === 'string' ? [value] : [])))
      return {
        pack,
        entry,
        item: said('item'),
        kind: said('kind') || category,
        category,
        slot: words.slot === undefined ? null : said('slot'),
        meshes: [...named].filter((path) => meshes.has(path)),
        looks: [...named].flatMap((path) => looks.get(path) ?? []),
      }
    })
  })
}
