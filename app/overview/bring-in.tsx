import { Upload } from 'lucide-react'
import { useRef, useState, type DragEvent } from 'react'
import { useNavigate } from 'react-router'
import { lengthUnits } from '../../core/document/units'
import { axisNameSchema } from '../../core/document/extras'
import { useCrate } from '../crate/use-crate'
import { readDropped, readPicked } from '../ui/file-drop'
import { tellError } from '../ui/notify'
import { bringIn, stopIntake, type BroughtFile } from '../workers/clients'

/** Where files are dropped or picked: a mesh with its textures, several at once, whole folders. */
export function BringIn({ empty }: { empty: boolean }) {
  const { crate, rulebook, send } = useCrate()
  const navigate = useNavigate()
  const picker = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const [reading, setReading] = useState<string | null>(null)
  const [kind, setKind] = useState(rulebook.kinds[0].id)
  const [unit, setUnit] = useState('')
  const [up, setUp] = useState('')

  const bring = async (gather: Promise<BroughtFile[]>): Promise<void> => {
    setReading('the files')
    try {
      const files = await gather
      if (files.length === 0) return
      setReading(files.length === 1 ? files[0].path : `${files.length} files`)
      const chosenUp = axisNameSchema.safeParse(up)
      const options = { metresPerUnit: unit === '' ? undefined : Number(unit), up: chosenUp.success ? chosenUp.data : undefined }
      const items = await bringIn(files, kind, options, crate.items.map((item) => item.id))
      await send({ do: 'add-items', items })
      if (items.length === 1) await navigate(`/crate/${crate.id}/item/${items[0].id}?stage=intake`)
    } catch (error) {
      tellError(error)
    } finally {
      setReading(null)
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
      onDragOver={(event) => { event.preventDefault(); setOver(true) }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`mt-5 rounded-xl border border-dashed p-5 ${over ? 'border-spruce bg-spruce-wash' : 'border-edge-strong bg-slip'}`}
    >
      <div className="flex items-center gap-4">
        <Upload size={26} className="shrink-0 text-spruce" aria-hidden="true" />
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px]">{empty ? 'Bring the first item' : 'Bring another item'}</h2>
          <p className="text-[13px] text-ink-2">Drop OBJ with its MTL, GLB, or glTF with its data, together with PNG and JPEG textures. Folders are fine.</p>
        </div>
        {reading === null ? (
          <button type="button" className="button-main" onClick={() => picker.current?.click()}>
            Choose files
          </button>
        ) : (
          <span className="flex items-center gap-3" role="status">
            Reading {reading}…
            <button type="button" className="button" onClick={() => { stopIntake(); setReading(null) }}>
              Stop
            </button>
          </span>
        )}
        <input ref={picker} type="file" multiple className="hidden" aria-label="Meshes and textures" onChange={(event) => { if (event.target.files) void bring(readPicked(event.target.files)).finally(() => { event.target.value = '' }) }} />
      </div>
      <div className="mt-4 flex flex-wrap gap-5 text-[13px]">
        <label className="flex items-center gap-2">
          It becomes a
          <select className="field" value={kind} onChange={(event) => setKind(event.target.value)}>
            {rulebook.kinds.map((each) => (
              <option key={each.id} value={each.id}>{each.title.toLowerCase()}</option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          One unit is
          <select className="field" value={unit} onChange={(event) => setUnit(event.target.value)}>
            <option value="">as the file says</option>
            {lengthUnits.map((each) => (
              <option key={each.id} value={each.metres}>1 {each.id}</option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          Up is
          <select className="field" value={up} onChange={(event) => setUp(event.target.value)}>
            <option value="">as the file says</option>
            {['+y', '+z', '-z', '-y', '+x', '-x'].map((axis) => (
              <option key={axis} value={axis}>{axis.toUpperCase()}</option>
            ))}
          </select>
        </label>
      </div>
    </section>
  )
}
