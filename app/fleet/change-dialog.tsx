import type { SingleCommand } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import { lengthUnits } from '../../core/item/units'
import { axisNames, axisNameSchema } from '../../core/maths/axes'
import { useCrate } from '../crate/use-crate'
import { DialogFrame } from '../ui/dialog-frame'
import { plural } from '../ui/format'
import { OpenChoice } from './open-choice'

interface ChangeDialogProps {
  items: readonly CrateItem[] | null
  onClose: () => void
}

const AS_IT_IS = ''

/** What is said anew of several items together; the rest of each stays. */
export function ChangeDialog({ items, onClose }: ChangeDialogProps) {
  const { rulebook, send } = useCrate()
  if (!items) return null
  const change = async (data: FormData): Promise<void> => {
    const kind = String(data.get('kind'))
    const metresPerUnit = Number(data.get('unit'))
    const up = axisNameSchema.safeParse(data.get('up'))
    const reading = { ...(metresPerUnit > 0 ? { metresPerUnit } : {}), ...(up.success ? { up: up.data } : {}) }
    const commands = items.flatMap(({ id }): SingleCommand[] => [
      ...(kind === AS_IT_IS ? [] : [{ do: 'set-kind' as const, item: id, kind }]),
      ...(Object.keys(reading).length === 0 ? [] : [{ do: 'set-reading' as const, item: id, reading }]),
    ])
    if (commands.length > 0) await send({ do: 'several', commands })
    onClose()
  }
  return (
    <DialogFrame
      open
      title={`Change ${plural(items.length, 'item')}`}
      action="Change"
      onClose={onClose}
      onSubmit={(data) => void change(data)}
    >
      <OpenChoice
        above
        open="as it is"
        name="kind"
        label="They become"
        options={rulebook.kinds.map(({ id, title }) => ({ value: id, label: title }))}
      />
      <OpenChoice
        above
        open="as it is"
        name="unit"
        label="One unit of their sources is"
        options={lengthUnits.map(({ id, metres }) => ({ value: String(metres), label: `1 ${id}` }))}
      />
      <OpenChoice
        above
        open="as it is"
        name="up"
        label="Up in their sources is"
        options={axisNames.map((axis) => ({ value: axis, label: axis.toUpperCase() }))}
      />
      <p className="text-[13px] text-ink-2">Prepare them anew where their worklists were made for something else.</p>
    </DialogFrame>
  )
}
