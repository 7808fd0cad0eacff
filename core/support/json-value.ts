import { z } from 'zod'

const MOST_DEPTH = 40
const MOST_VALUES = 1_000_000

/**
 * Whether a value is what JSON can hold, within bounds that also end on one that holds itself.
 * @example isJsonValue({ size: Infinity }) // false
 */
export function isJsonValue(value: unknown): boolean {
  const left: { value: unknown; depth: number }[] = [{ value, depth: 0 }]
  for (let seen = 0; left.length > 0; seen++) {
    const next = left.pop()
    if (!next || seen > MOST_VALUES || next.depth > MOST_DEPTH) return false
    const inside = childrenOf(next.value)
    if (!inside) return false
    for (const child of inside) left.push({ value: child, depth: next.depth + 1 })
  }
  return true
}

/** What a value of JSON holds; null for what JSON does not know. */
function childrenOf(value: unknown): readonly unknown[] | null {
  if (value === null || value === undefined || typeof value === 'string' || typeof value === 'boolean') return []
  if (typeof value === 'number') return Number.isFinite(value) ? [] : null
  if (Array.isArray(value)) return value
  if (typeof value !== 'object') return null
  const prototype: unknown = Object.getPrototypeOf(value)
  return prototype === Object.prototype || prototype === null ? Object.values(value) : null
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Settings with others said over them: what a record holds is laid over key by key, anything else takes the place of
 * what was there.
 *
 * @example laidOver({ fields: { price: 4, shelf: 'quay' } }, { fields: { price: 9 } }) // { fields: { price: 9, shelf: 'quay' } }
 */
export function laidOver(
  settings: Readonly<Record<string, unknown>>,
  said: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const merged: Record<string, unknown> = { ...settings }
  for (const [key, value] of Object.entries(said)) {
    const before = Object.hasOwn(settings, key) ? settings[key] : undefined
    merged[key] = isRecord(before) && isRecord(value) ? laidOver(before, value) : value
  }
  return merged
}

/** A record of values that JSON can hold: what a step is set to, and the like. */
export const jsonRecordSchema = z
  .record(z.string(), z.unknown())
  .refine(isJsonValue, 'holds what a file cannot: a number that is none, or values too deep')
