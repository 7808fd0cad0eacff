import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { fieldsOfKind, rowsOfKind } from '../../core/game/catalogue/fields'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf } from '../../core/game/load'
import { RouteBar } from '../crate/route-bar'
import { packStatus, trialStatus, usePackFacts } from '../crate/pack-facts'
import { findingsOf, stageStatus } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { WithRail } from '../crate/with-rail'
import { requestRuns } from '../queries/crate-runs'
import { runId, useItemRun } from '../queries/runs'
import { EntryBeside } from './entry-beside'
import { EntryLines } from './entry-lines'
import { EntryRows } from './entry-rows'
import { EntryText } from './entry-text'
import { useEntry } from './use-entry'

/** What the game's catalogue says of an item: as a form, or as the text that is packed. */
export function EntryDesk({ item }: { item: CrateItem }) {
  const { crate, rulebook, game } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const facts = usePackFacts(crate)
  const run = useItemRun(runId(crate.id, item.id))
  const hands = useEntry(item)
  const [asText, setAsText] = useState(false)
  useEffect(() => requestRuns(crate, game), [crate, game])
  const fields = fieldsOfKind(rulebook, kind)
  const rows = rowsOfKind(rulebook, kind)
  const stands = rulebook.catalogue.categories.find(({ category }) => category === kind.category)?.stands
  const stock = rulebook.stock.entries.find(({ id }) => id === (hands?.settings.from ?? '')) ?? null
  const findings = findingsOf(item, run).filter(({ stage }) => stage === 'pack')
  return (
    <>
      <RouteBar
        current="pack"
        linkOf={(stage) =>
          stage === 'pack' || stage === 'trial'
            ? `/crate/${crate.id}/${stage}`
            : `/crate/${crate.id}/item/${item.id}?stage=${stage}`
        }
        statusOf={(stage) =>
          stage === 'pack'
            ? packStatus(facts)
            : stage === 'trial'
              ? trialStatus(facts)
              : stageStatus(stage, item, kind, rulebook, run)
        }
      />
      <WithRail crate={crate}>
        <div className="relative min-w-0 flex-1 overflow-y-auto px-8 py-5">
          <div className="flex items-start gap-4">
            <div className="min-w-0 flex-1">
              <h1 className="text-[24px] leading-tight">Entry of {item.name}</h1>
              <p className="text-[13.5px] text-ink-2">
                {kind.title} → <span className="num">{hands?.report.path ?? '…'}</span>
                {stands && <> · in the game it stands {stands}</>}
              </p>
            </div>
            <div role="group" aria-label="How the entry is shown" className="flex gap-1.5 pt-1">
              {[false, true].map((text) => (
                <button
                  key={String(text)}
                  type="button"
                  aria-pressed={asText === text}
                  onClick={() => setAsText(text)}
                  className={
                    'rounded-full border px-3 py-0.5 text-[13px] font-semibold ' +
                    `${asText === text ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`
                  }
                >
                  {text ? 'Text' : 'Lines'}
                </button>
              ))}
            </div>
            <Link className="button" to={`/crate/${crate.id}/item/${item.id}?stage=check`}>
              To the bench
            </Link>
          </div>
          {!hands && <p className="mt-8 text-ink-2">Reading what the item is after its worklist …</p>}
          {hands && (
            <div className="mt-4 grid grid-cols-[minmax(0,1fr)_320px] gap-x-8">
              <div className="min-w-0">
                {asText ? (
                  <EntryText key={item.id} item={item} hands={hands} />
                ) : (
                  <>
                    {fields.length === 0 && (
                      <p className="rounded-lg border border-dashed border-edge-strong p-6 text-ink-2">
                        The rulebook of {rulebook.title} says nothing of lines beside the item’s files. They are added
                        to it under <i>catalogue</i>.
                      </p>
                    )}
                    <EntryLines
                      item={item}
                      hands={hands}
                      fields={fields}
                      said={hands.said.fields}
                      own={hands.settings.fields}
                      stock={stock}
                      onSay={(change) => hands.say({ fields: change })}
                    />
                    {rows && <EntryRows item={item} hands={hands} rows={rows} />}
                  </>
                )}
              </div>
              <EntryBeside item={item} hands={hands} findings={findings} />
            </div>
          )}
        </div>
      </WithRail>
    </>
  )
}
