import type { SeenItem } from './learn-files.ts'
import type { LearnedLine } from './learned.ts'

const lookFields = ['look', 'materials', 'maps', 'flags', 'tint', 'surface', 'shading'] as const
type LookField = (typeof lookFields)[number]

/** A material as a look has it. */
export interface SeenMaterial {
  look: string
  name: string
  /** Paths of maps by the game's names of their roles. */
  maps: Record<string, string>
  shading: string | null
  surface: string | null
  flags: string[]
}

/** What looks say, and what the game calls the fields of them. */
export interface SeenLooks {
  materials: { of: SeenItem; material: SeenMaterial }[]
  lines: LearnedLine[]
}

type Fields = Record<string, unknown>
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Looks' fields by what they hold: materials, their maps, lists of flags, a tint, words of few.
 * @example const { materials } = seeLooks(items, surfaces)
 */
export function seeLooks(items: readonly SeenItem[], surfaces: readonly string[]): SeenLooks {
  const records = items.flatMap((of) => of.looks.map((look) => ({ of, look })))
  const heads = records.map(({ look }) => look.value)
  const materials = fieldOf(heads, 'materials', isFields)
  const ofMaterials = heads.flatMap((head) => {
    const under = materials === null ? undefined : head[materials]
    return isFields(under) ? Object.values(under).filter(isFields) : []
  })
  const isText = (value: unknown): value is string => typeof value === 'string'
  const tint = fieldOf(ofMaterials, 'tint', (value) => isText(value) && /^#[0-9a-f]{6}$/i.test(value))
  const surface = fieldOf(ofMaterials, 'surface', (value) => isText(value) && surfaces.includes(value), [tint])
  const words: Record<LookField, string | null> = {
    look: fieldOf(heads, 'look', isText),
    materials,
    maps: fieldOf(ofMaterials, 'maps', isFields),
    flags: fieldOf(ofMaterials, 'flags', Array.isArray),
    tint,
    surface,
    shading: fieldOf(ofMaterials, 'shading', isText, [tint, surface]),
  }
  return {
    materials: records.flatMap(({ of, look }) => {
      const under = words.materials === null ? undefined : look.value[words.materials]
      return isFields(under)
        ? Object.entries(under).flatMap(([name, line]) =>
            isFields(line) ? [{ of, material: seenMaterial(look.path, name, line, words) }] : [],
          )
        : []
    }),
    lines: lookFields.flatMap((field): LearnedLine[] => {
      const word = words[field]
      if (word === null || word === field) return []
      const why = `the field of looks that holds ${field === 'look' ? 'its name' : field}`
      return [
        {
          path: ['files', 'words', 'look', field],
          value: word,
          files: records.length,
          sureness: 'likely',
          why,
          against: [],
        },
      ]
    }),
  }
}

/** The field that most often holds such a thing; ours where it is among them. */
function fieldOf(
  records: readonly Fields[],
  ours: string,
  holds: (value: unknown) => boolean,
  taken: readonly (string | null)[] = [],
): string | null {
  const counts = new Map<string, number>()
  for (const record of records)
    for (const [field, value] of Object.entries(record))
      if (!taken.includes(field) && holds(value)) counts.set(field, (counts.get(field) ?? 0) + 1)
  if (counts.has(ours)) return ours
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null
}

function seenMaterial(look: string, name: string, line: Fields, words: Record<LookField, string | null>): SeenMaterial {
  const said = (field: LookField): unknown => (words[field] === null ? undefined : line[words[field]])
  const text = (field: LookField): string | null => {
    const value = said(field)
    return typeof value === 'string' ? value : null
  }
  const [maps, flags] = [said('maps'), said('flags')]
  const shown = isFields(maps) ? Object.entries(maps) : []
  return {
    look,
    name,
    maps: Object.fromEntries(shown.flatMap(([role, path]) => (typeof path === 'string' ? [[role, path]] : []))),
    shading: text('shading'),
    surface: text('surface'),
    flags: Array.isArray(flags) ? flags.filter((flag) => typeof flag === 'string') : [],
  }
}
