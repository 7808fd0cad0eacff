import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { Crate } from '../../core/crate/schema'
import type { KeptCrate } from '../storage/stored-crate'
import { tell, tellError } from '../ui/notify'
import { beginWith, openCrateFile, type BroughtFile } from '../workers/clients'
import type { GameChoice } from '../workers/source-messages'
import type { WantsGame } from './game-dialog'
import type { ShelfIntent } from './intents'
import type { TwiceAnswer } from './twice-dialog'

/** The files of a folder that a repository keeps a crate in. */
export interface FolderOfCrate {
  name: string
  files: BroughtFile[]
}

/** The crate folder that files were dropped as; null where they are something else. */
export function folderOfCrate(files: BroughtFile[]): FolderOfCrate | null {
  const [description] = files.filter(({ path }) => /^(?:[^/]+\/)?crate\.json$/.test(path))
  return description && files.length > 1 ? { name: description.path.split('/')[0], files } : null
}

/** What a crate file asks before it stands on the shelf. */
type Question =
  | { of: 'twice'; brought: Crate; kept: KeptCrate }
  | ({ of: 'game'; answer: (choice: GameChoice) => Promise<void> } & WantsGame)

/** Opens crate files, with what has to be asked: a game for one without, what becomes of one that is there already. */
export function useOpenFile(crates: readonly KeptCrate[], send: (intent: ShelfIntent) => Promise<void>) {
  const navigate = useNavigate()
  const [question, setQuestion] = useState<Question | null>(null)

  const place = async (crate: Crate): Promise<void> => {
    const kept = crates.find((each) => each.crate.id === crate.id)
    if (!kept) return send({ intent: 'add', crate, replaces: false })
    // A file that was saved from what stands there has nothing to ask.
    if (JSON.stringify(kept.crate) === JSON.stringify(crate)) return navigate(`/crate/${crate.id}`)
    setQuestion({ of: 'twice', brought: crate, kept })
  }

  const open = async (file: File | FolderOfCrate, choice: GameChoice | null): Promise<void> => {
    const game = choice && (await beginWith(choice))
    const given = 'files' in file ? file.files : new Uint8Array(await file.arrayBuffer())
    const opened = await openCrateFile(given, file.name, game)
    if ('wantsGame' in opened)
      return setQuestion({
        of: 'game',
        name: file.name,
        reason: opened.wantsGame,
        answer: async (given) => {
          setQuestion(null)
          await open(file, given)
        },
      })
    for (const loss of opened.losses) tell(`${file.name}: ${loss}.`)
    await place(opened.crate)
  }

  return {
    question,
    leave: () => setQuestion(null),
    openFile: (file: File | FolderOfCrate): Promise<void> => open(file, null).catch(tellError),
    answerTwice: async (brought: Crate, answer: TwiceAnswer): Promise<void> => {
      setQuestion(null)
      const name = `${brought.name} (from a file)`.slice(0, 200)
      await send(
        answer === 'replace'
          ? { intent: 'add', crate: brought, replaces: true }
          : { intent: 'add', crate: { ...brought, name }, replaces: false },
      )
    },
  }
}
