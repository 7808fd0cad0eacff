import { rulebookSchema, type Rulebook } from '../game/schema.ts'

/**
 * A game that is strict about entries: it reads them in order, asks for lines and for a row of each look, and has
 * things that have to be like a donor. It has no list of files, so that an entry can be changed alone.
 */
export function strictGame(of: Rulebook): Rulebook {
  const { catalogue, files, kinds, stock, ...rest } = structuredClone(of)
  const asked = ['title', 'price']
  return rulebookSchema.parse({
    ...rest,
    id: `${of.id}-strict`,
    files: { ...files, manifest: { ...files.manifest, writer: 'none' } },
    kinds: kinds.map((kind) => ({ ...kind, donorAsked: kind.id === 'mover' })),
    stock: {
      ...stock,
      donors: [
        ...stock.donors,
        { id: 'stock_sail', title: 'Sail', surface: 'timber', toughness: 5, remains: 'rags', remainsSurface: 'cloth' },
      ],
    },
    catalogue: {
      ...catalogue,
      inOrder: true,
      fields: [
        ...catalogue.fields.map((field) => ({ ...field, needed: asked.includes(field.key) })),
        { key: 'code', title: 'Code', value: { sort: 'text', longest: 6, pattern: '[A-Z]{2}[0-9]+' } },
        { key: 'crew', title: 'Crew', value: { sort: 'list', least: 1, most: 2, of: { sort: 'text', longest: 9 } } },
      ],
      rows: catalogue.rows && {
        ...catalogue.rows,
        kinds: ['mover'],
        everyLook: true,
        fields: catalogue.rows.fields.map((field) => ({ ...field, needed: field.key === 'title' })),
      },
    },
  })
}
