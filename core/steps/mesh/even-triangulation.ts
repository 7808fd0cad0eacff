import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { listViewParts, type Part } from '../../item/parts.ts'
import { countLargePolygons } from '../../item/polygons.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { bumpinessDegrees } from '../../geometry/surface/bumpiness.ts'
import { evenTriangulation, type EvenMesh } from '../../geometry/mesh/even-triangulation.ts'
import { readMesh, writeMesh, type MeshArrays } from '../../operations/meshes/mesh-arrays.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { rememberByValue } from '../../support/remember.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'

const parameters = z.object({
  parts: namesInItem,
  distanceLimit: z.number().min(0).max(1000),
  featureAngleDegrees: z.number().min(1).max(180),
  rounds: z.number().int().min(0).max(100),
})
type Parameters = z.infer<typeof parameters>

/** Evens out a dented triangulation. */
export const evenTriangulationStep = defineStep<Parameters>({
  id: 'even-triangulation',
  version: 2,
  stage: 'mesh',
  title: 'Even triangulation',
  purpose:
    'Pairs triangles into quads where the surface allows, flips edges that run across the bend and lets dents ' +
    'relax within a limit.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'number',
      key: 'distanceLimit',
      label: 'Move at most',
      unit: rulebook.space.unit.plural,
      least: 0,
      // Large things may have large dents.
      most: Math.max(1, likelyLimit(document) * 2),
      step: 0.005,
      slider: true,
    },
    {
      type: 'number',
      key: 'featureAngleDegrees',
      label: 'Edges from',
      unit: '° stay edges',
      least: 1,
      most: 180,
      step: 1,
      slider: true,
    },
    { type: 'number', key: 'rounds', label: 'Rounds', unit: 'of relaxing', least: 0, most: 100, step: 1 },
    { type: 'parts', key: 'parts', label: 'Parts' },
  ],
  defaults: ({ document }) => ({
    parts: listViewParts(document).map((part) => part.name),
    distanceLimit: likelyLimit(document),
    featureAngleDegrees: FEATURE_DEGREES,
    rounds: 20,
  }),
  propose(context) {
    const { document } = context
    const defaults = this.defaults(context) as Parameters
    const dented =
      countLargePolygons(document) > 0 ? [] : listViewParts(document).flatMap((part) => evenedScan(part, defaults))
    if (dented.length === 0) return []
    const effects = dented.map(
      ({ part, before, after }) => `${part.name} from ${before.toFixed(2)}° to ${after.toFixed(2)}°`,
    )
    return [
      {
        parameters: { ...defaults, parts: dented.map(({ part }) => part.name) },
        reason:
          `${plural(dented.length, 'part')} came as bare triangles that dent back and forth; evened out, the ` +
          `bumpiness falls: ${effects.join(', ')}.`,
      },
    ]
  },
  async run({ document, parameters: chosen, progress, rulebook }) {
    const parts = listViewParts(document).filter((part) => chosen.parts.includes(part.name))
    if (parts.length === 0 && chosen.parts.length > 0) return gonePart(chosen.parts[0])
    const details: string[] = []
    const meshes = [...new Set(parts.map((part) => part.mesh))]
    const totals = { flips: 0, before: 0, after: 0, triangles: 0 }
    for (const [number, mesh] of meshes.entries()) {
      await progress(number / meshes.length, mesh.getName())
      const arrays = readMesh(mesh)
      const made = evened(arrays, chosen)
      writeMesh(document, mesh, arrays, { positions: made.positions, indices: made.indices, attributes: new Map() })
      const triangles = arrays.indices.length / 3
      totals.flips += made.flips
      totals.before += made.bumpinessBefore * triangles
      totals.after += made.bumpinessAfter * triangles
      totals.triangles += triangles
      details.push(
        `${mesh.getName()}: bumpiness ${made.bumpinessBefore.toFixed(2)}° → ${made.bumpinessAfter.toFixed(2)}°; ` +
          `${formatCount(made.flips)} edges flipped, ${formatCount(made.quads * 2)} of ${formatCount(triangles)} ` +
          `triangles pair into quads, nothing moved further than ${formatLength(made.furthestMove)} ` +
          `${rulebook.space.unit.plural}.`,
      )
    }
    dropUnusedAccessors(document)
    const [before, after] = [totals.before, totals.after].map((sum) =>
      totals.triangles > 0 ? sum / totals.triangles : 0,
    )
    return {
      headline: `${before.toFixed(1)}° → ${after.toFixed(1)}°`,
      details,
      changed: totals.flips > 0 || before !== after,
    }
  },
})

const FEATURE_DEGREES = 35
/** What is not at least this much less bumpy afterwards was not dented. */
const WORTH_IT = 0.7
/** What is less bumpy than this was drawn, not scanned. */
const LEAST_DENTED_DEGREES = 0.3
/** What is not this much less bumpy after the first rounds does not get there with all. */
const FIRST_ROUNDS = 2
const WORTH_GOING_ON = 0.95
/** Larger scans are not tried out for a proposal; the step itself takes any. */
const MOST_TRIED_TRIANGLES = 60_000

/** What is tried for a proposal is, as a rule, what the step then does. */
const remembered = rememberByValue(evenTriangulation, 16)

function evened(
  { positions, indices, protectedCorners }: MeshArrays,
  { distanceLimit, featureAngleDegrees, rounds }: Parameters,
): EvenMesh {
  const even = indices.length / 3 > MOST_TRIED_TRIANGLES ? evenTriangulation : remembered
  return even(positions, indices, { distanceLimit, featureAngleDegrees, rounds, fixedCorners: protectedCorners })
}

/**
 * Bare triangles without material, normals or UVs, as scans and prints come, and how much evening out helps: only there
 * can an unwanted dent be told from a wanted one.
 */
function evenedScan(part: Part, options: Parameters): { part: Part; before: number; after: number }[] {
  if (
    part.mesh
      .listPrimitives()
      .some(
        (primitive) =>
          primitive.getMaterial() || primitive.getAttribute('TEXCOORD_0') || primitive.getAttribute('NORMAL'),
      )
  )
    return []
  const arrays = readMesh(part.mesh)
  const { positions, indices } = arrays
  if (indices.length / 3 > MOST_TRIED_TRIANGLES) return []
  if (bumpinessDegrees(positions, indices, options.featureAngleDegrees) < LEAST_DENTED_DEGREES) return []
  const soon = evened(arrays, { ...options, rounds: Math.min(options.rounds, FIRST_ROUNDS) })
  if (soon.bumpinessAfter > soon.bumpinessBefore * WORTH_GOING_ON) return []
  const { bumpinessBefore, bumpinessAfter } = evened(arrays, options)
  return bumpinessAfter < bumpinessBefore * WORTH_IT ? [{ part, before: bumpinessBefore, after: bumpinessAfter }] : []
}

/** One hundredth of the longest side: dents are smaller, shapes larger. */
const likelyLimit = (document: Document): number =>
  Number((Math.max(...boundsSize(partsBounds(listViewParts(document)))) / 100).toPrecision(2)) || 0.01
