import { Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { AxisName } from '../../core/maths/axes'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import type { SourceReport } from '../workers/source-messages'
import type { SceneData } from '../workers/scene-data'
import type { View } from '../drawing/snapshot'
import { useSnapshots } from './use-snapshots'

/** The pairs that programs really use, the customary ones first. */
const views: readonly View[] = (
  [
    ['+y', '+z'],
    ['+z', '-y'],
    ['+y', '-z'],
    ['+z', '+y'],
    ['+z', '+x'],
    ['-z', '+y'],
  ] as [AxisName, AxisName][]
).map(([up, forward]) => ({ up, forward, askew: true }))

const shown = (axis: string): string => axis.toUpperCase().replace('-', '−')
const keyOf = (view: { up: string; forward: string }): string => `${view.up} ${view.forward}`

/** Up and forward chosen by looking: in the right picture the item stands upright and faces you. */
export function AxesDialog({
  open,
  item,
  source,
  scene,
  onClose,
}: {
  open: boolean
  item: CrateItem
  source: SourceReport
  scene: SceneData | null
  onClose: () => void
}) {
  const { send } = useCrate()
  const [chosen, setChosen] = useState<string | null>(null)
  const pictures = useSnapshots(scene, views, open)
  const present = keyOf(source.axes)
  const accept = async (): Promise<void> => {
    const view = views.find((each) => keyOf(each) === (chosen ?? present))
    if (view) await send({ do: 'set-reading', item: item.id, reading: { up: view.up, forward: view.forward } })
    onClose()
  }
  return (
    <DialogFrame
      open={open}
      title="In which picture does it stand upright and face you?"
      action="Read it so"
      onClose={onClose}
      onSubmit={() => void accept()}
      wide
    >
      <RadioGroup
        value={chosen ?? present}
        onChange={setChosen}
        aria-label="Up and forward"
        className="grid grid-cols-3 gap-2"
      >
        {views.map((view, index) => (
          <Radio
            key={keyOf(view)}
            value={keyOf(view)}
            className="cursor-pointer rounded-lg border border-edge-strong bg-paper p-2 text-[13px] data-checked:border-2 data-checked:border-spruce data-checked:bg-spruce-wash"
          >
            <span className="grid h-[132px] place-items-center rounded border border-edge bg-slip">
              {pictures[index] ? (
                <img src={pictures[index].url} alt="" className="max-h-[120px] max-w-full object-contain" />
              ) : (
                <span className="text-ink-2">…</span>
              )}
            </span>
            <span className="mt-1 flex justify-between gap-2">
              <b className="font-semibold">
                {shown(view.up)} up, {shown(view.forward)} forward
              </b>
              {keyOf(view) === present && <span className="text-ink-2">now</span>}
            </span>
          </Radio>
        ))}
      </RadioGroup>
      {(item.reading.up !== undefined || item.reading.forward !== undefined) && (
        <button
          type="button"
          className="link self-start"
          onClick={() =>
            void send({ do: 'set-reading', item: item.id, reading: { up: null, forward: null } }).then(onClose)
          }
        >
          Read it as the file says
        </button>
      )}
    </DialogFrame>
  )
}
