import { useState } from 'react'
import type { PathRow } from '../../core/crate/path-row'
import { rebase, rebaseCommands, writtenFolders } from '../../core/crate/rebase'
import { readPicked } from '../crate/file-drop'
import { useCrate } from '../crate/use-crate'
import { plural } from '../ui/format'
import { tell, tellError } from '../ui/notify'
import { bringImages } from '../workers/clients'

/** Leads all paths that begin with a folder of someone's disk to pictures that lie elsewhere, in all items at once. */
export function RebaseBar({ rows }: { rows: readonly PathRow[] }) {
  const { send } = useCrate()
  const folders = writtenFolders(rows)
  const [chosen, setChosen] = useState('')
  const from = chosen === '' ? (folders.at(0)?.folder ?? '') : chosen
  if (folders.length === 0) return null

  const lead = async (picked: FileList): Promise<void> => {
    // Of a whole folder only what is asked for is read.
    const named = [...picked].map((file) => ({ path: file.webkitRelativePath || file.name, file }))
    const wanted = new Set(rebase(rows, from, named).map(({ file: { file } }) => file))
    if (wanted.size === 0) return tell(`None of these pictures is called like what lies under ${from}.`)
    const commands = rebaseCommands(rows, from, await bringImages(await readPicked([...wanted])))
    const count = commands.filter((command) => command.do === 'link-texture').length
    if (count > 0 && (await send({ do: 'several', commands })))
      tell(`${plural(count, 'path')} led to the new folder. Undo takes it back.`)
  }

  return (
    <div className="flex flex-wrap items-center gap-2 rounded-lg border border-edge-strong bg-slip px-3 py-2 text-[13px]">
      <label className="flex min-w-0 items-center gap-2">
        Written paths that begin with
        <select
          className="field num max-w-[420px] text-[12px]"
          value={from}
          onChange={(event) => setChosen(event.target.value)}
        >
          {folders.map(({ folder, count }) => (
            <option key={folder} value={folder}>
              {folder} ({count})
            </option>
          ))}
        </select>
      </label>
      <label className="button cursor-pointer focus-within:outline-2">
        lie in another folder…
        <input
          type="file"
          multiple
          className="sr-only"
          aria-label="The folder that the pictures lie in"
          {...{ webkitdirectory: '' }}
          onChange={(event) => {
            const { files } = event.target
            if (files && files.length > 0)
              void lead(files)
                .catch(tellError)
                .finally(() => {
                  event.target.value = ''
                })
          }}
        />
      </label>
    </div>
  )
}
