import { Menu, MenuButton, MenuItem, MenuItems, MenuSection, MenuHeading } from '@headlessui/react'
import { Plus } from 'lucide-react'
import { stages, type Stage } from '../../core/support/stages'
import { stageTitles } from '../crate/stage-status'
import type { StepInfo } from '../workers/messages'

/**
 * The empty slip at the end of the belt: every step there is, this stage's first. It is put where practitioners do it.
 */
export function AddStep({
  steps,
  stage: here,
  onAdd,
  disabled,
}: {
  steps: readonly StepInfo[]
  stage: Stage
  onAdd: (step: string) => void
  disabled: boolean
}) {
  return (
    <Menu>
      <MenuButton
        disabled={disabled || steps.length === 0}
        aria-label="Add a step"
        title="Add a step"
        className="grid h-[66px] w-[56px] shrink-0 place-items-center rounded-md border border-dashed border-edge-strong text-spruce hover:bg-slip disabled:text-ink-3"
      >
        <Plus size={18} aria-hidden="true" />
      </MenuButton>
      <MenuItems
        anchor="top start"
        className="z-50 max-h-[420px] w-[330px] overflow-y-auto rounded-lg border border-edge-strong bg-slip p-2 shadow-lg [--anchor-gap:8px]"
      >
        {[here, ...stages.filter((stage) => stage !== here)]
          .filter((stage) => steps.some((step) => step.stage === stage))
          .map((stage) => (
            <MenuSection key={stage}>
              <MenuHeading className="caption px-2 pt-2">{stageTitles[stage]}</MenuHeading>
              {steps
                .filter((step) => step.stage === stage)
                .map((step) => (
                  <MenuItem key={step.id}>
                    <button
                      type="button"
                      onClick={() => onAdd(step.id)}
                      className="block w-full rounded px-2 py-1 text-left data-focus:bg-spruce-wash"
                    >
                      <b className="text-[13px] font-semibold">{step.title}</b>
                      <span className="block text-[12px] leading-snug text-ink-2">{step.purpose}</span>
                    </button>
                  </MenuItem>
                ))}
            </MenuSection>
          ))}
      </MenuItems>
    </Menu>
  )
}
