import type { Rulebook } from '../schema.ts'
import { sentencesOf, type ReadingFilter } from './index.ts'
import type { Topic } from './sentence.ts'

/** One demand that is not the same in two rulebooks. */
export interface RuleChange {
  topic: Topic
  /** The kinds that it is about; null where it is about all. */
  kinds: string[] | null
  /** What the first says; null where it says nothing of it. */
  before: string | null
  /** What the second says; null where it says nothing of it any more. */
  after: string | null
}

interface Said {
  topic: Topic
  kind: string | null
  sentence: string
}

/** Every sentence by what it is about; one that speaks of several kinds stands once for each. */
function saidIn(rulebook: Rulebook): Map<string, Said> {
  const said = new Map<string, Said>()
  for (const { topic, field, kinds, sentence } of sentencesOf(rulebook)) {
    const ofKind = /^kinds\.\d+\.(.*)$/.exec(field)?.[1]
    if (ofKind === undefined) said.set(field, { topic, kind: null, sentence })
    else
      for (const kind of kinds ?? rulebook.kinds.map(({ id }) => id))
        said.set(`${ofKind} of ${kind}`, { topic, kind, sentence })
  }
  return said
}

/**
 * What a second rulebook demands otherwise than a first, of another version or of another game: each change once, with
 * the kinds that it is about.
 * @param filter only what a kind has to keep to, or what has all these words before or after
 *
 * @example for (const { before, after } of rulebookDifference(carried, later)) console.log(before, '→', after)
 */
export function rulebookDifference(
  first: Rulebook,
  second: Rulebook,
  { kind: onlyKind, words = '' }: ReadingFilter = {},
): RuleChange[] {
  const [before, after] = [saidIn(first), saidIn(second)]
  const changes = new Map<string, RuleChange & { kinds: string[] }>()
  for (const key of new Set([...before.keys(), ...after.keys()])) {
    const [old, now] = [before.get(key), after.get(key)]
    if (old?.sentence === now?.sentence) continue
    const { topic, kind } = (now ?? old) as Said
    const what = JSON.stringify([topic, key.replace(/ of .*$/, ''), old?.sentence, now?.sentence])
    const change = changes.get(what) ?? {
      topic,
      kinds: [],
      before: old?.sentence ?? null,
      after: now?.sentence ?? null,
    }
    if (kind !== null) change.kinds.push(kind)
    changes.set(what, change)
  }
  const everyKind = new Set([...first.kinds, ...second.kinds].map(({ id }) => id)).size
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean)
  return [...changes.values()]
    .filter(({ kinds }) => onlyKind === undefined || kinds.length === 0 || kinds.includes(onlyKind))
    .filter(({ before: old, after: now }) => {
      const text = `${old ?? ''} ${now ?? ''}`.toLowerCase()
      return asked.every((word) => text.includes(word))
    })
    .map((change) => ({
      ...change,
      kinds: change.kinds.length === 0 || change.kinds.length === everyKind ? null : change.kinds,
    }))
}
