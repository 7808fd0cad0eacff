import { Radio, RadioGroup } from '@headlessui/react'
import { useMemo, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import type { SourceReport } from '../workers/source-messages'
import type { SceneData } from '../workers/scene-data'
import { BesideFigure } from './beside-figure'
import { useSnapshots } from './use-snapshots'

interface ChooseProps {
  open: boolean
  item: CrateItem
  source: SourceReport
  scene: SceneData | null
  onClose: () => void
}

const MOST_CHOICES = 6
const words: Record<string, string> = {
  declared: 'as the file says',
  customary: 'usual for this format',
  chosen: 'chosen now',
  guess: 'most likely',
}

/** The unit chosen by looking: the item under each likely one, beside the figure and the doorway. */
export function SizeDialog({ open, item, source, scene, onClose }: ChooseProps) {
  const { rulebook, send } = useCrate()
  const [chosen, setChosen] = useState<number | null>(null)
  const views = useMemo(
    () => [{ up: source.axes.up, forward: source.axes.forward, askew: false }],
    [source.axes.up, source.axes.forward],
  )
  const [picture] = useSnapshots(scene, views, open)
  const present = item.reading.metresPerUnit ?? source.sizes[0].metresPerUnit
  const accept = async (): Promise<void> => {
    await send({ do: 'set-reading', item: item.id, reading: { metresPerUnit: chosen ?? present } })
    onClose()
  }
  return (
    <DialogFrame
      open={open}
      title="How large is it?"
      action="Read it so"
      onClose={onClose}
      onSubmit={() => void accept()}
      wide
    >
      <RadioGroup value={chosen ?? present} onChange={setChosen} aria-label="Unit" className="grid grid-cols-3 gap-2">
        {source.sizes.slice(0, MOST_CHOICES).map((size) => (
          <Radio
            key={size.unit}
            value={size.metresPerUnit}
            className="cursor-pointer rounded-lg border border-edge-strong bg-paper p-2 text-[13px] data-checked:border-2 data-checked:border-spruce data-checked:bg-spruce-wash"
          >
            <BesideFigure size={size.metres} picture={picture?.url ?? null} rulebook={rulebook} />
            <span className="mt-1 flex justify-between gap-2">
              <b className="font-semibold">1 unit = 1 {size.unit}</b>
              <span className="text-ink-2">{words[size.why] ?? ''}</span>
            </span>
            <span className="num block text-[12px] text-ink-2">
              {size.metres.map((value) => Number(value.toPrecision(3))).join(' × ')} m
            </span>
          </Radio>
        ))}
      </RadioGroup>
      {item.reading.metresPerUnit !== undefined && (
        <button
          type="button"
          className="link self-start"
          onClick={() =>
            void send({ do: 'set-reading', item: item.id, reading: { metresPerUnit: null } }).then(onClose)
          }
        >
          Read it as the file says
        </button>
      )}
    </DialogFrame>
  )
}
