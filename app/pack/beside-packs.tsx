import { useState } from 'react'
import { readPicked } from '../crate/file-drop'
import { useCrate } from '../crate/use-crate'
import { plural } from '../ui/format'
import { tellError } from '../ui/notify'
import { useFilePicker } from '../ui/use-file-picker'
import { StatusMark } from '../ui/status-mark'
import { overlayPacks } from '../workers/clients'
import type { OverlayReport } from '../workers/pack-messages'

const MOST_ROWS = 300

/** What the game shows where other packs lie in its folder as well: which pack wins each path. */
export function BesidePacks({ fileName }: { fileName: string }) {
  const { crate, rulebook } = useCrate()
  const [report, setReport] = useState<OverlayReport | null>(null)
  const compare = async (files: File[]): Promise<void> => {
    try {
      const others = (await readPicked(files)).map(({ path, bytes }) => ({ name: path, bytes }))
      setReport(await overlayPacks(crate.id, fileName, rulebook, others))
    } catch (error) {
      tellError(error)
    }
  }
  const picker = useFilePicker('Packs of the game’s folder', '.zip', compare)
  const contested = report?.overlaid.filter(({ same }) => !same) ?? []
  return (
    <section className="mt-7" aria-label="Beside other packs">
      <div className="flex items-baseline gap-4">
        <h2 className="text-[17px]">Beside other packs</h2>
        <button type="button" className="button ml-auto" onClick={picker.open}>
          Choose packs of the game’s folder
        </button>
      </div>
      {picker.input}
      <p className="text-[13px] text-ink-2">
        Packs are read in the order of their names; of two files with one path the later is seen.
        {rulebook.files.archive.base !== null && ` The game’s own is ${rulebook.files.archive.base}.`}
      </p>
      {report && (
        <>
          <p className="mt-3 flex items-center gap-2">
            <StatusMark status={contested.length > 0 ? 'risky' : 'clear'} size={13} />
            {contested.length > 0
              ? `${plural(contested.length, 'path')} contested`
              : 'No two packs have different files at one path'}
          </p>
          <p className="num text-[12.5px] break-all text-ink-2">Read in this order: {report.order.join(' → ')}</p>
          {[...report.warnings, ...report.hidden.map((name) => `${name}: nothing of it is seen`)].map((warning) => (
            <p key={warning} className="mt-1 flex items-center gap-2 text-[13px]">
              <StatusMark status="risky" size={12} /> {warning}
            </p>
          ))}
          {report.overlaid.length > 0 && <Overlaid report={report} />}
        </>
      )}
    </section>
  )
}

function Overlaid({ report }: { report: OverlayReport }) {
  const rows = [...report.overlaid].sort((a, b) => Number(a.same) - Number(b.same)).slice(0, MOST_ROWS)
  return (
    <>
      <table className="mt-2 w-full text-left" aria-label="Paths that several packs have">
        <thead className="caption">
          <tr className="border-b border-edge-strong">
            {['Path', 'Seen is that of', 'Over'].map((title) => (
              <th key={title} scope="col" className="py-1.5 pr-4 font-semibold">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ path, packs, wins, same }) => (
            <tr key={path} className="border-b border-dashed border-edge text-[13px]">
              <td className="num py-1 pr-4 break-all">{path}</td>
              <td className="num pr-4">{wins}</td>
              <td className="text-ink-2">
                <span className="num">{packs.filter((name) => name !== wins).join(', ')}</span>
                {same ? ': the same file' : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {report.overlaid.length > MOST_ROWS && (
        <p className="mt-2 text-[13px] text-ink-2">
          {plural(report.overlaid.length - MOST_ROWS, 'path')} more; gentle-crate overlay prints them all.
        </p>
      )}
    </>
  )
}
