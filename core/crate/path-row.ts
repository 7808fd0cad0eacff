import { z } from 'zod'

/** What is wrong with a reference or a name, as far as it tells itself. */
export const pathTroubles = ['missing', 'unreadable', 'doubled', 'own disk', 'not a name'] as const
export type PathTrouble = (typeof pathTroubles)[number]

/** What a row is of: a file that is asked for, or a name. */
export const pathSorts = ['mesh', 'picture', 'part', 'material'] as const
export type PathSort = (typeof pathSorts)[number]

/** A file that an item asks for, or a name: as its source wrote it, what was found for it, and as it is packed. */
export const pathRowSchema = z.object({
  /** Id of the item, and its name. */
  id: z.string(),
  item: z.string(),
  sort: z.enum(pathSorts),
  /** “mesh”, “part”, “material”, or the material with what the picture is to it. */
  asks: z.string(),
  written: z.string(),
  /** Path among the item's sources; null where there is none. */
  found: z.string().nullable(),
  /** The game's own texture that was chosen in its place. */
  stock: z.string().nullable(),
  /** Paths in the pack: none where nothing of it is packed. */
  packed: z.array(z.string()),
  trouble: z.enum(pathTroubles).nullable(),
})
export type PathRow = z.infer<typeof pathRowSchema>
