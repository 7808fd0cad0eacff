import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Popover,
  PopoverButton,
  PopoverPanel,
} from '@headlessui/react'
import { Plus } from 'lucide-react'
import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { stages, type Stage } from '../../core/support/stages'
import { stageTitles } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { useWorthwhileSteps } from '../queries/item-queries'
import { beginsWords } from '../ui/begins-words'
import type { StepInfo } from '../workers/messages'

interface AddStepProps {
  item: CrateItem
  steps: readonly StepInfo[]
  stage: Stage
  onAdd: (step: string) => void
  disabled: boolean
}

/** Every step there is, found by typing, with those that would do something here marked. */
export function AddStep({ item, steps, stage, onAdd, disabled }: AddStepProps) {
  return (
    <Popover>
      {({ open, close }) => (
        <>
          <PopoverButton
            disabled={disabled || steps.length === 0}
            aria-label="Add a step"
            className="button flex w-full items-center justify-center gap-1 px-1 py-0.5 text-[12.5px]"
          >
            <Plus size={15} aria-hidden="true" /> Add a step
          </PopoverButton>
          <PopoverPanel
            anchor="top end"
            className="z-50 flex w-[360px] flex-col rounded-lg border border-edge-strong bg-slip p-2 shadow-lg [--anchor-gap:8px]"
          >
            {open && (
              <StepSearch
                item={item}
                steps={steps}
                stage={stage}
                onChoose={(step) => {
                  close()
                  onAdd(step)
                }}
              />
            )}
          </PopoverPanel>
        </>
      )}
    </Popover>
  )
}

interface StepSearchProps extends Omit<AddStepProps, 'onAdd' | 'disabled'> {
  onChoose: (step: string) => void
}

function StepSearch({ item, steps, stage: here, onChoose }: StepSearchProps) {
  const { game } = useCrate()
  const [typed, setTyped] = useState('')
  const worthwhile = useWorthwhileSteps(item, game)
  const found = steps.filter(({ title, purpose }) => beginsWords(`${title} ${purpose}`, typed))
  const ordered = [here, ...stages.filter((stage) => stage !== here)].filter((stage) =>
    found.some((step) => step.stage === stage),
  )
  return (
    <Combobox<string | null>
      immediate
      value={null}
      onChange={(step) => {
        if (step !== null) onChoose(step)
      }}
    >
      <ComboboxInput
        autoFocus
        aria-label="Search the steps"
        placeholder="Type what it should do: holes, normals, colour…"
        className="field w-full py-1.5"
        onChange={(event) => setTyped(event.target.value)}
      />
      <p className="caption px-1 pt-1.5" role="status">
        {worthwhile === null
          ? 'Looking which would do something here…'
          : `${worthwhile.length} would do something here ●`}
      </p>
      <ComboboxOptions static className="relative max-h-[340px] overflow-y-auto">
        {ordered.map((stage) => (
          <div key={stage} role="group" aria-label={stageTitles[stage]}>
            <p className="caption px-2 pt-2">{stageTitles[stage]}</p>
            {found
              .filter((step) => step.stage === stage)
              .map((step) => (
                <ComboboxOption
                  key={step.id}
                  value={step.id}
                  className="cursor-pointer rounded px-2 py-1 text-left data-focus:bg-spruce-wash"
                >
                  <b className="flex items-baseline gap-1.5 text-[13px] font-semibold">
                    {step.title}
                    {worthwhile?.includes(step.id) && (
                      <span className="text-[11px] font-normal text-clear">● would do something here</span>
                    )}
                  </b>
                  <span className="block text-[12px] leading-snug text-ink-2">{step.purpose}</span>
                </ComboboxOption>
              ))}
          </div>
        ))}
        {found.length === 0 && <p className="px-2 py-3 text-[13px] text-ink-2">No step says so. Try another word.</p>}
      </ComboboxOptions>
    </Combobox>
  )
}
