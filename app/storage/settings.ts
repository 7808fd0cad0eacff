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
