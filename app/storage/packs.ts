import { z } from 'zod'
import { fileSorts } from '../../core/pack/packed-file'
import { database, type PackFacts } from './database'
import { withRoom } from './room'

const factsSchema = z.object({
  crateId: z.string(),
  size: z.number().nonnegative(),
  sha256: z.string(),
  files: z.array(
    z.object({
      path: z.string(),
      bytes: z.number().nonnegative(),
      sha256: z.string().optional(),
      sort: z.enum(fileSorts).optional(),
      askedBy: z.array(z.object({ item: z.string().nullable(), by: z.string() })).optional(),
      written: z.string().optional(),
    }),
  ),
  head: z.object({ title: z.string(), items: z.array(z.object({ name: z.string(), kind: z.string() })) }).optional(),
  leftOut: z.array(z.object({ what: z.string(), item: z.string().nullable(), why: z.string() })).optional(),
  changes: z
    .array(
      z.object({
        path: z.string(),
        change: z.enum(['new', 'other', 'gone']),
        before: z.number().nullable(),
        after: z.number().nullable(),
      }),
    )
    .nullable()
    .optional(),
  blocks: z.number().int().nonnegative(),
  crateHash: z.string(),
  packedAt: z.number(),
})

/** What is known of the last pack of a crate. One that cannot be read is as good as none: it is packed anew. */
export async function getPackFacts(crateId: string): Promise<PackFacts | null> {
  const facts = factsSchema.safeParse(await (await database()).get('packs', crateId))
  return facts.success ? facts.data : null
}

/** The archive itself; null where it is gone or no longer what was packed. */
export async function getPackBytes(crateId: string): Promise<Uint8Array | null> {
  const facts = await getPackFacts(crateId)
  const kept: unknown = (await (await database()).get('packBytes', crateId))?.bytes
  return kept instanceof Uint8Array && kept.byteLength === facts?.size ? kept : null
}

/** Keeps a pack in place of the last of its crate: both halves or neither. */
export async function putPack(facts: Omit<PackFacts, 'size'>, bytes: Uint8Array): Promise<void> {
  await withRoom('the pack', async () => {
    const transaction = (await database()).transaction(['packs', 'packBytes'], 'readwrite')
    await Promise.all([
      transaction.objectStore('packs').put({ ...facts, size: bytes.byteLength }),
      transaction.objectStore('packBytes').put({ crateId: facts.crateId, bytes }),
      transaction.done,
    ])
  })
}
