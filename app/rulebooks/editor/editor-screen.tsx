import type { EditorView } from '@codemirror/view'
import { Download } from 'lucide-react'
import { useRef } from 'react'
import { Link } from 'react-router'
import type { Crate } from '../../../core/crate/schema'
import { plural } from '../../../core/support/wording'
import { commandCrate } from '../../storage/crates'
import type { OwnRulebook } from '../../storage/rulebooks'
import { tell, tellError } from '../../ui/notify'
import { StatusMark } from '../../ui/status-mark'
import { beginWith } from '../../workers/clients'
import { saveRulebook } from '../save-rulebook'
import { isBelow, withMoreAt, withValueAt, type DraftFault } from './draft'
import { FormContext, wordsOf } from './form-context'
import { JsonEditor } from './json-editor'
import { rulebookPlaces } from './rulebook-schema'
import { SchemaField } from './schema-field'
import { TryOnCrate } from './try-on-crate'
import { useDraft } from './use-draft'

/** A rulebook as forms and as text beside them: both are the same text. */
export function EditorScreen({ own, crates }: { own: OwnRulebook; crates: readonly Crate[] }) {
  const { draft, lastValue, write, saved } = useDraft(own.key, own.text)
  const view = useRef<EditorView | null>(null)
  const show = ({ from, to }: DraftFault): void => {
    view.current?.dispatch({ selection: { anchor: from, head: to }, scrollIntoView: true })
    view.current?.focus()
  }
  const use = async (crate: Crate): Promise<void> => {
    try {
      const game = await beginWith({ own: own.key })
      await commandCrate(crate.id, { do: 'set-game', rulebook: game.rulebook, stock: game.stock })
      tell(`${crate.name} carries ${game.rulebook.title} ${game.rulebook.version} now. Undo there takes it back.`)
    } catch (error) {
      tellError(error)
    }
  }
  const blocks = draft.faults.filter(({ severity }) => severity === 'blocks')
  const value = typeof lastValue === 'object' && lastValue !== null ? (lastValue as Record<string, unknown>) : {}
  return (
    <main className="flex h-[calc(100dvh-3rem)] flex-col px-6 pt-4">
      <div className="flex items-center gap-3">
        <h1 className="text-[22px]">{draft.rulebook?.title ?? own.key}</h1>
        <p role="status" className="flex min-w-0 flex-1 items-center gap-1.5 text-[13.5px]">
          <StatusMark status={blocks.length > 0 ? 'blocks' : draft.faults.length > 0 ? 'note' : 'clear'} size={13} />
          {blocks.length > 0
            ? `${plural(blocks.length, 'place')} to mend before it can be used`
            : draft.faults.length > 0
              ? `It holds together; ${plural(draft.faults.length, 'doubt')}`
              : 'It holds together'}
          <span className="ml-2 text-ink-2">{saved ? 'kept' : 'being kept…'}</span>
        </p>
        <Link className="link" to="/rulebooks">
          All rulebooks
        </Link>
        {draft.rulebook && (
          <Link className="link" to={`/rulebooks/${own.key}`}>
            Read as sentences
          </Link>
        )}
        <button
          type="button"
          className="button"
          disabled={!draft.rulebook || !saved}
          onClick={() => void saveRulebook({ own: own.key }, own.key)}
        >
          <Download size={16} aria-hidden="true" /> Save as a file
        </button>
      </div>
      {draft.faults.length > 0 && (
        <ul className="mt-2 max-h-[92px] overflow-y-auto text-[13px]" aria-label="What is wrong" tabIndex={0}>
          {draft.faults.map((fault, number) => (
            <li key={number}>
              <button
                type="button"
                className="flex items-baseline gap-2 text-left hover:underline"
                onClick={() => show(fault)}
              >
                <StatusMark status={fault.severity} size={11} />
                <span className="num">{fault.path.join('.') || 'the text'}</span> {fault.message}
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-5">
        <section aria-label="As forms" tabIndex={0} className="min-h-0 overflow-y-auto pr-2 pb-6">
          {draft.value === undefined && (
            <p className="mb-2 rounded-lg border border-dashed border-edge-strong px-4 py-2 text-ink-2">
              The text beside is no JSON at the moment: the forms rest until it is.
            </p>
          )}
          <fieldset disabled={draft.value === undefined}>
            <legend className="sr-only">Fields of the rulebook</legend>
            <FormContext.Provider
              value={{
                faults: draft.faults,
                change: (path, next) => write(withValueAt(draft.text, path, next)),
                add: (path, length, next) => write(withMoreAt(draft.text, path, length, next)),
              }}
            >
              {Object.entries(rulebookPlaces().properties ?? {}).map(([name, place]) => (
                <Section key={name} name={name} faults={draft.faults}>
                  <SchemaField path={[name]} place={place} value={value[name]} named />
                </Section>
              ))}
            </FormContext.Provider>
          </fieldset>
        </section>
        <section aria-label="As text" className="flex min-h-0 flex-col pb-4">
          <div className="min-h-0 flex-1 overflow-hidden rounded-lg border border-edge-strong bg-slip">
            <JsonEditor
              text={draft.text}
              onChange={write}
              onCreated={(created) => {
                view.current = created
              }}
            />
          </div>
          <div className="mt-3">
            <TryOnCrate rulebook={draft.rulebook} crates={crates} onUse={(crate) => void use(crate)} />
          </div>
        </section>
      </div>
    </main>
  )
}

interface SectionProps {
  name: string
  faults: readonly DraftFault[]
  children: React.ReactNode
}

const plainOnes = ['id', 'title', 'version', 'summary']

/** A topic of the rulebook, folded; those of one line stand open. */
function Section({ name, faults, children }: SectionProps) {
  if (plainOnes.includes(name)) return <>{children}</>
  const wrong = faults.filter((fault) => isBelow(fault, [name])).length
  return (
    <details className="mt-2 rounded-lg border border-edge bg-slip px-3 py-1.5">
      <summary className="cursor-pointer font-semibold">
        {wordsOf(name)}
        {wrong > 0 && (
          <span className="ml-2 text-[13px] font-normal text-block">■ {plural(wrong, 'place')} to look at</span>
        )}
      </summary>
      {children}
    </details>
  )
}
