import { FilePlus, FolderOpen } from 'lucide-react'
import { useRef, useState } from 'react'
import { Link, useFetcher, useNavigate } from 'react-router'
import type { Crate } from '../../core/crate/schema'
import type { KeptCrate } from '../storage/crates'
import { formatAgo, formatBytes, plural } from '../ui/format'
import { tellError } from '../ui/notify'
import { TopBar } from '../ui/top-bar'
import { beginWith, openCrateFile } from '../workers/clients'
import { KindMark } from '../crate/kind-mark'
import type { ShelfIntent } from './intents'
import { NewCrateDialog } from './new-crate-dialog'
import { TwiceDialog } from './twice-dialog'

/** The stages of the job in a few words, for whoever comes here first. */
const way: readonly [string, string][] = [
  ['Intake', 'Bring the files; leave out what is not the model.'],
  ['Fit', 'The game’s axes, unit and size, beside its figure.'],
  ['Mesh', 'Faces outward, under the budget, with levels.'],
  ['Surface', 'Maps, names and tags the loader knows.'],
  ['Solids', 'Something to bump into, and a doorway left open.'],
  ['Motion', 'What moves keeps moving.'],
  ['Check', 'What the game would say, and what mends it.'],
  ['Pack', 'One archive with all it needs and nothing else.'],
  ['Trial', 'A stand-in loader reads the pack and shows it.'],
]

/** Every crate of this browser; new ones are begun or opened here. */
export function Shelf({ crates }: { crates: KeptCrate[] }) {
  const fetcher = useFetcher()
  const navigate = useNavigate()
  const [naming, setNaming] = useState(false)
  const [twice, setTwice] = useState<{ brought: Crate; kept: KeptCrate } | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const send = (intent: ShelfIntent): Promise<void> =>
    fetcher.submit(JSON.stringify(intent), { method: 'post', action: '/?index', encType: 'application/json' })

  const openFile = async (file: File | undefined): Promise<void> => {
    if (!file) return
    try {
      const crate = await openCrateFile(new Uint8Array(await file.arrayBuffer()), file.name)
      const kept = crates.find((each) => each.crate.id === crate.id)
      if (!kept) await send({ intent: 'add', crate, replaces: false })
      // A file that was saved from what stands there has nothing to ask.
      else if (JSON.stringify(kept.crate) === JSON.stringify(crate)) await navigate(`/crate/${crate.id}`)
      else setTwice({ brought: crate, kept })
    } catch (error) {
      tellError(error)
    }
  }

  return (
    <div className="flex min-h-full flex-col">
      <TopBar
        actions={
          <>
            <button type="button" className="button" onClick={() => picker.current?.click()}>
              <FolderOpen size={16} aria-hidden="true" /> Open a crate file
            </button>
            <button type="button" className="button-main" onClick={() => setNaming(true)}>
              New crate
            </button>
            <input
              ref={picker}
              type="file"
              accept=".zip"
              className="hidden"
              aria-label="Crate file"
              onChange={(event) =>
                void openFile(event.target.files?.[0]).finally(() => {
                  event.target.value = ''
                })
              }
            />
          </>
        }
      />
      <main className="mx-auto w-full max-w-5xl flex-1 px-8 py-10">
        <h1 className="text-[30px]">The shelf</h1>
        <p className="mt-1 max-w-2xl text-ink-2">
          A crate is one mod being built: bring meshes and textures, mend them until the game would take them, pack, and
          try the pack before you start the game. Everything stays in this browser and in the files you save.
        </p>
        <ul className="mt-8 grid grid-cols-2 gap-5">
          {crates.map((kept) => (
            <CrateCard
              key={kept.crate.id}
              kept={kept}
              onRemove={() => void send({ intent: 'remove', crate: kept.crate.id })}
            />
          ))}
          <li>
            <button
              type="button"
              onClick={() => setNaming(true)}
              className="grid h-full min-h-40 w-full place-items-center rounded-xl border border-dashed border-edge-strong text-ink-2 hover:border-spruce hover:bg-slip"
            >
              <span className="flex flex-col items-center gap-2">
                <FilePlus size={26} aria-hidden="true" />
                {crates.length === 0 ? 'Nothing here yet. Begin your first crate.' : 'Begin another crate'}
              </span>
            </button>
          </li>
        </ul>
        <section aria-labelledby="the-way" className="mt-12">
          <h2 id="the-way" className="text-[17px]">
            The way a model goes
          </h2>
          <ol className="mt-3 grid grid-cols-5 gap-x-6 gap-y-4 text-[13px]">
            {way.map(([title, what], index) => (
              <li key={title} className="border-t border-edge-strong pt-2">
                <b className="font-semibold">
                  <span className="num mr-1.5 text-ink-2">{index + 1}</span>
                  {title}
                </b>
                <span className="block text-ink-2">{what}</span>
              </li>
            ))}
          </ol>
        </section>
      </main>
      <TwiceDialog
        question={twice}
        onClose={() => setTwice(null)}
        onAnswer={(answer) => {
          if (!twice) return
          const { brought } = twice
          setTwice(null)
          void send(
            answer === 'replace'
              ? { intent: 'add', crate: brought, replaces: true }
              : {
                  intent: 'add',
                  crate: { ...brought, name: `${brought.name} (from a file)`.slice(0, 200) },
                  replaces: false,
                },
          )
        }}
      />
      <NewCrateDialog
        open={naming}
        onClose={() => setNaming(false)}
        onCreate={async (name, choice) => {
          try {
            const game = await beginWith(choice)
            setNaming(false)
            await send({ intent: 'new', name, game })
          } catch (error) {
            tellError(error)
          }
        }}
      />
    </div>
  )
}

function CrateCard({ kept: { crate, savedAt }, onRemove }: { kept: KeptCrate; onRemove: () => void }) {
  const [asking, setAsking] = useState(false)
  const bytes = crate.items.flatMap((item) => item.sources).reduce((sum, source) => sum + source.bytes, 0)
  return (
    <li className="relative flex min-h-40 flex-col rounded-xl border border-edge bg-slip p-5 shadow-[0_1px_0_var(--color-edge)] hover:border-spruce">
      <div className="absolute -top-px left-6 h-1.5 w-16 rounded-b bg-kraft" aria-hidden="true" />
      <h2 className="text-[20px]">
        <Link to={`/crate/${crate.id}`} className="after:absolute after:inset-0">
          {crate.name}
        </Link>
      </h2>
      <p className="text-ink-2">
        packs for {crate.rulebook.title} {crate.rulebook.version} · kept {formatAgo(savedAt, Date.now())}
      </p>
      <div className="mt-4 flex gap-2">
        {crate.items.slice(0, 9).map((item) => (
          <span key={item.id} title={`${item.name}, ${item.kind}`}>
            <KindMark kind={item.kind} />
          </span>
        ))}
      </div>
      <div className="mt-auto flex items-end justify-between pt-4 text-[13px]">
        <span className="num text-ink-2">
          {plural(crate.items.length, 'item')} · {formatBytes(bytes)} of sources
        </span>
        <span className="relative z-10 flex gap-2">
          {asking && (
            <button type="button" className="button" onClick={() => setAsking(false)}>
              Keep it
            </button>
          )}
          <button type="button" className="button" onClick={() => (asking ? onRemove() : setAsking(true))}>
            {asking ? 'Remove for good' : 'Remove'}
          </button>
        </span>
      </div>
    </li>
  )
}
