import { Switch as HeadlessSwitch } from '@headlessui/react'
import { type ReactNode } from 'react'

/** A field with its label, and its unit where it has one. */
export function Row({ id, label, unit, children }: { id: string; label: string; unit?: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[112px_1fr] items-center gap-2 text-[13px]">
      <label htmlFor={id}>{label}</label>
      <div className={unit ? 'flex flex-wrap items-center gap-x-1.5' : undefined}>
        {children}
        {unit && <span className="order-1 text-[12px] text-ink-2">{unit}</span>}
      </div>
    </div>
  )
}

export function Switch({ on, label, onChange }: { on: boolean; label: string; onChange: (on: boolean) => void }) {
  return (
    <HeadlessSwitch
      checked={on}
      onChange={onChange}
      aria-label={label}
      className="group relative h-[18px] w-[34px] rounded-full border border-edge-strong bg-edge transition-colors data-checked:border-spruce data-checked:bg-spruce"
    >
      <span className="absolute top-[1px] left-[1px] size-[14px] rounded-full bg-white transition-transform group-data-checked:translate-x-4" />
    </HeadlessSwitch>
  )
}
