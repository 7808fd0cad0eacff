import { z } from 'zod'
import { itemEventSchema } from '../../item/entry.ts'
import { eventInWords } from '../../game/catalogue/event-words.ts'
import { namesWithin } from '../../operations/entry/names-within.ts'
import { setEntry } from '../../operations/entry/set-entry.ts'
import { plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ events: z.array(itemEventSchema).max(1000) })

/** What happens when something is done to the item. */
export const linkEventsStep = defineStep<z.infer<typeof parameters>>({
  id: 'link-events',
  version: 1,
  stage: 'pack',
  title: 'Link events',
  purpose: 'Says what happens when the item is walked into, used or hit: when, do, to what.',
  parameters,
  fields: ({ document, rulebook: { behaviour }, kind }) => {
    const { part, group } = namesWithin(document, kind, '')
    return [
      {
        type: 'events',
        key: 'events',
        label: 'Events',
        causes: behaviour.events.when.map(({ word, title }) => ({ value: word, label: title })),
        actions: behaviour.events.do.map(({ word, title }) => ({ value: word, label: title })),
        things: [...new Set([...part, ...group])],
      },
    ]
  },
  defaults: () => ({ events: [] }),
  propose: () => [],
  async run({ document, parameters: { events } }) {
    setEntry(document, { events })
    return {
      headline: plural(events.length, 'event'),
      details: events.map((event) => `${eventInWords(event, 'item')}.`),
      changed: true,
    }
  },
})
