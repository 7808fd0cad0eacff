import { Upload } from 'lucide-react'
import { useRef, useState, type DragEvent } from 'react'
import { useNavigate } from 'react-router'
import { lengthUnits } from '../../core/item/units'
import { axisNameSchema } from '../../core/maths/axes'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { readDropped, readPicked } from '../crate/file-drop'
import { tell, tellError, tellRefused } from '../ui/notify'
import { plural } from '../ui/format'
import { ProgressStrip } from '../ui/progress-strip'
import { bringIn, takeOut, takeStock, type BroughtFile } from '../workers/clients'
import type { ArchiveContents } from '../workers/source-messages'
import { ContentsDialog } from './contents-dialog'

/** The same file twice is allowed, but seldom meant. */
function tellDoubles(brought: readonly CrateItem[], present: readonly CrateItem[]): void {
  const mainOf = (item: CrateItem): string | undefined =>
    item.sources.find((source) => source.path === item.main)?.sha256
  for (const item of brought) {
    const double = present.find((each) => mainOf(each) === mainOf(item))
    if (double) tell(`${item.name} is the same file as ${double.name}, brought a second time.`)
  }
}

/** Which presets the names of several files fitted. */
function tellPresets(by: readonly (string | null)[]): void {
  const counts = new Map<string, number>()
  for (const title of by) if (title !== null) counts.set(title, (counts.get(title) ?? 0) + 1)
  if (counts.size > 0)
    tell([...counts].map(([title, count]) => `${plural(count, 'item')} by “${title}”`).join(', ') + '.')
}

/** Where files are dropped or picked: a mesh with its textures, several at once, whole folders. */
export function BringIn({ empty }: { empty: boolean }) {
  const { crate, rulebook, game, send } = useCrate()
  const navigate = useNavigate()
  const picker = useRef<HTMLInputElement>(null)
  const stopping = useRef(new AbortController())
  const [over, setOver] = useState(false)
  const [reading, setReading] = useState<{ fraction: number; doing: string } | null>(null)
  const [contents, setContents] = useState<ArchiveContents | null>(null)
  const [kind, setKind] = useState('')
  const [unit, setUnit] = useState('')
  const [up, setUp] = useState('')
  const [split, setSplit] = useState(false)

  const taken = crate.items.map((item) => item.id)
  const add = async (items: CrateItem[]): Promise<void> => {
    await send({ do: 'add-items', items })
    if (items.length === 1) await navigate(`/crate/${crate.id}/item/${items[0].id}?stage=intake`)
  }
  const bring = async (gather: Promise<BroughtFile[]>): Promise<void> => {
    setReading({ fraction: 0, doing: 'Opening the files' })
    const { signal } = (stopping.current = new AbortController())
    try {
      const files = await gather
      if (files.length === 0) return
      const chosenUp = axisNameSchema.safeParse(up)
      const options = {
        models: rulebook.kinds.find((each) => each.id === kind)?.models,
        metresPerUnit: unit === '' ? undefined : Number(unit),
        up: chosenUp.success ? chosenUp.data : undefined,
      }
      const how = { presets: crate.presets ?? [], split }
      const brought = await bringIn(files, kind || null, options, taken, game, how, setReading, signal)
      // From here on it is kept: there is nothing left to stop.
      setReading(null)
      setContents(brought.contents)
      tellDoubles(brought.items, crate.items)
      if (brought.refused.length > 0) tellRefused(brought.refused)
      tellPresets(brought.by)
      if (brought.items.length > 0) await add(brought.items)
    } catch (error) {
      tellError(error)
    } finally {
      // After Stop, another reading may have begun.
      if (!signal.aborted) setReading(null)
    }
  }

  const drop = (event: DragEvent): void => {
    event.preventDefault()
    setOver(false)
    void bring(readDropped(event.dataTransfer.items))
  }

  return (
    <section
      aria-label="Bring in files"
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={
        `shrink-0 rounded-xl border border-dashed px-5 ${empty ? 'py-5' : 'py-3'} ` +
        `${over ? 'border-spruce bg-spruce-wash' : 'border-edge-strong bg-slip'}`
      }
    >
      <div className="flex items-center gap-4">
        <Upload size={26} className="shrink-0 text-spruce" aria-hidden="true" />
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px]">{empty ? 'Bring the first items' : 'Bring more items'}</h2>
          <p className="text-[13px] text-ink-2">
            {empty
              ? 'Drop GLB, glTF, FBX, OBJ, DAE, 3DS, STL or PLY with textures of any usual kind; folders, ZIPs, ' +
                'our own packs and crate files too.'
              : 'Drop meshes with their textures, pictures, folders, ZIPs, packs or crate files: as many as you like.'}
          </p>
        </div>
        {reading === null ? (
          <button type="button" className="button-main" onClick={() => picker.current?.click()}>
            Choose files
          </button>
        ) : (
          <div className="w-[340px]">
            <ProgressStrip
              title="Reading"
              doing={reading.doing}
              fraction={reading.fraction}
              of="of the files"
              onStop={() => {
                stopping.current.abort()
                setReading(null)
              }}
            />
          </div>
        )}
        <input
          ref={picker}
          type="file"
          multiple
          className="hidden"
          aria-label="Meshes and textures"
          onChange={(event) => {
            if (event.target.files)
              void bring(readPicked(event.target.files)).finally(() => {
                event.target.value = ''
              })
          }}
        />
      </div>
      <div className="mt-2.5 flex flex-wrap gap-x-4 gap-y-2 text-[13px]">
        <label className="flex items-center gap-2">
          It becomes
          <select className="field" value={kind} onChange={(event) => setKind(event.target.value)}>
            <option value="">what it looks like</option>
            {rulebook.kinds.map((each) => (
              <option key={each.id} value={each.id}>
                {each.title.toLowerCase()}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          One unit is
          <select className="field" value={unit} onChange={(event) => setUnit(event.target.value)}>
            <option value="">as the file says</option>
            {lengthUnits.map((each) => (
              <option key={each.id} value={each.metres}>
                1 {each.id}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          Up is
          <select className="field" value={up} onChange={(event) => setUp(event.target.value)}>
            <option value="">as the file says</option>
            {['+y', '+z', '-z', '-y', '+x', '-x'].map((axis) => (
              <option key={axis} value={axis}>
                {axis.toUpperCase()}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={split} onChange={(event) => setSplit(event.target.checked)} />
          Split scenes into items
        </label>
        {rulebook.stock.objects.length > 0 && (
          <label className="flex items-center gap-2">
            <span className="sr-only">Or from the game</span>
            <select
              className="field w-[150px]"
              value=""
              onChange={(event) =>
                void takeStock(game, event.target.value, taken)
                  .then((item) => add([item]))
                  .catch(tellError)
              }
            >
              <option value="">or a stock object…</option>
              {rulebook.stock.objects.map((object) => (
                <option key={object.id} value={object.id}>
                  {object.title}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <ContentsDialog
        contents={contents}
        onClose={() => setContents(null)}
        onTake={(items, textures) => takeOut(items, textures, kind || rulebook.kinds[0].id, taken).then(add)}
      />
    </section>
  )
}
