import type { CatalogueField, FieldValue } from '../game/schema-catalogue.ts'
import { catalogueFieldSchema } from '../game/schema-catalogue.ts'
import { nameInWords } from '../support/wording.ts'
import type { SeenField } from './learn-entry-fields.ts'
import type { LearnedLine } from './learned.ts'

/** Nobody knows how far a game lets a number go: what was seen is no limit. */
const BEYOND_SEEN = 1e6

/**
 * The lines that entries have besides their files, as a catalogue: each by what it was seen to hold. Lines below others
 * are left out, and so are files.
 *
 * @example const lines = learnCatalogue(learnEntryFields(packs, learnEntryWords(packs)))
 */
export function learnCatalogue(seen: readonly SeenField[]): LearnedLine[] {
  const fields = seen.flatMap((field) => catalogueField(field) ?? [])
  if (fields.length === 0) return []
  return [
    {
      path: ['catalogue', 'fields'],
      value: fields,
      files: Math.max(...seen.map(({ entries }) => entries)),
      sureness: 'guess',
      why: 'what entries say besides their files; limits are not known from what was seen',
      against: [],
    },
  ]
}

function catalogueField({ place, holds, entries, of }: SeenField): CatalogueField | null {
  const inList = place.endsWith('.*')
  const key = inList ? place.slice(0, -2) : place
  const single = valueOf(holds)
  if (!single) return null
  const value: FieldValue =
    inList && single.sort !== 'list' ? { sort: 'list', of: single, least: 0, most: 1000 } : single
  const field = catalogueFieldSchema.safeParse({
    key,
    title: nameInWords(key),
    described: `Seen in ${entries} of ${of} entries.`,
    value,
  })
  return field.success ? field.data : null
}

function valueOf(holds: SeenField['holds']): FieldValue | null {
  switch (holds.sort) {
    case 'number':
      return {
        sort: 'number',
        unit: '',
        least: Math.min(0, holds.least),
        most: Math.max(BEYOND_SEEN, holds.most),
        whole: holds.whole,
      }
    case 'yes-no':
      return { sort: 'yes-no' }
    case 'word':
    case 'text':
      return { sort: 'text', longest: 2000, pattern: null }
    default:
      return null
  }
}
