import type { Contradiction } from '../contradictions.ts'
import type { Rulebook } from '../schema.ts'

type Path = Contradiction['path']

/**
 * Lines, donors and entries that no item will ever have, since what they are of is not in the rulebook.
 * @example catalogueDoubts(rulebook) // []
 */
export const catalogueDoubts = (rulebook: Rulebook): Contradiction[] => [
  ...strangeKinds(rulebook),
  ...strangeCategories(rulebook),
  ...strangeSurfaces(rulebook),
]

function strangeKinds({ catalogue, kinds, stock }: Rulebook): Contradiction[] {
  const known = new Set(kinds.map(({ id }) => id))
  const stranger = (of: readonly string[] | null, path: Path): Contradiction[] =>
    (of ?? []).filter((id) => !known.has(id)).map((id) => ({ path, message: `there is no kind “${id}”` }))
  return [
    ...catalogue.fields.flatMap(({ kinds: of, value }, number) => {
      const single = value.sort === 'list' ? value.of : value
      return [
        ...stranger(of, ['catalogue', 'fields', number, 'kinds']),
        ...(single.sort === 'reference'
          ? stranger(single.ofKinds, ['catalogue', 'fields', number, 'value', 'ofKinds'])
          : []),
      ]
    }),
    ...stranger(catalogue.rows?.kinds ?? null, ['catalogue', 'rows', 'kinds']),
    ...stock.donors.flatMap(({ kinds: of }, number) => stranger(of, ['stock', 'donors', number, 'kinds'])),
    ...stock.entries.flatMap(({ kind, like, id }, number) => [
      ...stranger([kind], ['stock', 'entries', number, 'kind']),
      ...(like !== undefined && !stock.donors.some((donor) => donor.id === like)
        ? [
            {
              path: ['stock', 'entries', number, 'like'],
              message: `“${id}” is like “${like}”, and there is no such donor`,
            },
          ]
        : []),
    ]),
  ]
}

const strangeCategories = ({ catalogue, kinds }: Rulebook): Contradiction[] =>
  catalogue.categories.flatMap(({ category }, number) =>
    kinds.some((kind) => kind.category === category)
      ? []
      : [
          {
            path: ['catalogue', 'categories', number, 'category'],
            message: `no kind is of the category “${category}”`,
          },
        ],
  )

const strangeSurfaces = ({ stock, materials }: Rulebook): Contradiction[] =>
  stock.donors.flatMap(({ title, surface, remainsSurface }, number) =>
    [surface, ...(remainsSurface === null ? [] : [remainsSurface])]
      .filter((each) => !materials.surfaces.some(({ name }) => name === each))
      .map((each) => ({
        path: ['stock', 'donors', number],
        message: `“${title}” is of “${each}”, and there is no such surface`,
      })),
  )
