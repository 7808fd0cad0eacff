import { Download, Pencil, Trash2, Upload } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { builtInRulebooks } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import { plural } from '../../core/support/wording'
import { useOwnRulebooks, useRulebooksChanged } from '../queries/rulebook-queries'
import { removeRulebook, type OwnRulebook } from '../storage/rulebooks'
import { formatAgo } from '../ui/format'
import { tell, tellError } from '../ui/notify'
import { useFilePicker } from '../ui/use-file-picker'
import { StatusMark } from '../ui/status-mark'
import { readPicked } from '../crate/file-drop'
import { giveStock, keepRulebook } from '../workers/clients'
import { saveRulebook } from './save-rulebook'
import { StartDialog } from './start-dialog'

/** Every rulebook at hand: those of the modder, and those that ship. */
export function RulebooksScreen() {
  const own = useOwnRulebooks()
  const changed = useRulebooksChanged()
  const [from, setFrom] = useState<Rulebook | null>(null)
  const bring = async (files: File[]): Promise<void> => {
    try {
      for (const file of files) await keepRulebook(new Uint8Array(await file.arrayBuffer()), file.name)
      await changed()
    } catch (error) {
      tellError(error)
    }
  }
  const picker = useFilePicker('Rulebook file', '.json,.zip', bring)
  const remove = async (key: string): Promise<void> => {
    await removeRulebook(key)
    await changed()
    tell('The rulebook is gone. Crates that carry it keep it.')
  }
  return (
    <main className="mx-auto w-full max-w-5xl px-8 py-8">
      <div className="flex items-center gap-4">
        <h1 className="flex-1 text-[28px]">Rulebooks</h1>
        <Link className="button" to="/rulebooks/learn">
          Learn one from files
        </Link>
        <button type="button" className="button" onClick={picker.open}>
          <Upload size={16} aria-hidden="true" /> Bring a rulebook file
        </button>
        {picker.input}
      </div>
      <p className="mt-1 max-w-[68ch] text-ink-2">
        A rulebook is all that one game demands, as data: whoever has the file makes things for the same game.
      </p>
      <section aria-labelledby="own-rulebooks" className="mt-6">
        <h2 id="own-rulebooks" className="text-[19px]">
          Your own
        </h2>
        {own.length === 0 && (
          <p className="mt-2 rounded-xl border border-dashed border-edge-strong p-6 text-ink-2">
            None yet. Start one from the game below that is nearest to yours, or bring a file that somebody shared.
          </p>
        )}
        <ul>
          {own.map((each) => (
            <OwnLine key={each.key} own={each} onStart={setFrom} onRemove={() => void remove(each.key)} />
          ))}
        </ul>
      </section>
      <section aria-labelledby="built-in-rulebooks" className="mt-8">
        <h2 id="built-in-rulebooks" className="text-[19px]">
          They ship with the program
        </h2>
        <ul>
          {builtInRulebooks().map((rulebook) => (
            <li key={rulebook.id} className="flex items-center gap-4 border-b border-dashed border-edge py-3">
              <div className="min-w-0 flex-1">
                <Link className="link font-semibold" to={`/rulebooks/${rulebook.id}`}>
                  {rulebook.title}
                </Link>{' '}
                <Facts rulebook={rulebook} />
                <p className="text-[13.5px] text-ink-2">{rulebook.summary}</p>
              </div>
              <button type="button" className="button" onClick={() => setFrom(rulebook)}>
                Start from it
              </button>
              <SaveButton choice={{ id: rulebook.id }} name={rulebook.id} title={rulebook.title} />
            </li>
          ))}
        </ul>
      </section>
      <StartDialog key={from?.id} from={from} onClose={() => setFrom(null)} />
    </main>
  )
}

interface OwnLineProps {
  own: OwnRulebook
  onStart: (rulebook: Rulebook) => void
  onRemove: () => void
}

function OwnLine({ own: { key, rulebook, fault, savedAt }, onStart, onRemove }: OwnLineProps) {
  const title = rulebook?.title ?? key
  return (
    <li className="flex items-center gap-3 border-b border-dashed border-edge py-3">
      <div className="min-w-0 flex-1">
        <Link className="link font-semibold" to={rulebook ? `/rulebooks/${key}` : `/rulebooks/${key}/edit`}>
          {title}
        </Link>{' '}
        {rulebook && <Facts rulebook={rulebook} />}
        <p className="text-[13.5px] text-ink-2">
          {fault === null ? (
            <>Changed {formatAgo(savedAt, Date.now())}. </>
          ) : (
            <span className="flex items-center gap-1.5">
              <StatusMark status="blocks" size={12} /> {fault}
            </span>
          )}
        </p>
      </div>
      <Link className="button" to={`/rulebooks/${key}/edit`} aria-label={`Edit ${title}`}>
        <Pencil size={15} aria-hidden="true" /> Edit
      </Link>
      {rulebook && (
        <>
          <GiveStock own={key} title={title} />
          <button type="button" className="button" onClick={() => onStart(rulebook)}>
            Start from it
          </button>
          <SaveButton choice={{ own: key }} name={key} title={title} />
        </>
      )}
      <button type="button" className="button px-2" aria-label={`Remove ${title}`} onClick={onRemove}>
        <Trash2 size={16} aria-hidden="true" />
      </button>
    </li>
  )
}

/** Puts files into what a game has in stock. */
function GiveStock({ own, title }: { own: string; title: string }) {
  const changed = useRulebooksChanged()
  const give = async (files: File[]): Promise<void> => {
    try {
      const { objects, textures, donors, skeletons } = await giveStock(own, await readPicked(files))
      await changed()
      tell(
        `${title} has ${plural(objects, 'object')}, ${plural(textures, 'texture')}, ${plural(donors, 'donor')} ` +
          `and ${plural(skeletons, 'skeleton')} more in stock.`,
      )
    } catch (error) {
      tellError(error)
    }
  }
  const picker = useFilePicker(`Stock of ${title}`, undefined, give)
  return (
    <>
      <button
        type="button"
        className="button"
        title="Official objects, skeletons, textures, donors: meshes, pictures, packs of the game, a donors.json"
        onClick={picker.open}
      >
        Give it stock
      </button>
      {picker.input}
    </>
  )
}

const Facts = ({ rulebook: { version, kinds, files } }: { rulebook: Rulebook }) => (
  <span className="num text-[13px] text-ink-2">
    {version} · {plural(kinds.length, 'kind')} · {files.mesh.writer.toUpperCase()}
  </span>
)

interface SaveButtonProps {
  choice: Parameters<typeof saveRulebook>[0]
  name: string
  title: string
}

const SaveButton = ({ choice, name, title }: SaveButtonProps) => (
  <button
    type="button"
    className="button px-2"
    aria-label={`Save ${title} as a file`}
    onClick={() => void saveRulebook(choice, name)}
  >
    <Download size={16} aria-hidden="true" />
  </button>
)
