import { BookOpen, FilePlus, FolderOpen, Upload } from 'lucide-react'
import { useRef, useState } from 'react'
import { Link, useFetcher, useRevalidator } from 'react-router'
import type { Shelved } from '../storage/crates'
import type { DamagedCrate } from '../storage/stored-crate'
import { askForLasting, type Usage } from '../storage/usage'
import { tell, tellError } from '../ui/notify'
import { TopBar } from '../ui/top-bar'
import { beginWith } from '../workers/clients'
import { readDropped, readPicked } from '../crate/file-drop'
import { BeginDialog } from './begin-dialog'
import { CrateCard } from './crate-card'
import { DamagedCard } from './damaged-card'
import { GameDialog } from './game-dialog'
import type { ShelfIntent } from './intents'
import { KeptHere } from './kept-here'
import { NewCrateDialog } from './new-crate-dialog'
import { TwiceDialog } from './twice-dialog'
import { useOpenFile } from './use-open-file'
import { useBeginWith } from './use-begin-with'
import { WayOfAModel } from './way-of-a-model'

/** Every crate of this browser; new ones are begun or opened here. */
export function Shelf({ shelf: { crates, damaged, removed }, usage }: { shelf: Shelved; usage: Usage }) {
  const fetcher = useFetcher()
  const { revalidate } = useRevalidator()
  const [naming, setNaming] = useState(false)
  const [wanting, setWanting] = useState<DamagedCrate | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const send = (intent: ShelfIntent): Promise<void> =>
    fetcher.submit(JSON.stringify(intent), { method: 'post', action: '/?index', encType: 'application/json' })
  const { question, leave, openFile, answerTwice } = useOpenFile(crates, send)

  const { beginning, begin, chooseGame, finish, leave: leaveBeginning } = useBeginWith(send, openFile)
  const models = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)

  const lasting = async (): Promise<void> => {
    if (!(await askForLasting())) tell('The browser did not promise it; save crates as files now and then.')
    await revalidate()
  }

  return (
    <div
      className="flex min-h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        void begin(readDropped(event.dataTransfer.items))
      }}
    >
      <TopBar
        actions={
          <>
            <Link to="/rulebooks" className="button">
              <BookOpen size={16} aria-hidden="true" /> Rulebooks
            </Link>
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
              onChange={({ target }) => {
                const file = target.files?.[0]
                if (file)
                  void openFile(file).finally(() => {
                    target.value = ''
                  })
              }}
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
        <section
          aria-label="Begin with a model"
          className={
            'mt-6 flex items-center gap-4 rounded-xl border border-dashed p-5 ' +
            `${over ? 'border-spruce bg-spruce-wash' : 'border-edge-strong bg-slip'}`
          }
        >
          <Upload size={26} className="shrink-0 text-spruce" aria-hidden="true" />
          <div className="min-w-0 flex-1">
            <h2 className="text-[17px]">Drop a model anywhere here</h2>
            <p className="text-[13px] text-ink-2">
              GLB, glTF, FBX, OBJ, DAE, 3DS, STL or PLY with its textures, as files, folder or ZIP. It is read, prepared
              for the game you choose, and shown beside what it was. A crate file opens.
            </p>
          </div>
          <button type="button" className="button-main" onClick={() => models.current?.click()}>
            Choose files
          </button>
          <input
            ref={models}
            type="file"
            multiple
            className="hidden"
            aria-label="Meshes and textures"
            onChange={({ target }) => {
              if (target.files)
                void begin(readPicked(target.files)).finally(() => {
                  target.value = ''
                })
            }}
          />
        </section>
        <ul className="mt-6 grid grid-cols-2 gap-5">
          {damaged.map((crate) => (
            <DamagedCard
              key={crate.id}
              crate={crate}
              onGiveGame={() => setWanting(crate)}
              onRemove={() => void send({ intent: 'remove', crate: crate.id })}
            />
          ))}
          {crates.map((kept) => (
            <CrateCard
              key={kept.crate.id}
              kept={kept}
              bytes={usage.crates[kept.crate.id] ?? 0}
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
        <WayOfAModel />
        <KeptHere
          usage={usage}
          removed={removed}
          onBringBack={(crate) => void send({ intent: 'bring-back', crate })}
          onErase={(crate) => void send({ intent: 'erase', crate })}
          onClean={() => void send({ intent: 'clean' })}
          onAskForLasting={() => void lasting()}
        />
        <footer className="mt-12 border-t border-edge pt-3 text-[13px] text-ink-2">
          Works without a network after the first visit; nothing leaves this browser.{' '}
          <Link className="link" to="/licences">
            Licences
          </Link>
        </footer>
      </main>
      <TwiceDialog
        question={question?.of === 'twice' ? question : null}
        onClose={leave}
        onAnswer={(answer) => {
          if (question?.of === 'twice') void answerTwice(question.brought, answer)
        }}
      />
      <GameDialog
        question={question?.of === 'game' ? question : wanting}
        onClose={() => {
          leave()
          setWanting(null)
        }}
        onAnswer={async (choice) => {
          if (question?.of === 'game') return question.answer(choice)
          if (!wanting) return
          const game = await beginWith(choice)
          setWanting(null)
          await send({ intent: 'give-game', crate: wanting.id, game })
        }}
      />
      <BeginDialog
        beginning={beginning}
        onGame={(choice) => void chooseGame(choice)}
        onBegin={(name, kinds) => void finish(name, kinds).catch(tellError)}
        onClose={leaveBeginning}
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
