import type { Rulebook } from '../../core/game/schema'
import { rulebookDifference } from '../../core/game/sentences/difference'
import type { ReadingFilter } from '../../core/game/sentences'
import { plural } from '../../core/support/wording'

const versionOf = ({ title, version }: Rulebook): string => `${title} ${version}`

interface RuleChangesProps {
  from: Rulebook
  to: Rulebook
  filter?: ReadingFilter
}

/** What one rulebook demands otherwise than another, demand by demand. */
export function RuleChanges({ from, to, filter }: RuleChangesProps) {
  const changes = rulebookDifference(from, to, filter)
  const titleOf = (id: string): string => [...to.kinds, ...from.kinds].find((kind) => kind.id === id)?.title ?? id
  return (
    <section aria-label="What changes" className="mt-4">
      <p className="text-ink-2">
        {changes.length === 0
          ? `${versionOf(to)} demands the same as ` +
            `${versionOf(from)}${filter?.kind || filter?.words ? ' of what is asked for here' : ''}.`
          : `${versionOf(to)} demands ${plural(changes.length, 'thing')} otherwise.`}
      </p>
      {changes.length > 0 && (
        <table className="mt-2 w-full table-fixed text-left text-[14px]">
          <thead className="caption">
            <tr className="border-b border-edge-strong">
              <th scope="col" className="w-40 py-1.5 pr-4 font-semibold">
                Holds for
              </th>
              <th scope="col" className="py-1.5 pr-4 font-semibold">
                {versionOf(from)}
              </th>
              <th scope="col" className="py-1.5 font-semibold">
                {versionOf(to)}
              </th>
            </tr>
          </thead>
          <tbody>
            {changes.map(({ topic, kinds, before, after }, index) => (
              <tr key={`${topic} ${index}`} className="border-b border-dashed border-edge align-top">
                <th scope="row" className="py-1.5 pr-4 font-normal text-ink-2">
                  {kinds === null ? 'all' : kinds.map(titleOf).join(', ')}
                </th>
                <td className="py-1.5 pr-4 wrap-anywhere">{before ?? <span className="text-ink-2">not asked</span>}</td>
                <td className="py-1.5 font-medium wrap-anywhere">
                  {after ?? <span className="font-normal text-ink-2">not asked</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
