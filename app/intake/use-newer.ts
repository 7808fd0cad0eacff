import { useEffect, useRef, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { readPicked } from '../crate/file-drop'
import { tell, tellError } from '../ui/notify'
import { readNewer } from '../workers/clients'
import type { Newer } from '../workers/source-messages'

/** The part of the File System Access API that is used; only some browsers have it. */
interface FileHandle {
  name: string
  getFile: () => Promise<File>
}
type OpenFilePicker = (options: { multiple: false }) => Promise<FileHandle[]>

const openFilePicker = (): OpenFilePicker | null =>
  (globalThis as { showOpenFilePicker?: OpenFilePicker }).showOpenFilePicker ?? null

const LOOK_EVERY_MILLISECONDS = 2000

/**
 * Newer versions of an item's source: brought by hand, or seen in a file that is watched. What was found waits to be
 * accepted.
 */
export function useNewer(item: CrateItem) {
  const [found, setFound] = useState<Newer | null>(null)
  const [reading, setReading] = useState<string | null>(null)
  const [watched, setWatched] = useState<FileHandle | null>(null)
  const latest = useRef(item)
  useEffect(() => {
    latest.current = item
  }, [item])

  const read = async (files: readonly File[]): Promise<void> => {
    setReading('Reading…')
    try {
      setFound(
        await readNewer(latest.current, await readPicked(files), ({ fraction, doing }) =>
          setReading(`${Math.round(fraction * 100)} % ${doing}`),
        ),
      )
    } catch (error) {
      tellError(error)
    } finally {
      setReading(null)
    }
  }
  const readLatest = useRef(read)
  useEffect(() => {
    readLatest.current = read
  })

  useEffect(() => {
    if (!watched) return
    let last: number | null = null
    const look = async (): Promise<void> => {
      const file = await watched.getFile()
      if (last !== null && file.lastModified !== last) await readLatest.current([file])
      last = file.lastModified
    }
    const timer = setInterval(() => {
      look().catch((error: unknown) => {
        setWatched(null)
        tellError(error)
      })
    }, LOOK_EVERY_MILLISECONDS)
    return () => clearInterval(timer)
  }, [watched])

  return {
    found,
    reading,
    watched: watched?.name ?? null,
    canWatch: openFilePicker() !== null,
    bring: (files: FileList) => read([...files]),
    dismiss: () => setFound(null),
    /** Asks for the file once; from then on it is looked at every two seconds while this page is open. */
    watch: async (): Promise<void> => {
      if (watched) return setWatched(null)
      try {
        const [handle] = (await openFilePicker()?.({ multiple: false })) ?? []
        if (!handle) return
        setWatched(handle)
        tell(`${handle.name} is watched while this page is open. Save it again where it was made, and it is read anew.`)
      } catch (error) {
        if (!(error instanceof DOMException && error.name === 'AbortError')) tellError(error)
      }
    },
  }
}
