import type { Contradiction } from './contradictions.ts'
import type { Rulebook } from './schema.ts'

/**
 * Where a rulebook calls bodies of level geometry so that they cannot be told apart.
 * @example wrongBodies(rulebook) // []
 */
export function wrongBodies({ bodies }: Rulebook): Contradiction[] {
  if (!bodies) return []
  const templates = Object.entries(bodies)
  const nameless = templates.flatMap(([is, template]) =>
    template.includes('{part}')
      ? []
      : [{ path: ['bodies', is], message: 'every body would have the same name: {part} is not in it' }],
  )
  const alike = templates.filter(([, template], at) => templates.findIndex(([, other]) => other === template) < at)
  return [
    ...nameless,
    ...alike.map(([is]) => ({ path: ['bodies', is], message: 'two sorts of bodies are called alike' })),
  ]
}
