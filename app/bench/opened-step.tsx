import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import type { ItemRun } from '../queries/runs'
import { StepCard } from './step-card'

interface OpenedStepProps {
  item: CrateItem
  run: ItemRun | undefined
  opened: string | null
  onOpen: (entry: string | null) => void
}

/** The card of the opened slip; it stands beside the view that it changes. */
export function OpenedStep({ item, run, opened, onOpen }: OpenedStepProps) {
  const { send } = useCrate()
  const { worklist } = item
  const entry = worklist.find((each) => each.id === opened)
  if (!entry) return null
  const own = { item: item.id, entry: entry.id }
  return (
    <StepCard
      key={entry.id}
      entry={entry}
      info={run?.evaluation?.steps.find((step) => step.id === entry.step)}
      outcome={run?.evaluation?.outcomes.find((outcome) => outcome.entry === entry.id)}
      item={item}
      position={worklist.indexOf(entry)}
      count={worklist.length}
      onChange={(parameters) => void send({ do: 'edit-step', ...own, parameters })}
      onSwitch={(on) => void send({ do: 'switch-step', ...own, on })}
      onMove={(to) => void send({ do: 'move-step', ...own, to })}
      onRemove={() => {
        onOpen(null)
        void send({ do: 'remove-step', ...own })
      }}
      onClose={() => onOpen(null)}
    />
  )
}
