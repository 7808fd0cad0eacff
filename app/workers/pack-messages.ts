import { z } from 'zod'

/** Packs of others that lie in the game's folder. */
export const otherPacksSchema = z
  .array(
    z.object({ name: z.string().min(1).max(200), bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array) }),
  )
  .max(100)
export type OtherPack = z.infer<typeof otherPacksSchema>[number]

/** What of the kept pack is wanted. */
export const partWishSchema = z.object({ items: z.array(z.string()).optional(), over: otherPacksSchema.default([]) })
export type PartWish = z.input<typeof partWishSchema>

export const packPartSchema = z.object({
  bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array),
  files: z.number().int(),
  leftOut: z.number().int(),
})
export type PackPart = z.infer<typeof packPartSchema>

export const overlayReportSchema = z.object({
  order: z.array(z.string()),
  overlaid: z.array(z.object({ path: z.string(), packs: z.array(z.string()), wins: z.string(), same: z.boolean() })),
  hidden: z.array(z.string()),
  warnings: z.array(z.string()),
})
export type OverlayReport = z.infer<typeof overlayReportSchema>
