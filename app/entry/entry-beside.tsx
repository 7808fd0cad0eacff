import { Link } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import type { JudgedFinding } from '../../core/crate/waivers'
import type { ItemEvent } from '../../core/item/entry'
import { useBenchJobs } from '../crate/use-bench-jobs'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import { plural } from '../ui/format'
import type { EntryReport } from '../workers/entry-messages'
import type { EntryHands } from './use-entry'

const BORROW = 'borrow-behaviour'
const LINK = 'link-events'

/** Beside the lines: what the entry starts from, what the item acts like, what happens, and what is found. */
export function EntryBeside({
  item,
  hands,
  findings,
}: {
  item: CrateItem
  hands: EntryHands
  findings: readonly JudgedFinding[]
}) {
  const { rulebook } = useCrate()
  const jobs = useBenchJobs(item)
  const { behaviour } = rulebook
  return (
    <aside className="flex min-w-0 flex-col gap-5" aria-label="Beside the entry">
      <StartFrom item={item} hands={hands} />
      {behaviour.likeDonor && <ActsLike item={item} hands={hands} />}
      {behaviour.events.when.length > 0 && <Happens item={item} events={hands.said.events} />}
      <section aria-label="Found in the entry">
        <h2 className="text-[15px]">Found</h2>
        {findings.length === 0 && (
          <p className="flex items-center gap-2 text-[13px]">
            <StatusMark status="clear" size={12} /> The game would take this entry.
          </p>
        )}
        <ul>
          {findings.map((finding, number) => (
            <li
              key={`${finding.rule} ${finding.where} ${number}`}
              className="border-b border-dashed border-edge py-1.5 text-[13px]"
            >
              <span className="flex items-start gap-2">
                <span className="pt-[3px]">
                  <StatusMark status={finding.waived === null ? finding.severity : 'idle'} size={12} />
                </span>
                <span className="min-w-0 [overflow-wrap:anywhere]">{finding.message}</span>
              </span>
              {finding.mend && finding.waived === null && (
                <button
                  type="button"
                  className="link pl-5"
                  onClick={() => {
                    const { mend } = finding
                    if (mend) jobs.mend(mend)
                  }}
                >
                  Mend
                </button>
              )}
            </li>
          ))}
        </ul>
      </section>
    </aside>
  )
}

/** A thing of the game whose entry it starts from: what must differ is said anew. */
function StartFrom({ item, hands }: { item: CrateItem; hands: EntryHands }) {
  const { rulebook } = useCrate()
  const { settings, said, write } = hands
  const known = rulebook.stock.entries.filter(({ kind }) => kind === item.kind)
  if (known.length === 0) return null
  const chosen = rulebook.stock.entries.find(({ id }) => id === settings.from)
  const lines = Object.entries(chosen?.fields ?? {})
  const same = lines.filter(([key, value]) => JSON.stringify(said.fields[key]) === JSON.stringify(value)).length
  return (
    <section>
      <label className="block">
        <span className="text-[15px] font-semibold">Start from</span>
        <select
          className="field mt-1 w-full"
          value={settings.from}
          onChange={(event) => write({ ...settings, from: event.target.value })}
        >
          <option value="">what is usual</option>
          {known.map(({ id, title }) => (
            <option key={id} value={id}>
              {title}, of the game
            </option>
          ))}
        </select>
      </label>
      {chosen && (
        <p className="mt-1 text-[12.5px] text-ink-2">
          {plural(same, 'line')} of {lines.length} as {chosen.title} has them.
        </p>
      )}
    </section>
  )
}

/** The stock thing whose behaviour it borrows, and whether both agree. */
function ActsLike({ item, hands }: { item: CrateItem; hands: EntryHands }) {
  const { rulebook, send } = useCrate()
  const { report, said } = hands
  const entry = item.worklist.findLast(({ step, on }) => step === BORROW && on)
  const { donors } = rulebook.stock
  const chosen = donors.find(({ id }) => id === said.like)
  const choose = (donor: string): void => {
    if (donor === '') {
      if (entry) void send({ do: 'remove-step', item: item.id, entry: entry.id })
    } else if (entry) void send({ do: 'edit-step', item: item.id, entry: entry.id, parameters: { donor } })
    else
      void send({
        do: 'add-steps',
        item: item.id,
        at: item.worklist.length,
        entries: [{ step: BORROW, on: true, parameters: { donor }, reason: null }],
      })
  }
  if (report.donors.length === 0) return null
  const against = report.donors.find(({ id }) => id === chosen?.id)?.against ?? []
  return (
    <section>
      <label className="block">
        <span className="text-[15px] font-semibold">Acts like</span>
        <select className="field mt-1 w-full" value={said.like ?? ''} onChange={(event) => choose(event.target.value)}>
          <option value="">nothing of the game</option>
          {report.donors.map(({ id, against: differs }) => {
            const donor = donors.find((each) => each.id === id)
            return (
              <option key={id} value={id}>
                {donor?.title ?? id}
                {differs.length > 0 ? ` – ${plural(differs.length, 'difference')}` : ''}
              </option>
            )
          })}
        </select>
      </label>
      {chosen && (
        <table className="mt-1.5 w-full text-[12.5px]">
          <tbody>
            <Agreement
              what="Made of"
              item={shares(report)}
              donor={chosen.surface}
              agrees={!against.some(({ about }) => about === 'sound' || about === 'solids')}
            />
            <Agreement
              what="Leaves"
              item=""
              donor={chosen.remainsSurface === null ? chosen.remains : `${chosen.remains} of ${chosen.remainsSurface}`}
              agrees={!against.some(({ about }) => about === 'remains')}
            />
            <Agreement what="Bears" item="" donor={plural(chosen.toughness, 'blow')} agrees />
          </tbody>
        </table>
      )}
      {chosen && chosen.does !== '' && <p className="mt-1 text-[12.5px] text-ink-2">It {chosen.does}.</p>}
    </section>
  )
}

const shares = ({ shown }: EntryReport): string =>
  shown
    .slice(0, 2)
    .map(({ surface, share }) => `${surface} ${Math.round(share * 100)} %`)
    .join(', ')

function Agreement({ what, item, donor, agrees }: { what: string; item: string; donor: string; agrees: boolean }) {
  return (
    <tr className="border-b border-dashed border-edge">
      <th scope="row" className="w-[58px] py-1 text-left font-semibold">
        {what}
      </th>
      <td className="py-1">{item}</td>
      <td className="py-1 text-right">
        {donor} <StatusMark status={agrees ? 'clear' : 'risky'} size={11} />
      </td>
    </tr>
  )
}

/** What happens when something is done to it; events are linked on the bench, where they are seen as arrows. */
function Happens({ item, events }: { item: CrateItem; events: readonly ItemEvent[] }) {
  const { crate } = useCrate()
  return (
    <section>
      <h2 className="text-[15px]">What happens</h2>
      {events.length === 0 && <p className="text-[13px] text-ink-2">Nothing, whatever is done to it.</p>}
      <ul className="text-[13px]">
        {events.map((event, number) => (
          <li key={number} className="border-b border-dashed border-edge py-1">
            {event.at ?? 'the item'} {event.when} → {event.do} {event.to ?? 'the item'}
          </li>
        ))}
      </ul>
      <Link className="link text-[13px]" to={`/crate/${crate.id}/item/${item.id}?stage=motion&open=${LINK}`}>
        {events.length === 0 ? 'Link events on the bench' : 'Change them on the bench'}
      </Link>
    </section>
  )
}
