import type { Rulebook } from './schema.ts'

/** Built-in rulebooks that were validated before, by id; null for those that were not. */
export type ReadValidated = (id: string) => Rulebook | null

let read: ReadValidated = () => null

/**
 * Says where built-in rulebooks lie that this program has validated already, when it was compiled: they are taken as
 * they stand, since validating one takes longer than many a call.
 *
 * @example provideValidated((id) => JSON.parse(readFileSync(`${id}.json`, 'utf8')))
 */
export function provideValidated(reading: ReadValidated): void {
  read = reading
}

/**
 * A built-in rulebook as it was validated before; null where it was not.
 * @example const known = validatedBefore('tarn-and-tiller') ?? rulebookSchema.parse(json)
 */
export const validatedBefore: ReadValidated = (id) => read(id)
