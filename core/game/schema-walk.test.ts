import { describe, expect, it } from 'vitest'
import { builtInRulebooks, rulebookById, rulebookJsonSchema } from './load.ts'
import { rulebookSchema } from './schema.ts'
import { emptyValue, schemaAt, schemaPlace, shapeOf, withoutNull } from './schema-walk.ts'

const schema = schemaPlace.parse(rulebookJsonSchema())
const tarn = rulebookById('tarn-and-tiller')

/** Every path to a value of a rulebook, of objects and lists too. */
function pathsOf(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path]
  const entries: [string | number, unknown][] = Array.isArray(value) ? [...value.entries()] : Object.entries(value)
  return [path, ...entries.flatMap(([step, below]) => pathsOf(below, [...path, step]))]
}

describe('the schema of rulebooks, walked', () => {
  it('says something of every place of every built-in rulebook', () => {
    for (const rulebook of builtInRulebooks())
      expect(pathsOf(rulebook).filter((path) => schemaAt(schema, path, rulebook) === null)).toEqual([])
  })
  it('knows words, numbers and what may be left out', () => {
    expect(schemaAt(schema, ['maps', 'roles', 0, 'colourSpace'], tarn)?.enum).toEqual(['srgb', 'data'])
    expect(schemaAt(schema, ['kinds', 0, 'mesh', 'triangles'], tarn)?.type).toBe('integer')
    const slots = schemaAt(schema, ['slots'], tarn)
    expect(slots && withoutNull(slots).mayBeNull).toBe(true)
    expect(schemaAt(schema, ['maps', 'colours'], tarn)).toBeNull()
  })
  it('takes the shape that a value has, by its fixed field', () => {
    const naming = schemaAt(schema, ['materials', 'naming'], tarn) ?? {}
    expect(Object.keys(shapeOf(naming, { form: 'path' }).properties ?? {})).toEqual(['form', 'ofRole', 'longest'])
    expect(Object.keys(shapeOf(naming, { form: 'plain' }).properties ?? {})).toEqual(['form'])
  })
  it('begins a thing with values that its own field takes', () => {
    const role = schemaAt(schema, ['maps', 'roles', 0], tarn)
    const begun = { ...(emptyValue(role ?? {}) as object), role: 'paint' }
    expect(rulebookSchema.shape.maps.shape.roles.element.safeParse({ ...begun, codecs: ['none'] }).success).toBe(true)
    expect(emptyValue(schemaAt(schema, ['solids', 'bodies', 0, 'size'], tarn) ?? {})).toEqual([1, 1, 1])
    expect(emptyValue(schemaAt(schema, ['slots'], tarn) ?? {})).toBeNull()
  })
})
