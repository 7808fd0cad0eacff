import { rankKinds } from '../game/guess-kind.ts'
import type { Kind } from '../game/schema.ts'
import { formatCount } from '../support/wording.ts'
import { MOST_ANSWERS, type Asker } from './question.ts'

/**
 * What it becomes in the game, where that was guessed.
 * @example const question = askKind(about)
 */
export const askKind: Asker = ({ document, rulebook, kind, answers }) => {
  if (answers['kind'] !== undefined) return null
  const ranked = rankKinds(document, rulebook)
  const others = ranked.filter((each) => each.kind.id !== kind.id)
  const taken = ranked.find((each) => each.kind.id === kind.id)
  const kinds = [taken?.kind ?? kind, ...others.map((each) => each.kind)].slice(0, MOST_ANSWERS)
  if (kinds.length < 2) return null
  return {
    id: 'kind',
    title: 'What does it become?',
    why: taken?.reason ?? 'The file does not say it.',
    decides: [],
    answers: kinds.map((each) => ({
      id: each.id,
      label: each.title,
      note: limitsOf(each),
      picture: { of: 'kind' as const, kind: each.id },
      change: { kind: each.id },
    })),
    chosen: kind.id,
  }
}

/** What the game asks of a kind, in a few words. */
export function limitsOf({ mesh, solids, textureMemoryBytes }: Kind): string {
  if (!mesh) return 'no mesh, maps alone'
  const parts = [`at most ${formatCount(mesh.triangles)} triangles`]
  if (solids?.fixed === false) parts.push('can be moved')
  else if (solids === null) parts.push('no solids')
  parts.push(`${formatCount(Math.round(textureMemoryBytes / 1024 / 1024))} MiB of maps`)
  return parts.join(', ')
}
