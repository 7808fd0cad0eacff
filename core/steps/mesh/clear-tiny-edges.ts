import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { noteGivenUp } from '../../item/given-up.ts'
import { clearTinyEdges as clearEdges } from '../../geometry/mesh/clear-tiny-edges.ts'
import { cutIntoHalfBlocks } from '../../geometry/mesh/half-blocks.ts'
import { gatherTriangles, putTrays, trianglesOfSurfaces } from '../../operations/meshes/trays.ts'
import type { StepContext } from '../../operations/context.ts'
import { defineStep } from '../step.ts'
import { formatChange, formatCount, formatLength, plural } from '../../support/wording.ts'

const parameters = z.object({
  /** In game units. */
  shortestEdge: z.number().positive().max(1000),
})
type Parameters = z.infer<typeof parameters>

/** Takes away what is too small to be built of half-blocks. */
export const clearTinyEdges = defineStep<Parameters>({
  id: 'clear-tiny-edges',
  version: 1,
  stage: 'mesh',
  title: 'Clear tiny edges',
  purpose:
    'Cuts slivers the other way or in the middle and collapses edges until each triangle can be built of ' +
    'half-blocks; what is left then is dropped.',
  parameters,
  fields: ({ rulebook }) => [
    {
      type: 'number',
      key: 'shortestEdge',
      label: 'No side of a half-block under',
      unit: rulebook.space.unit.plural,
      least: 0.001,
      most: 100,
      step: 0.01,
    },
  ],
  defaults: ({ rulebook }) => ({ shortestEdge: withRoom(rulebook.halfBlocks?.shortestEdge ?? 0.1) }),
  propose(context) {
    const { rulebook, document } = context
    if (!rulebook.halfBlocks) return []
    const tiny = countTiny(document, rulebook.halfBlocks.shortestEdge)
    if (tiny === 0) return []
    return [
      {
        parameters: this.defaults(context as StepContext) as Parameters,
        reason:
          `${plural(tiny, 'triangle')} would have half-blocks with a side under ` +
          `${rulebook.halfBlocks.shortestEdge} ${rulebook.space.unit.plural}; the game builds none.`,
      },
    ]
  },
  async run({ document, rulebook, parameters: { shortestEdge } }) {
    const gathered = gatherTriangles(document)
    const before = gathered.indices.length / 3
    const cleared = clearEdges(gathered.positions, gathered.indices, gathered.surfaceOfTriangle, shortestEdge)
    const unit = rulebook.space.unit.plural
    if (
      cleared.collapsed + cleared.flipped + cleared.split + cleared.dropped === 0 &&
      cleared.indices.length / 3 === before
    )
      return { headline: 'none', details: [`No half-block has a side under ${shortestEdge} ${unit}.`], changed: false }
    const whole = { ...cleared, surfaceOfTriangle: cleared.surfaces }
    const trays = gathered.surfaces.flatMap(({ part, material }, surface) => {
      const triangles = trianglesOfSurfaces(whole, (each) => each === surface)
      return triangles.indices.length === 0 ? [] : [{ name: part, material: material as Material, ...triangles }]
    })
    putTrays(document, trays)
    const after = cleared.indices.length / 3
    if (cleared.dropped > 0)
      noteGivenUp(document, {
        what: 'Slivers',
        where: 'item',
        message:
          `${plural(cleared.dropped, 'sliver')} could not be built and ${cleared.dropped === 1 ? 'is' : 'are'} ` +
          `left out; the widest gap is ${formatLength(cleared.widestGap)} ${unit}`,
        why: 'No side of a half-block may be shorter than the game’s least.',
      })
    return {
      headline: formatChange(after - before),
      details: [
        `${formatCount(before)} triangles became ${formatCount(after)}: ${plural(cleared.collapsed, 'edge')} ` +
          `collapsed, ${plural(cleared.flipped, 'sliver')} cut the other way, ` +
          `${plural(cleared.split, 'long edge')} cut in the middle, ${formatCount(cleared.dropped)} ` +
          `dropped${cleared.dropped > 0 ? `, the widest ${formatLength(cleared.widestGap)} ${unit}` : ''}.`,
        `No corner moved further than ${formatLength(cleared.furthest)} ${unit}.`,
      ],
      changed: true,
    }
  },
})

/** Places are written in so many digits: a side of just the least might come out a hair shorter. */
const withRoom = (edge: number): number => Number((edge * 1.01).toPrecision(3))

function countTiny(document: Document, shortestEdge: number): number {
  const { positions, indices } = gatherTriangles(document)
  return cutIntoHalfBlocks(positions, indices).shortestSide.reduce(
    (count, side) => count + (side < shortestEdge ? 1 : 0),
    0,
  )
}
