import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { ChevronDown, Download } from 'lucide-react'
import { readPicked } from '../crate/file-drop'
import { useCrate } from '../crate/use-crate'
import type { PackFacts } from '../storage/database'
import { getPackBytes } from '../storage/packs'
import { download } from '../ui/download'
import { plural } from '../ui/format'
import { useFilePicker } from '../ui/use-file-picker'
import { tell, tellError } from '../ui/notify'
import { packEach, packPart } from '../workers/clients'
import type { PartWish } from '../workers/pack-messages'

/** Saves the pack as it is, or a part of it: one item, or what an earlier pack does not have. */
export function SaveMenu({ pack, fileName }: { pack: PackFacts; fileName: string }) {
  const { crate, rulebook } = useCrate()
  const stem = fileName.replace(/\.zip$/, '')
  const items = pack.head?.items ?? []

  const saveWhole = async (): Promise<void> => {
    const bytes = await getPackBytes(crate.id)
    if (bytes) download(bytes, fileName, 'application/zip')
  }
  const savePart = async (wish: PartWish, name: string): Promise<void> => {
    try {
      const { bytes, files, leftOut } = await packPart(crate.id, rulebook, wish)
      download(bytes, name, 'application/zip')
      tell(`${name} has ${plural(files, 'file')}; ${plural(leftOut, 'file')} stayed out.`)
    } catch (error) {
      tellError(error)
    }
  }
  const saveEach = async (): Promise<void> => {
    try {
      const { bytes, files } = await packEach(crate.id, rulebook)
      download(bytes, `${stem}-each.zip`, 'application/zip')
      tell(`${plural(files, 'pack')}, called like their items, in one archive: unpack it first.`)
    } catch (error) {
      tellError(error)
    }
  }
  const savePatch = async (files: File[]): Promise<void> => {
    const over = (await readPicked(files)).map(({ path, bytes }) => ({ name: path, bytes }))
    await savePart({ over }, `${stem}-patch.zip`)
  }
  const earlier = useFilePicker('The pack that was given out', '.zip', savePatch)
  return (
    <div className="flex">
      <button type="button" className="button rounded-r-none" onClick={() => void saveWhole()}>
        <Download size={16} aria-hidden="true" /> Download
      </button>
      {items.length > 0 && (
        <Menu>
          <MenuButton className="button rounded-l-none border-l-0 px-1.5" aria-label="Download a part of it">
            <ChevronDown size={16} aria-hidden="true" />
          </MenuButton>
          <MenuItems
            anchor="bottom end"
            className="z-50 max-h-[60vh] w-[300px] overflow-y-auto rounded-lg border border-edge-strong bg-slip p-1 shadow-lg"
          >
            <MenuItem>
              <button
                type="button"
                className="w-full rounded px-3 py-1.5 text-left data-focus:bg-paper"
                onClick={earlier.open}
              >
                What an earlier pack does not have…
                <span className="block text-[12.5px] text-ink-2">A patch: choose the pack that was given out.</span>
              </button>
            </MenuItem>
            {items.length > 1 && (
              <MenuItem>
                <button
                  type="button"
                  className="w-full rounded px-3 py-1.5 text-left data-focus:bg-paper"
                  onClick={() => void saveEach()}
                >
                  One pack for each item
                  <span className="block text-[12.5px] text-ink-2">{items.length} packs in one archive.</span>
                </button>
              </MenuItem>
            )}
            {items.length > 1 &&
              items.map(({ name }) => (
                <MenuItem key={name}>
                  <button
                    type="button"
                    className="w-full rounded px-3 py-1.5 text-left data-focus:bg-paper"
                    onClick={() => void savePart({ items: [name] }, `${stem}-${name}.zip`)}
                  >
                    <span className="num">{name}</span> alone
                  </button>
                </MenuItem>
              ))}
          </MenuItems>
        </Menu>
      )}
      {earlier.input}
    </div>
  )
}
