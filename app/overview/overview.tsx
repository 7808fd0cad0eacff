import { useEffect, useState } from 'react'
import { requestRuns } from '../queries/crate-runs'
import { useCrate } from '../crate/use-crate'
import { Fleet } from '../fleet/fleet'
import { download } from '../ui/download'
import { tell, tellError } from '../ui/notify'
import { saveCrateFile } from '../workers/clients'
import { BringIn } from './bring-in'
import { RoomInPack } from './room-in-pack'
import { SetAside } from './set-aside'

/** The whole crate: its items with gauges and findings, and what takes room in the pack. */
export function Overview() {
  const { crate, game, asides } = useCrate()
  const [saving, setSaving] = useState(false)
  useEffect(() => {
    requestRuns(crate, game)
  }, [crate, game])

  const save = async (as: 'file' | 'folder'): Promise<void> => {
    setSaving(true)
    try {
      const { file, lost } = await saveCrateFile(crate, as)
      download(file, as === 'file' ? `${crate.id}.crate.zip` : `${crate.id}.folder.zip`, 'application/zip')
      for (const path of lost) tell(`${path} is gone or damaged, and not in the file: bring it again.`)
    } catch (error) {
      tellError(error)
    } finally {
      setSaving(false)
    }
  }

  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-hidden">
      <div className="mx-auto flex min-h-0 w-full max-w-[1500px] flex-1 flex-col gap-3 px-8 py-5">
        <div className="flex items-baseline justify-between">
          <h1 className="text-[26px]">{crate.name}</h1>
          <span className="flex gap-2">
            <button type="button" className="button" onClick={() => void save('file')} disabled={saving}>
              {saving ? 'Saving…' : 'Save the crate file'}
            </button>
            <button
              type="button"
              className="button"
              title="A file an item, sources beside it: unpack it where a repository keeps it"
              onClick={() => void save('folder')}
              disabled={saving}
            >
              Save as a folder
            </button>
          </span>
        </div>
        <SetAside crate={crate.id} asides={asides} />
        <Fleet
          under={<BringIn empty={crate.items.length === 0} />}
          beside={
            <section aria-labelledby="room-in-pack">
              <h2 id="room-in-pack" className="mb-1.5 text-[17px]">
                What takes room in the pack
              </h2>
              <RoomInPack />
            </section>
          }
        />
      </div>
    </main>
  )
}
