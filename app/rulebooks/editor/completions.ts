import { getLocation, parseTree, getNodeValue } from 'jsonc-parser'
import { schemaAt, shapeOf, withoutNull } from '../../../core/game/schema-walk'
import { rulebookPlaces } from './rulebook-schema'

/** What may stand at a place of a rulebook’s text, and what of the text it replaces. */
export interface Completions {
  from: number
  to: number
  words: string[]
}

/**
 * The fields that an object may still have, or the words that a value may be, at a place of a rulebook's text; null
 * where nothing is proposed.
 */
export function completionsAt(text: string, offset: number): Completions | null {
  const { path, isAtPropertyKey, previousNode } = getLocation(text, offset)
  const tree = parseTree(text)
  const value: unknown = tree && getNodeValue(tree)
  const inside = previousNode && previousNode.offset <= offset && offset <= previousNode.offset + previousNode.length
  const from = inside ? previousNode.offset : wordStart(text, offset)
  const to = inside ? previousNode.offset + previousNode.length : offset
  if (isAtPropertyKey) {
    const holder = path.slice(0, -1)
    const place = schemaAt(rulebookPlaces(), holder, value)
    if (!place) return null
    const shape = shapeOf(withoutNull(place).place, at(value, holder))
    const there = at(value, holder)
    const taken = typeof there === 'object' && there !== null ? Object.keys(there) : []
    const words = Object.keys(shape.properties ?? {}).filter((name) => !taken.includes(name))
    return { from, to, words: words.map((name) => JSON.stringify(name)) }
  }
  const place = schemaAt(rulebookPlaces(), path, value)
  if (!place) return null
  const { mayBeNull, place: of } = withoutNull(place)
  const shape = shapeOf(of, at(value, path))
  const words = [
    ...(shape.enum ?? []).map((word) => JSON.stringify(word)),
    ...(shape.type === 'boolean' ? ['true', 'false'] : []),
    ...(mayBeNull ? ['null'] : []),
  ]
  return words.length === 0 ? null : { from, to, words }
}

const wordStart = (text: string, offset: number): number =>
  offset - (/["\w-]*$/.exec(text.slice(0, offset))?.[0].length ?? 0)

const at = (value: unknown, path: readonly (string | number)[]): unknown =>
  path.reduce<unknown>(
    (holder, step) =>
      typeof holder === 'object' && holder !== null ? (holder as Record<string | number, unknown>)[step] : undefined,
    value,
  )
