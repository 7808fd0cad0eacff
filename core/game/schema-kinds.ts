import { z } from 'zod'
import { bodyRoleSchema } from '../item/body-role.ts'
import { turningSchema } from '../item/turning.ts'
import { eventsSchema } from './schema-catalogue.ts'

const solidShape = z.enum(['box', 'ball', 'capsule', 'cylinder', 'hull', 'mesh'])

/** What sort of item a thing is, and the limits that come with it. A missing section does not apply. */
export const kindSchema = z.object({
  id: z.string().regex(/^[a-z][a-z0-9_]*$/),
  title: z.string(),
  summary: z.string(),
  /** The folder of the pack that items of this kind go into. */
  category: z.string(),
  mesh: z
    .object({
      triangles: z.number().int().positive(),
      withSolids: z.number().int().positive().nullable(),
      cornersPerPart: z.number().int().positive(),
      oneNodePerObject: z.boolean(),
      facesViewer: z.boolean(),
      /**
       * Of what faces the viewer: how it may turn, where it hangs, and whether it throws a shadow; null for no demand.
       */
      facing: z
        .object({
          turns: z.array(turningSchema).min(1),
          aboveHead: z.boolean(),
          throwsShadow: z.boolean(),
        })
        .nullable()
        .default(null),
      losesUVs: z.boolean(),
      closedSurfaces: z.boolean(),
      shortestEdge: z
        .number()
        .positive()
        .nullable()
        .default(null)
        .describe('In game units; null for no demand: what is finer falls out where the game cuts such geometry.'),
      /** Where the game reads triangles of one material and part in sections: how many, and corners of each. */
      sections: z
        .object({ most: z.number().int().positive(), corners: z.number().int().min(3) })
        .nullable()
        .default(null),
      /** Where the game builds of half-blocks: how many of them an item may have, two for each triangle. */
      halfBlocks: z.number().int().min(2).nullable().default(null),
    })
    .nullable(),
  levelsAsked: z.boolean(),
  solids: z
    .object({
      neededAboveTriangles: z.number().int().nonnegative().nullable(),
      shapes: z.array(solidShape),
      fixed: z.boolean(),
      massKilograms: z.object({ least: z.number(), most: z.number() }).nullable(),
    })
    .nullable(),
  bones: z
    .object({
      most: z.number().int(),
      influences: z.number().int(),
      /** Whether each bone hangs on a part of its own, which it follows, and what bones hold stands beside them. */
      rigidPartPerBone: z.boolean(),
    })
    .nullable(),
  motionAsked: z.boolean(),
  /** Whether every drawn part stands in a group, moving or still, by whose name the game tells which it is. */
  groupsAsked: z.boolean().default(false),
  attachPoints: z.boolean(),
  mostLights: z.number().int().nonnegative(),
  models: z.array(z.string()),
  faceRoles: z
    .array(bodyRoleSchema)
    .describe('Which sorts of bodies its level geometry has, where `bodies` says how each is called.'),
  markers: z.boolean(),
  /** Whether it has to borrow the behaviour of a donor. */
  donorAsked: z.boolean().default(false),
  /** Whether it adds to an official object, or stands in a changed copy of a host object. */
  addsTo: z.enum(['official', 'host']).nullable(),
  textureMemoryBytes: z.number().int().positive(),
})
export type Kind = z.infer<typeof kindSchema>

export const levelsSchema = z.object({
  neededAboveTriangles: z.number().int(),
  /** Share of the first level's triangles each further level may have, and where the game switches to it. */
  chain: z.array(
    z.object({
      level: z.number().int().min(1),
      mostShare: z.number().positive().max(1),
      fromDistance: z.number().positive(),
    }),
  ),
  nameSuffix: z.string(),
  sameMaterials: z.boolean(),
  sameBones: z.boolean(),
  /** How far the box of a level may lie from the first level's, as a share of the longest side. */
  mostDrift: z.number().positive().max(1).default(0.1),
  shadow: z.object({
    mostShare: z.number().positive().max(1),
    nameSuffix: z.string(),
    orALevel: z.boolean(),
    closed: z.boolean(),
  }),
})

export const solidsSchema = z.object({
  /** Template with {shape} and {nn}. */
  name: z.string(),
  childOfPart: z.boolean(),
  hullPoints: z.number().int().positive(),
  mostPerItem: z.number().int().positive(),
  meshOnlyIfFixed: z.boolean(),
  surfaceNeeded: z.boolean().describe('Not read yet: a surface kind is always needed.'),
  massNeededIfLoose: z.boolean().describe('Not read yet: what is loose always needs a mass.'),
  layers: z.array(
    z.object({
      name: z.string(),
      meaning: z.string(),
      /** What it means for a figure and for things that move; null for what only the game itself knows. */
      means: z.enum(['walked-on', 'stops', 'moves', 'handled']).nullable().default(null),
    }),
  ),
  defaultLayers: z.array(z.string()),
  /**
   * Bodies of the game, beside its figure, that come near things: how they are shaped, in game units, and where they
   * move.
   */
  bodies: z
    .array(
      z.object({
        id: z.string(),
        title: z.string(),
        shape: z.enum(['box', 'ball']),
        size: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]),
        moves: z.enum(['ground', 'water', 'air']),
      }),
    )
    .max(16)
    .default([]),
  /** How far a solid may stand outside what is seen, or lie inside it, before it is noticed, in game units. */
  noticedGap: z.number().positive().default(0.3),
})

/** How the game calls nodes that are places alone. */
export const pointsSchema = z.object({
  /** Template with {point}: a name of the modder's own. */
  attach: z.string().max(200).default('at_{point}'),
  /** What may join at attach points: the game's words, what suggests them in a name, and how wide it may be at most. */
  joins: z
    .array(
      z.object({
        name: z.string().min(1).max(64),
        meaning: z.string(),
        words: z.array(z.string().min(1).max(64)).max(100).default([]),
        /** In game units; null where any width is taken. */
        widest: z.number().positive().nullable().default(null),
      }),
    )
    .max(100)
    .default([]),
  /** Template with {marker}, one of the rulebook's markers, and {nn}. */
  marker: z.string().max(200).default('{marker}_{nn}'),
  /** Template with {part}, the part that a bone follows. */
  bone: z.string().max(200).default('bone_{part}'),
})

export const motionSchema = z.object({
  /** Of one curve of a clip. */
  keysPerSecond: z.number().positive(),
  longestSeconds: z.number().positive(),
  /** Of all clips of an item. */
  mostKeys: z.number().int().positive(),
  startsAtZero: z.boolean(),
  loopsClose: z.boolean(),
  /** How the game calls groups of parts, each with {group}; null where it knows none. */
  groups: z
    .object({ moves: z.string().max(200), stays: z.string().max(200), backdrop: z.string().max(200) })
    .nullable()
    .default(null),
})

/** How level geometry calls its bodies, each with {part}; null where the game takes all of them as they stand. */
export const bodiesSchema = z
  .object({ solid: z.string().max(200), hollow: z.string().max(200), trim: z.string().max(200) })
  .nullable()
  .default(null)

export const markerSchema = z.object({
  name: z.string(),
  meaning: z.string(),
  least: z.number().int().nonnegative(),
  most: z.number().int().positive().nullable(),
  /** How far above what is under it, in game units. */
  aboveGround: z.number().nullable(),
  /** How far below the lowest point of the whole motion, in game units. */
  belowLowest: z.object({ least: z.number(), most: z.number() }).nullable(),
  /** Whether it may hang on something that a clip moves. */
  mayRideGroup: z.boolean(),
  /** What it does to who walks: a run begins there, ends there, takes it along, or begins again below it. */
  does: z.enum(['begins', 'ends', 'collected', 'begins-again-below']).nullable().default(null),
})

export const behaviourSchema = z.object({
  /** Whether a thing may bring behaviour of its own. */
  own: z.boolean().describe('Not read yet: nothing brings behaviour of its own.'),
  /** Whether a thing may borrow that of a donor in stock. */
  likeDonor: z.boolean(),
  events: eventsSchema,
})
