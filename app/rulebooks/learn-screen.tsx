import { Upload } from 'lucide-react'
import { Fragment, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { plural } from '../../core/support/wording'
import { readPicked } from '../crate/file-drop'
import { useRulebooksChanged } from '../queries/rulebook-queries'
import { TitleField } from './title-field'
import { gameIdFor } from './game-id'
import { useFilePicker } from '../ui/use-file-picker'
import { tellError } from '../ui/notify'
import { beginLearned, learnFiles, type BroughtFile } from '../workers/clients'
import type { LearnedReport } from '../workers/rulebook-messages'
import { LearnedTable, type Decisions } from './learned-table'

/** A rulebook from files that a game already accepts: what they say, how surely, and what of it is kept. */
export function LearnScreen() {
  const navigate = useNavigate()
  const changed = useRulebooksChanged()
  const [files, setFiles] = useState<BroughtFile[]>([])
  const [learned, setLearned] = useState<LearnedReport | null>(null)
  const [decisions, setDecisions] = useState<Decisions>({})
  const [title, setTitle] = useState('')
  const [known, setKnown] = useState({ path: '', metres: '' })
  const [busy, setBusy] = useState(false)

  const learn = async (from: BroughtFile[]): Promise<void> => {
    setBusy(true)
    try {
      const metres = Number(known.metres)
      setLearned(await learnFiles(from, known.path !== '' && metres > 0 ? [{ path: known.path, metres }] : []))
      setFiles(from)
      setDecisions({})
    } catch (error) {
      tellError(error)
    } finally {
      setBusy(false)
    }
  }
  const picker = useFilePicker('Files that the game accepts', undefined, async (chosen) =>
    learn(await readPicked(chosen)),
  )
  const begin = async (): Promise<void> => {
    if (!learned) return
    try {
      const kept = learned.lines.map(({ value }, number) =>
        decisions[number]?.kept === false ? null : { value: decisions[number]?.value ?? value },
      )
      const id = gameIdFor(title)
      const key = await beginLearned(kept, id, title.trim())
      await changed()
      await navigate(`/rulebooks/${key}/edit`)
    } catch (error) {
      tellError(error)
    }
  }
  return (
    <main className="mx-auto w-full max-w-5xl px-8 py-8">
      <div className="flex items-center gap-4">
        <h1 className="flex-1 text-[28px]">Learn from the game’s files</h1>
        <Link className="link" to="/rulebooks">
          All rulebooks
        </Link>
        <button
          type="button"
          className="button-main flex shrink-0 items-center gap-1.5"
          disabled={busy}
          onClick={picker.open}
        >
          <Upload size={16} aria-hidden="true" /> {busy ? 'Measuring…' : 'Choose files'}
        </button>
        {picker.input}
      </div>
      <p className="mt-1 max-w-[72ch] text-ink-2">
        Bring a handful of packs that the game takes, or loose files of its folder. They are measured, and every field
        of a rulebook is proposed that they tell something of. Limits are never more than what was seen.
      </p>
      {learned && (
        <>
          <div className="mt-5 flex flex-wrap items-end gap-3 border-b border-edge-strong pb-3">
            <label className="flex flex-col gap-1">
              <span className="caption">You know how tall one of them is</span>
              <select
                className="field"
                value={known.path}
                onChange={({ target }) => setKnown({ ...known, path: target.value })}
              >
                <option value="">none of them</option>
                {learned.meshes.map((path) => (
                  <option key={path}>{path}</option>
                ))}
              </select>
            </label>
            <label className="flex items-center gap-2">
              <input
                className="field num w-20"
                inputMode="decimal"
                aria-label="Its height in metres"
                disabled={known.path === ''}
                value={known.metres}
                onChange={({ target }) => setKnown({ ...known, metres: target.value })}
              />
              m
            </label>
            <button
              type="button"
              className="button"
              disabled={busy || !(Number(known.metres) > 0)}
              onClick={() => void learn(files)}
            >
              Measure again
            </button>
            <form
              className="ml-auto flex items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault()
                void begin()
              }}
            >
              <TitleField label="What the game is called" value={title} onChange={setTitle} />
              <button type="submit" className="button-main" disabled={title.trim() === ''}>
                Begin with what is kept
              </button>
            </form>
          </div>
          <p role="status" className="mt-3 text-[13.5px] text-ink-2">
            {plural(learned.lines.length, 'field')} learned; everything else is as in {learned.base}.
            {learned.unread.map(({ file, why }) => ` ${file} was not read: ${why}.`)}
          </p>
          <LearnedTable lines={learned.lines} decisions={decisions} onDecide={setDecisions} />
          {learned.entryFields.length > 0 && (
            <section className="mt-6" aria-label="What entries also say">
              <h2 className="text-[18px]">What entries also say</h2>
              <p className="text-[13.5px] text-ink-2">
                Fields of the game’s own that a rulebook has no place for: to know when an entry is completed by hand.
              </p>
              <dl className="mt-2 grid grid-cols-[max-content_1fr] gap-x-5 gap-y-1 text-[14px]">
                {learned.entryFields.map(({ place, said }) => (
                  <Fragment key={place}>
                    <dt className="num">{place}</dt>
                    <dd>{said}</dd>
                  </Fragment>
                ))}
              </dl>
            </section>
          )}
        </>
      )}
    </main>
  )
}
