import { describe, expect, it } from 'vitest'
import { rulebookById } from './load.ts'
import { rulebookSchema, type Rulebook } from './schema.ts'

const parish = rulebookById('pegboard-parish')

describe('a rulebook of half-blocks', () => {
  const changed = (change: (book: Rulebook) => void): string => {
    const book = structuredClone(parish)
    change(book)
    const parsed = rulebookSchema.safeParse(book)
    return parsed.success
      ? 'taken'
      : parsed.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('; ')
  }

  it.each<[string, (book: Rulebook) => void, string]>([
    ['describes none', (book) => (book.halfBlocks = null), 'halfBlocks: a list of parts is made of half-blocks'],
    ['writes meshes', (book) => (book.files.mesh.writer = 'obj'), 'halfBlocks: OBJ holds no half-blocks'],
    [
      'counts otherwise',
      (book) => book.kinds[0].mesh && (book.kinds[0].mesh.triangles = 24_000),
      'kinds.0.mesh.halfBlocks: two half-blocks make a triangle: 24000 triangles are 48000, not 24000',
    ],
    [
      'says no number',
      (book) => book.kinds[1].mesh && (book.kinds[1].mesh.halfBlocks = null),
      'kinds.1.mesh.halfBlocks: the kind “kerbpiece” says no number of half-blocks',
    ],
    [
      'asks for maps',
      (book) => (book.maps.roles = rulebookById('hollin-keep').maps.roles),
      'maps.roles: half-blocks have no UVs',
    ],
    [
      'calls two things alike',
      (book) => book.halfBlocks && (book.halfBlocks.words.turn = 'legs'),
      'halfBlocks.words: two things have one word',
    ],
  ])('that %s is refused, with the place', (_, change, said) => {
    expect(changed(() => undefined)).toBe('taken')
    expect(changed(change)).toContain(said)
  })
})
