import { z } from 'zod'
import { database } from './database'

/** Whether the demo crate was put on the shelf once; it does not come back after it was removed. */
export async function wasDemoShelved(): Promise<boolean> {
  const stored = await (await database()).get('settings', 'demo-shelved')
  return z.literal(true).safeParse(stored?.value).success
}

export async function markDemoShelved(): Promise<void> {
  await (await database()).put('settings', { key: 'demo-shelved', value: true })
}

const layoutsSchema = z.record(z.string(), z.string())

/** The sizes that panels were dragged to, by group; nothing where none was. */
export async function getPanelLayouts(): Promise<Record<string, string>> {
  const stored = await (await database()).get('settings', 'panel-layouts')
  return layoutsSchema.safeParse(stored?.value).data ?? {}
}

export async function putPanelLayouts(layouts: Record<string, string>): Promise<void> {
  await (await database()).put('settings', { key: 'panel-layouts', value: layouts })
}
