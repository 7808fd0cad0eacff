import { useRef, useState } from 'react'
import { withSlots } from '../../core/crate/slots'
import { newCrate } from '../../core/crate/schema'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { builtInRulebooks } from '../../core/game/load'
import { tell, tellError, tellRefused } from '../ui/notify'
import { beginWith, bringIn, type BroughtFile } from '../workers/clients'
import type { Guess } from '../workers/source-messages'
import type { GameChoice } from '../workers/source-messages'
import { nameOfFiles } from './name-of-files'
import { folderOfCrate, type FolderOfCrate } from './use-open-file'
import type { ShelfIntent } from './intents'

/** Something that was dropped on the shelf and is about to begin a crate. */
export interface Beginning {
  /** Name of the mod as far as the files tell it. */
  name: string
  /** Null while the files are read. */
  read: { game: Game; items: CrateItem[]; guesses: Guess[] } | null
  progress: { fraction: number; doing: string }
}

/** Begins a crate with files: reads them, asks for game and kind, and puts the crate on the shelf. */
export function useBeginWith(
  send: (intent: ShelfIntent) => Promise<void>,
  openCrate: (file: File | FolderOfCrate) => Promise<void>,
): {
  beginning: Beginning | null
  begin: (gather: Promise<BroughtFile[]>) => Promise<void>
  chooseGame: (choice: GameChoice) => Promise<void>
  finish: (name: string, kinds: Readonly<Record<string, string>>) => Promise<void>
  leave: () => void
} {
  const [beginning, setBeginning] = useState<Beginning | null>(null)
  const files = useRef<BroughtFile[]>([])
  const stopping = useRef(new AbortController())

  const leave = (): void => {
    stopping.current.abort()
    files.current = []
    setBeginning(null)
  }

  const read = async (name: string, choice: GameChoice): Promise<void> => {
    stopping.current.abort()
    const { signal } = (stopping.current = new AbortController())
    setBeginning({ name, read: null, progress: { fraction: 0, doing: 'Opening the files' } })
    try {
      const game = await beginWith(choice)
      // What is handed to the worker is gone here, and another game may be chosen yet.
      const handed = files.current.map(({ path, bytes }) => ({ path, bytes: bytes.slice() }))
      const { items, guesses, contents, refused } = await bringIn(
        handed,
        null,
        {},
        [],
        game,
        { presets: [], split: false },
        (progress) => setBeginning((present) => present && { ...present, progress }),
        signal,
      )
      if (contents) {
        const [{ path, bytes }] = files.current
        leave()
        if (contents.kind === 'crate') return await openCrate(new File([bytes as Uint8Array<ArrayBuffer>], path))
        return tell(`${contents.title} is a pack: open a crate and bring it there.`)
      }
      if (refused.length > 0) tellRefused(refused)
      setBeginning({ name, read: { game, items, guesses }, progress: { fraction: 1, doing: '' } })
    } catch (error) {
      // Whoever left, or chose another game, has nothing to be told.
      if (signal.aborted) return
      leave()
      tellError(error)
    }
  }

  return {
    beginning,
    leave,
    begin: async (gather) => {
      try {
        files.current = await gather
      } catch (error) {
        return tellError(error)
      }
      const folder = folderOfCrate(files.current)
      if (folder) {
        files.current = []
        return openCrate(folder)
      }
      if (files.current.length > 0)
        await read(nameOfFiles(files.current.map(({ path }) => path)), { id: builtInRulebooks()[0].id })
    },
    chooseGame: (choice) => read(beginning?.name ?? '', choice),
    finish: async (name, kinds) => {
      if (!beginning?.read) return
      const { game, items } = beginning.read
      const crate = newCrate(name, game, [])
      await send({
        intent: 'begin',
        crate: withSlots({
          ...crate,
          items: items.map((item) => {
            const kind = kinds[item.id] ?? item.kind
            // Of several, each kind was only guessed.
            return items.length > 1 ? { ...item, kind } : { ...item, kind, answers: { kind } }
          }),
        }),
      })
      leave()
    },
  }
}
