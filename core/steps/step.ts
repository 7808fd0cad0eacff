import type { z } from 'zod'
import type { Proposal, ReportProgress, StepContext } from '../operations/context.ts'
import type { Stage } from '../support/stages.ts'

export interface StepRun<P> extends StepContext {
  parameters: P
  progress: ReportProgress
}

/** What a step did, in numbers. */
export interface StepSummary {
  /** A few characters for the slip: “−28,452”. */
  headline: string
  /** Whole sentences for the card. */
  details: string[]
  /** Whether the item is different now. */
  changed: boolean
  /** Why the step has nothing to do here any more, for instance because its part is gone from a newer source. */
  doesNotApply?: string
}

/** How one parameter is edited; `key` names it in the parameters. */
export type StepControl =
  | { type: 'number'; label: string; unit: string; least: number; most: number; step: number; slider?: boolean }
  | { type: 'toggle'; label: string }
  /** `refused` says why an option cannot be chosen. */
  | { type: 'choice'; label: string; options: { value: string | number; label: string; refused?: string }[] }
  | { type: 'part'; label: string }
  | { type: 'parts'; label: string }
  | { type: 'layers'; label: string; options: { value: string; label: string }[] }
  | {
      type: 'tags'
      label: string
      surfaces: string[]
      flags: { name: string; meaning: string }[]
      shadings: { name: string; title: string }[]
    }
  /** Points that are clicked in the yard, in the space that the step is given. */
  | { type: 'points'; label: string; count: number; unit: string }
  /** Faces that are clicked in the yard, each with how far the pick reaches. */
  | { type: 'faces'; label: string }
  /**
   * Where a flat picture lies on the picked faces: moved, turned and sized in the yard. Edits `right`, `up`, `width`
   * and `turnDegrees`.
   */
  | { type: 'placement'; label: string }
  /** A shape moved, turned and sized in the yard and in numbers. Edits `moved`, `turnedDegrees` and `sized`. */
  | { type: 'shape-edit'; label: string; unit: string }
  /** Three numbers along X, Y and Z. */
  | { type: 'vector'; label: string; unit: string }
  /** A number for each part: how much it counts. */
  | { type: 'weights'; label: string; least: number; most: number }
  /** A colour as `#rrggbb`. */
  | { type: 'colour'; label: string }
  /** An outline across, drawn by its corners: pairs to the right and up. */
  | { type: 'outline'; label: string }
  /** A line of text. */
  | { type: 'text'; label: string }
  /** What each picture is for. */
  | { type: 'map-roles'; label: string; options: { value: string; label: string }[]; names: string[] }
  /** Punched cards: what goes into each channel of an output. `layouts` says what the game reads there. */
  | {
      type: 'cards'
      label: string
      layouts: CardLayout[]
      rows: { value: string; label: string; picture: string }[]
      pictures: string[]
    }
  /** Recoloured looks, each with a name and how it differs. */
  | { type: 'variants'; label: string; modes: { value: string; label: string }[] }
  /** Events: when, at which thing, do what, to which. `things` are the parts and groups there are. */
  | {
      type: 'events'
      label: string
      causes: { value: string; label: string }[]
      actions: { value: string; label: string }[]
      things: string[]
    }
  /** Arcs of the hue circle, each with its middle and reach. */
  | { type: 'hues'; label: string }

/** What the game reads in each channel of one of its maps; null where it reads nothing. */
export interface CardLayout {
  role: string
  title: string
  channels: { r: string | null; g: string | null; b: string | null; a: string | null }
}

export type StepField = StepControl & {
  key: string
  /** Shown only while another parameter has one of these values. */
  when?: { key: string; is: (string | number | boolean)[] }
}

/** One operation on an item: pure, repeatable byte for byte. */
export interface StepDefinition<P> {
  /** Never changes once shipped: crate files name steps by it. */
  id: string
  /** Raised when the same parameters give another result than before. */
  version: number
  stage: Stage
  /**
   * Works on each pixel by its own: on smaller pictures it gives the same, smaller. Such steps are tried while a
   * setting is moved.
   */
  pixelwise?: true
  /** Makes or changes maps: where the game reads none it is not proposed. */
  ofMaps?: true
  title: string
  purpose: string
  parameters: z.ZodType<P>
  /**
   * What can be set; `document` is the item as the step is given it, so that names and lists are those that it finds.
   */
  fields: (context: StepContext) => StepField[]
  /** Parameters for a step that the modder adds by hand. */
  defaults: (context: StepContext) => P
  /** What this item needs of this step; nothing when it needs none. */
  propose: (context: StepContext) => Proposal<P>[]
  /** Changes `document`, which is the step's own copy; arrays inside are replaced, never written into. */
  run: (run: StepRun<P>) => Promise<StepSummary>
}

/** A step whose parameters are checked when it runs: what the registry and the runner work with. */
export interface AnyStep extends Omit<StepDefinition<unknown>, 'parameters'> {
  parameters: z.ZodType<unknown>
}

/**
 * Makes a definition fit the registry: its parameters are parsed before `run` sees them.
 *
 * @example export const weld = defineStep<{ reach: number }>({ id: 'weld', stage: 'mesh', …, run: ({ document }) => … })
 */
export function defineStep<P>(definition: StepDefinition<P>): AnyStep {
  return {
    ...definition,
    parameters: definition.parameters,
    run: (run) => definition.run({ ...run, parameters: definition.parameters.parse(run.parameters) }),
  }
}

/**
 * What a step says whose part is not there: the run goes on without it.
 *
 * @example if (!part) return gonePart(parameters.part)
 */
export function gonePart(name: string): StepSummary {
  const reason = `There is no part “${name}” at this place of the worklist. Choose another part, or remove the step.`
  return { headline: 'does not apply', details: [reason], changed: false, doesNotApply: reason }
}
