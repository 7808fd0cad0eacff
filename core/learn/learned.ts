/** How sure something that was learned is. */
export const surenesses = ['sure', 'likely', 'guess'] as const
export type Sureness = (typeof surenesses)[number]

/** One field of a rulebook as files that a game accepts have it. */
export interface LearnedLine {
  /** Where it stands in the rulebook. */
  path: string[]
  value: unknown
  /** In how many files it was seen. */
  files: number
  sureness: Sureness
  /** How it was told, in a sentence. */
  why: string
  /** Files that say otherwise. */
  against: { file: string; value: unknown }[]
}

const AGREEING = 3
const MOST_AGAINST = 8

/** What files say of one thing, file by file. */
export class Tally<T> {
  private readonly seen: { value: T; file: string }[] = []

  add(value: T, file: string): void {
    this.seen.push({ value, file })
  }

  get isEmpty(): boolean {
    return this.seen.length === 0
  }

  /** Every value, each once, the most frequent first. */
  values(): T[] {
    const counts = new Map<string, { value: T; count: number }>()
    for (const { value } of this.seen) {
      const key = JSON.stringify(value)
      counts.set(key, { value, count: (counts.get(key)?.count ?? 0) + 1 })
    }
    return [...counts.values()].sort((a, b) => b.count - a.count).map(({ value }) => value)
  }

  /** The most frequent value as a line; null where nothing was seen. What most files say is sure where all do. */
  line(path: readonly string[], why: string, byFormat = false): LearnedLine | null {
    const [value] = this.values()
    if (this.seen.length === 0) return null
    const same = JSON.stringify(value)
    const against = this.seen.filter((each) => JSON.stringify(each.value) !== same)
    const agreeing = this.seen.length - against.length
    const sureness =
      against.length === 0 && (byFormat || agreeing >= AGREEING)
        ? 'sure'
        : against.length * 4 <= agreeing && agreeing > 1
          ? 'likely'
          : 'guess'
    return { path: [...path], value, files: agreeing, sureness, why, against: against.slice(0, MOST_AGAINST) }
  }
}

/**
 * The largest of what was counted, as a limit: no file says that the game takes no more.
 * @example const line = largestSeen(['kinds', 'mesh', 'triangles'], counts, 'triangles')
 */
export function largestSeen(
  path: readonly string[],
  counts: readonly { count: number; file: string }[],
  what: string,
): LearnedLine | null {
  const [first, ...others] = [...counts].sort((a, b) => b.count - a.count)
  if (!first || first.count === 0) return null
  const why =
    `${what}: ${first.count} in ${first.file}${others[0] ? `, then ${others[0].count}` : ''}; the game may take ` +
    'more'
  return { path: [...path], value: first.count, files: counts.length, sureness: 'guess', why, against: [] }
}
