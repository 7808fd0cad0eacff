import { NumberInput } from './number-input'

export type Triple = [number, number, number]

const axes = ['X', 'Y', 'Z'] as const

/** Three numbers along X, Y and Z; `value` is null where there is no place yet. */
export function VectorInput({
  label,
  value,
  onChange,
}: {
  /** Of one number: “Moved, X”. */
  label: (axis: string) => string
  value: Triple | null
  onChange: (value: Triple) => void
}) {
  return axes.map((axis, index) => (
    <NumberInput
      key={axis}
      label={label(axis)}
      className="w-full min-w-0 px-1 text-[12px]"
      places={3}
      placeholder={axis}
      value={value?.[index] ?? null}
      onChange={(next) => onChange((value ?? [0, 0, 0]).map((old, at) => (at === index ? next : old)) as Triple)}
    />
  ))
}
