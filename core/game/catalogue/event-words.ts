import type { ItemEvent } from '../../item/entry.ts'

/**
 * An event in a line.
 *
 * @example eventInWords({ when: 'used', do: 'open', to: 'leaf' }, 'gate') // 'gate used → open leaf'
 */
export const eventInWords = (event: ItemEvent, itemName: string): string =>
  `${event.at ?? itemName} ${event.when} → ${event.do} ${event.to ?? itemName}`

/**
 * Linking events anew so as to mend them.
 * @example const mend = eventsMend(entry.events.filter(({ to }) => to !== gone))
 */
export const eventsMend = (
  events: readonly ItemEvent[],
): { step: string; label: string; parameters: Record<string, unknown> } => ({
  step: 'link-events',
  label: 'Link events',
  parameters: { events },
})
