import { useMemo, useState, type ReactNode } from 'react'
import { doForMany, useManyJob } from '../crate/many-jobs'
import { mendCommands } from '../crate/mend-commands'
import { presetOf } from '../crate/preset-of'
import { keepRounds } from '../crate/rounds'
import { useCrate } from '../crate/use-crate'
import type { Preset } from '../../core/crate/preset'
import type { CrateItem } from '../../core/crate/schema'
import { keepEvaluation, runId } from '../queries/runs'
import { prepareItem } from '../workers/bench-client'
import { ChangeDialog } from './change-dialog'
import { CopyDialog } from './copy-dialog'
import { troublesEverywhere, type TroubleEverywhere } from './everywhere'
import { FleetBar } from './fleet-bar'
import { noFilter, shownRows, sortedRows, type FleetFilter, type FleetSort } from './fleet-rows'
import { FleetTable } from './fleet-table'
import { PresetsDialog } from './presets-dialog'
import { TroublesPanel } from './troubles-panel'
import { useFleetRows } from './use-fleet-rows'

interface FleetProps {
  /** Stands under the table. */
  under: ReactNode
  /** Stands beside it, under what was found. */
  beside: ReactNode
}

/** All items of the crate: looked at, sorted and changed together; what was found in all of them stands beside. */
export function Fleet({ under, beside }: FleetProps) {
  const { crate, game, send } = useCrate()
  const rows = useFleetRows()
  const [filter, setFilter] = useState<FleetFilter>(noFilter)
  const [sort, setSort] = useState<FleetSort>({ by: null, descending: false })
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set())
  const [lastPressed, setLastPressed] = useState<string | null>(null)
  const [dialog, setDialog] = useState<'change' | 'copy' | { presets: Preset[] } | null>(null)
  const [trouble, setTrouble] = useState('')
  const busy = useManyJob(({ job }) => job !== null)
  // What is under way was found before it changed.
  const troubles = useMemo(() => troublesEverywhere(rows.filter(({ state }) => state !== 'running')), [rows])
  const shown = useMemo(() => {
    const within = troubles.filter(({ rule }) => rule === trouble).flatMap(({ items }) => items.map(({ id }) => id))
    const wanted = within.length > 0 ? rows.filter(({ item }) => within.includes(item.id)) : rows
    return sortedRows(shownRows(wanted, filter), sort)
  }, [rows, filter, sort, trouble, troubles])
  const chosen = crate.items.filter(({ id }) => selected.has(id))

  const choose = (item: string, on: boolean, upTo: boolean): void => {
    const ids = shown.map((row) => row.item.id)
    const [from, to] = [ids.indexOf(lastPressed ?? item), ids.indexOf(item)].sort((a, b) => a - b)
    const pressed = upTo && from >= 0 ? ids.slice(from, to + 1) : [item]
    const next = new Set(selected)
    for (const id of pressed)
      if (on) next.add(id)
      else next.delete(id)
    setSelected(next)
    setLastPressed(item)
  }
  const prepare = (items: readonly CrateItem[]): void =>
    void doForMany({
      crateId: crate.id,
      title: 'Preparing',
      items,
      send,
      async work(item, ask) {
        const { worklist, rounds, evaluation } = await prepareItem(item, game, ask)
        keepRounds(runId(crate.id, item.id), rounds)
        keepEvaluation(crate.id, { ...item, worklist }, game, evaluation)
        return [{ do: 'set-worklist', item: item.id, worklist }]
      },
    })
  const mend = (mends: TroubleEverywhere['mends']): void =>
    void doForMany({
      crateId: crate.id,
      title: 'Mending',
      items: mends.map(({ item }) => item),
      send,
      async work(item, ask) {
        const own = mends.find((each) => each.item.id === item.id)
        return own ? mendCommands(item, own.mend, game, ask) : []
      },
    })
  const remove = async (): Promise<void> => {
    const commands = chosen.map(({ id }) => ({ do: 'remove-item' as const, item: id }))
    if (await send({ do: 'several', commands })) setSelected(new Set())
  }

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_280px] gap-x-7">
      <div className="flex min-h-0 flex-col gap-3">
        {rows.length > 0 && (
          <>
            <FleetBar
              rows={rows}
              shown={shown}
              filter={filter}
              onFilter={setFilter}
              selected={chosen}
              onSelectNone={() => setSelected(new Set())}
              onPrepare={prepare}
              onChange={() => setDialog('change')}
              onCopy={() => setDialog('copy')}
              onKeepPreset={(item) => setDialog({ presets: [presetOf(item)] })}
              onPresets={() => setDialog({ presets: [] })}
              onRemove={() => void remove()}
            />
            <FleetTable
              rows={shown}
              sort={sort}
              onSort={setSort}
              selected={selected}
              onSelect={choose}
              onSelectAll={(on) => setSelected(on ? new Set(shown.map(({ item }) => item.id)) : new Set())}
            />
          </>
        )}
        {under}
      </div>
      <div className="flex min-h-0 flex-col gap-4 overflow-y-auto">
        <TroublesPanel troubles={troubles} shown={trouble} onShow={setTrouble} onMend={mend} busy={busy} />
        {beside}
      </div>
      <ChangeDialog items={dialog === 'change' ? chosen : null} onClose={() => setDialog(null)} />
      <CopyDialog to={dialog === 'copy' ? chosen : null} onClose={() => setDialog(null)} />
      {typeof dialog === 'object' && dialog && <PresetsDialog added={dialog.presets} onClose={() => setDialog(null)} />}
    </div>
  )
}
