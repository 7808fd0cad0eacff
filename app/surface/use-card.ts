import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { useStepSettings } from '../queries/item-queries'
import type { MapFacts } from '../workers/map-messages'
import { useYardView } from '../yard/yard-view'
import { cardsSchema, type CardField, type CardValue } from './punched-card'

export interface OpenCard {
  card: CardValue
  field: CardField
  /** Its step, by its place in the worklist. */
  index: number
  onChange: (next: CardValue) => void
}

/** The punched card that a map is made by, or the first one of the step that is open; null where there is none. */
export function useCard(item: CrateItem, map: MapFacts | null, ready: boolean): OpenCard | null {
  const { game, send } = useCrate()
  const opened = useYardView((state) => state.opened)
  const index = item.worklist.findIndex((entry) => entry.step === 'pack-channels' && entry.on)
  const step = item.worklist.at(index < 0 ? item.worklist.length : index)
  const settings = useStepSettings(
    { ...item, worklist: item.worklist.slice(0, Math.max(0, index)) },
    game,
    ready && step ? step.step : null,
  )
  const field = settings?.fields.find((each) => each.type === 'cards')
  if (!step || field?.type !== 'cards') return null
  const cards = cardsSchema.parse(step.parameters['cards'])
  const card =
    cards.find((each) => map?.packed && each.output === map.role) ?? (step.id === opened ? cards[0] : undefined)
  if (!card) return null
  return {
    card,
    field,
    index,
    onChange: (next) =>
      void send({
        do: 'edit-step',
        item: item.id,
        entry: step.id,
        parameters: { ...step.parameters, cards: cards.map((each) => (each === card ? next : each)) },
      }),
  }
}
