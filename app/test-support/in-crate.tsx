import { QueryClientProvider } from '@tanstack/react-query'
import { render, screen } from '@testing-library/react'
import userEvent, { type UserEvent } from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { Outlet, createRoutesStub } from 'react-router'
import type { Command } from '../../core/crate/commands'
import type { Crate, CrateItem } from '../../core/crate/schema'
import { rulebookById } from '../../core/game/load'
import type { WorklistEntry } from '../../core/worklist/entry'
import { crateIntentSchema, type CrateIntent } from '../crate/intents'
import type { OpenedCrate } from '../crate/use-crate'
import { createQueryClient } from '../queries/query-client'

export const rulebook = rulebookById('tarn-and-tiller')

export const entryOf = (id: string, step: string, parameters: WorklistEntry['parameters'] = {}): WorklistEntry => ({
  id,
  step,
  on: true,
  parameters,
  reason: null,
})

export const itemOf = (name: string, more: Partial<CrateItem> = {}): CrateItem => ({
  id: name.toLowerCase().replaceAll(' ', '-'),
  name,
  kind: rulebook.kinds[0].id,
  main: `${name}.glb`,
  sources: [{ path: `${name}.glb`, sha256: 'a'.repeat(64), bytes: 12 }],
  reading: { links: {} },
  worklist: [],
  waivers: [],
  ...more,
})

export const crateOf = (...items: CrateItem[]): Crate => ({
  format: 'gentle-crate',
  formatVersion: 2,
  id: 'otterby',
  name: 'Otterby',
  rulebook,
  stock: null,
  items,
})

/** A page that a test looks at: who uses it, and what was asked of the crate. */
export interface Shown {
  user: UserEvent
  /** All changes that were asked for, in their order. */
  intents: CrateIntent[]
  /** Those of them that are commands. */
  commands: () => Command[]
}

/**
 * Shows something as it stands within a crate's page, and keeps what it asks of the crate.
 * @param at where in the crate one is, `/item/gate` for one of its items; behind a `?` as well
 * @param more what else is known of the crate: that something can be undone
 */
export async function showInCrate(
  children: ReactNode,
  crate: Crate = crateOf(),
  at = '',
  more: Partial<OpenedCrate> = {},
): Promise<Shown> {
  const intents: CrateIntent[] = []
  const opened: OpenedCrate = { crate, savedAt: 0, canUndo: false, canRedo: false, damaged: 0, asides: [], ...more }
  const Children = (): ReactNode => <div data-testid="shown">{children}</div>
  const Page = createRoutesStub([
    {
      id: 'routes/crate',
      path: '/crate/:crateId',
      Component: Outlet,
      HydrateFallback: () => null,
      loader: () => opened,
      action: async ({ request }) => {
        intents.push(crateIntentSchema.parse(await request.json()))
        return null
      },
      children: [
        at.startsWith('/item/')
          ? { path: 'item/:itemId', Component: Children }
          : { index: true as const, Component: Children },
        { path: '*', Component: () => <p>Another page</p> },
      ],
    },
  ])
  const user = userEvent.setup()
  render(
    <QueryClientProvider client={createQueryClient()}>
      <Page initialEntries={[`/crate/${crate.id}${at}`]} />
    </QueryClientProvider>,
  )
  await screen.findByTestId('shown')
  return {
    user,
    intents,
    commands: () => intents.flatMap((each) => (each.intent === 'command' ? [each.command] : [])),
  }
}
