import { fillTemplate, templatePattern } from '../../../support/templates.ts'
import type { AnnotationKind } from '../annotation-kind.ts'
import { solidShapes } from './facts.ts'

/** What the figure and other things bump into. */
export const solid: AnnotationKind = {
  role: 'solid',
  title: 'Solid',
  is: 'shape',
  packedName: ({ solids }, facts, { before }) =>
    fillTemplate(solids.name, { shape: facts.solid?.shape ?? 'box', nn: String(before + 1).padStart(2, '0') }),
  packedExtras: (facts) =>
    facts.solid ? { surface: facts.solid.surface, layers: facts.solid.layers, mass: facts.solid.massKilograms } : null,
  recognise(node, { solids }) {
    const name = templatePattern(solids.name, { shape: `(${solidShapes.join('|')})`, nn: '\\d\\d+' })
    const shape = solidShapes.find((each) => each === name.exec(node.getName())?.[1])
    return shape ? { solid: { shape, ...saidOf(node.getExtras()) } } : null
  },
}

/** What a solid says of itself; anything of another type counts as not said. */
function saidOf({ surface, layers, mass }: Record<string, unknown>): {
  surface: string | null
  layers: string[]
  massKilograms: number | null
} {
  return {
    surface: typeof surface === 'string' ? surface.slice(0, 64) : null,
    layers: Array.isArray(layers)
      ? layers
          .filter((layer) => typeof layer === 'string')
          .slice(0, 1000)
          .map((layer) => layer.slice(0, 64))
      : [],
    massKilograms: typeof mass === 'number' ? mass : null,
  }
}
