import { identifierFor, type CrateItem } from './schema.ts'

/**
 * A new item that is only some parts of another: the same sources, and a first step that keeps those parts.
 * @example const lamp = takeOutParts(item, ['lamp', 'hook'], 'Lamp', 'prop', ids)
 */
export function takeOutParts(
  item: CrateItem,
  parts: readonly string[],
  name: string,
  kind: string,
  taken: readonly string[],
): CrateItem {
  const first = {
    id: 'step-1',
    step: 'keep-parts',
    on: true,
    parameters: { parts: [...parts] },
    byHand: true,
    reason: `Taken out of ${item.name}.`,
  }
  return { ...item, id: identifierFor(name, taken), name, kind, worklist: [first], waivers: [] }
}
