import type { GameAxis } from '../../../core/game/space'
import { NumberInput } from './number-input'

export type Triple = [number, number, number]

/**
 * Three numbers along the game's own axes, of a value in the working space; `value` is null where there is no place
 * yet.
 */
export function VectorInput({
  label,
  axes,
  value,
  signed = true,
  onChange,
}: {
  /** Of one number: “Moved, X”. */
  label: (axis: string) => string
  axes: readonly GameAxis[]
  value: Triple | null
  /** Whether the numbers have a direction; sizes have none. */
  signed?: boolean
  onChange: (value: Triple) => void
}) {
  return axes.map(({ letter, working, sign }) => {
    const direction = signed ? sign : 1
    // A nought without a minus.
    const shown = value === null ? null : value[working] * direction + 0
    return (
      <NumberInput
        key={letter}
        label={label(letter)}
        className="w-full min-w-0 px-1 text-[12px]"
        places={3}
        placeholder={letter}
        value={shown}
        onChange={(next) =>
          onChange((value ?? [0, 0, 0]).map((old, at) => (at === working ? next * direction : old)) as Triple)
        }
      />
    )
  })
}
