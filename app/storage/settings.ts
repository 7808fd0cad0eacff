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

const sizesSchema = z.record(z.string(), z.number().positive())

/** The sizes in pixels that panels were dragged to, by name; nothing where none was. */
export async function getPanelSizes(): Promise<Record<string, number>> {
  const stored = await (await database()).get('settings', 'panel-sizes')
  return sizesSchema.safeParse(stored?.value).data ?? {}
}

export async function putPanelSizes(sizes: Record<string, number>): Promise<void> {
  await (await database()).put('settings', { key: 'panel-sizes', value: sizes })
}
