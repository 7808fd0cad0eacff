import { Radio, RadioGroup } from '@headlessui/react'
import { useMemo, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/game/schema'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import type { SourceReport } from '../workers/source-messages'
import type { SceneData } from '../workers/scene-data'
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
            <Beside size={size.metres} picture={picture?.url ?? null} rulebook={rulebook} />
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

const [WIDTH, HEIGHT] = [216, 128]

/** The item, the figure and the doorway to one scale; whichever is largest fills the card. */
function Beside({ size, picture, rulebook }: { size: number[]; picture: string | null; rulebook: Rulebook }) {
  const { figure, doorway, unit } = rulebook.space
  const person = { width: figure.width * unit.metres, height: figure.height * unit.metres }
  const door = { width: doorway.width * unit.metres, height: doorway.height * unit.metres }
  const [width, height] = size
  const gap = Math.max(width, person.height) * 0.12
  const across = width + gap + person.width + gap + door.width
  const tall = Math.max(height, door.height, person.height)
  const scale = Math.min((WIDTH - 8) / across, (HEIGHT - 10) / tall)
  const ground = HEIGHT - 5
  const place = (x: number, w: number, h: number) => ({
    x: 4 + x * scale,
    y: ground - h * scale,
    width: Math.max(0.8, w * scale),
    height: Math.max(0.8, h * scale),
  })
  const [own, body, frame] = [
    place(0, width, height),
    place(width + gap, person.width, person.height),
    place(width + gap * 2 + person.width, door.width, door.height),
  ]
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full rounded border border-edge bg-slip" aria-hidden="true">
      <line x1="0" x2={WIDTH} y1={ground} y2={ground} className="stroke-edge-strong" />
      {picture ? (
        <image href={picture} {...own} preserveAspectRatio="none" />
      ) : (
        <rect {...own} className="fill-kraft" />
      )}
      <rect
        x={body.x}
        y={body.y + body.width * 0.9}
        width={body.width}
        height={Math.max(0.5, body.height - body.width * 0.9)}
        rx={body.width / 2.2}
        className="fill-ink-2"
      />
      <circle
        cx={body.x + body.width / 2}
        cy={body.y + body.width * 0.42}
        r={body.width * 0.42}
        className="fill-ink-2"
      />
      <path
        d={`M${frame.x} ${ground} V${frame.y} H${frame.x + frame.width} V${ground}`}
        fill="none"
        className="stroke-spruce"
        strokeWidth={Math.max(1, frame.width * 0.06)}
      />
    </svg>
  )
}
