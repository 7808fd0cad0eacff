import { z } from 'zod'

/** A place of a JSON Schema (draft 2020-12), as far as ours say something there. */
export const schemaPlace = z.looseObject({
  type: z.union([z.string(), z.array(z.string())]).optional(),
  description: z.string().optional(),
  default: z.unknown().optional(),
  enum: z.array(z.union([z.string(), z.number(), z.boolean(), z.null()])).optional(),
  const: z.unknown().optional(),
  minimum: z.number().optional(),
  exclusiveMinimum: z.number().optional(),
  maximum: z.number().optional(),
  maxLength: z.number().optional(),
  required: z.array(z.string()).optional(),
  get properties() {
    return z.record(z.string(), schemaPlace).optional()
  },
  get items() {
    return z.union([schemaPlace, z.boolean()]).optional()
  },
  get additionalProperties() {
    return z.union([schemaPlace, z.boolean()]).optional()
  },
  get prefixItems() {
    return z.array(schemaPlace).optional()
  },
  get anyOf() {
    return z.array(schemaPlace).optional()
  },
  get oneOf() {
    return z.array(schemaPlace).optional()
  },
})
export type SchemaPlace = z.infer<typeof schemaPlace>

const choicesOf = ({ anyOf, oneOf }: SchemaPlace): SchemaPlace[] => [...(anyOf ?? []), ...(oneOf ?? [])]

/**
 * Whether nothing may stand there, and what stands there otherwise.
 * @example const { mayBeNull, place } = withoutNull(asked)
 */
export function withoutNull(place: SchemaPlace): { mayBeNull: boolean; place: SchemaPlace } {
  if (Array.isArray(place.type))
    return {
      mayBeNull: place.type.includes('null'),
      place: { ...place, type: place.type.find((type) => type !== 'null') },
    }
  const choices = choicesOf(place)
  const rest = choices.filter(({ type }) => type !== 'null')
  if (rest.length === choices.length || rest.length === 0) return { mayBeNull: false, place }
  const { anyOf: _anyOf, oneOf: _oneOf, ...of } = place
  return { mayBeNull: true, place: rest.length === 1 ? { ...of, ...rest[0] } : { ...of, oneOf: rest } }
}

/**
 * The one of several shapes that a value has, by the field that is fixed in each; the first where it has none.
 * @example const { properties } = shapeOf(place, { sort: 'number' })
 */
export function shapeOf(place: SchemaPlace, value: unknown): SchemaPlace {
  const shapes = choicesOf(place)
  if (shapes.length === 0) return place
  const said = typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {}
  const fits = ({ properties = {}, type }: SchemaPlace): boolean =>
    Array.isArray(value) === (type === 'array') &&
    Object.entries(properties).every(([name, { const: fixed }]) => fixed === undefined || said[name] === fixed)
  return shapes.find(fits) ?? shapes[0]
}

/**
 * What a schema says at a path of a value; null where it says nothing.
 *
 * @example schemaAt(schema, ['maps', 'roles', 0, 'colourSpace'], rulebook)?.enum // ['srgb', 'data']
 */
export function schemaAt(schema: SchemaPlace, path: readonly (string | number)[], value: unknown): SchemaPlace | null {
  let place = schema
  let at = value
  for (const step of path) {
    place = shapeOf(withoutNull(place).place, at)
    const next =
      typeof step === 'number'
        ? (place.prefixItems?.[step] ?? (typeof place.items === 'object' ? place.items : undefined))
        : (place.properties?.[step] ??
          (typeof place.additionalProperties === 'object' ? place.additionalProperties : undefined))
    if (!next) return null
    place = next
    at = typeof at === 'object' && at !== null ? (at as Record<string | number, unknown>)[step] : undefined
  }
  return place
}

/**
 * The least that may stand at a place, to begin with: defaults, the first of several words, nothing in lists.
 *
 * @example const line = emptyValue(place)
 */
export function emptyValue(place: SchemaPlace): unknown {
  if (place.default !== undefined) return place.default
  const { mayBeNull, place: inner } = withoutNull(place)
  if (mayBeNull) return null
  const of = shapeOf(inner, undefined)
  if (of.const !== undefined) return of.const
  if (of.enum) return of.enum[0]
  if (of.prefixItems) return of.prefixItems.map(emptyValue)
  if (of.type === 'object')
    return Object.fromEntries((of.required ?? []).map((name) => [name, emptyValue(of.properties?.[name] ?? {})]))
  if (of.type === 'array') return []
  if (of.type === 'boolean') return false
  if (of.type === 'number' || of.type === 'integer') return Math.max(of.minimum ?? 0, (of.exclusiveMinimum ?? -1) + 1)
  return ''
}
