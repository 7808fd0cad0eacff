import { nearest, orNearest } from '../nearest.ts'
import { withArticle } from '../../support/wording.ts'
import type { ReferenceTarget } from '../schema-catalogue.ts'
import { entryMend, nowhereInPack, type EntryFault, type EntryMend } from './entry-faults.ts'

const targetWords: Record<ReferenceTarget, string> = {
  part: 'part',
  group: 'group',
  point: 'attach point',
  marker: 'marker',
  clip: 'clip',
  light: 'light',
  look: 'look',
  item: 'item',
  stock: 'thing in stock',
}

/** Where a line says a name. */
export interface NamedLine {
  where: string
  name: string
  look: string | null
  key: string
  list: readonly unknown[] | null
  at: number
}

/**
 * A name that leads nowhere, or to another sort of thing.
 * @param to what it should be the name of
 * @param candidates names that would do
 * @param elsewhere what else has that name; null for nothing
 *
 * @example const fault = lostName(line, ['part'], ['lid', 'hinge'], null)
 */
export function lostName(
  line: NamedLine,
  to: readonly ReferenceTarget[],
  candidates: readonly string[],
  elsewhere: ReferenceTarget | null,
): EntryFault {
  const { where, name } = line
  const near = nearest(name, candidates)
  const wanted = to.map((target) => targetWords[target]).join(' or ')
  const meant = near ?? (candidates.length === 1 ? candidates[0] : null)
  return {
    ...nowhereInPack,
    rule: elsewhere === null ? 'entry-lost' : 'entry-wrong-target',
    severity: 'blocks',
    title: elsewhere === null ? 'Name that leads nowhere' : 'Name of another sort of thing',
    where,
    value: name,
    limit: candidates.length > 0 ? candidates.slice(0, 8).join(', ') : `${withArticle(wanted)}; there is none`,
    message:
      elsewhere === null
        ? `“${where}” names “${name}”, and there is no such ${wanted}${orNearest(near)}`
        : `“${where}” names “${name}”, which is ` +
          `${withArticle(targetWords[elsewhere])}${to.includes(elsewhere) ? ' of another kind' : ` and no ${wanted}`}`,
    why: 'The game looks the name up when the thing is made, and gives up where it finds nothing.',
    mend: meant === null ? null : entryMend(renamed(line, meant)),
  }
}

function renamed({ look, key, list, at }: NamedLine, name: string): EntryMend {
  const value = list ? list.map((other, index) => (index === at ? name : other)) : name
  return look === null ? { fields: { [key]: value } } : { rows: { [look]: { [key]: value } } }
}
