import { solidShapes } from '../../item/annotations/solid/facts.ts'
import { countTriangles, listViewParts } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { PlainError } from '../../support/plain-error.ts'
import { outsideConvex, type TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { placedMesh, type PlacedShape } from '../../geometry/shapes/placed-shape.ts'
import { createSurfaceFinder } from '../../geometry/surface/surface-distance.ts'
import { standOut } from '../../geometry/shapes/stand-out.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { addSolidParameters, type AddSolidParameters } from '../../operations/solids/add-solid-parameters.ts'
import { massesOf, putSolid, surfaceOfPart } from '../../operations/solids/put-solid.ts'
import { proposeSolids } from '../../operations/solids/propose-solids.ts'
import { editShape, fitSolid, shapeTitles, solidGround, type SolidShape } from '../../operations/solids/solid-shape.ts'
import { defineStep, gonePart, type StepField } from '../step.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'

/** Adds a collision shape to a part. */
export const addSolid = defineStep<AddSolidParameters>({
  id: 'add-solid',
  version: 3,
  stage: 'solids',
  title: 'Add a solid',
  purpose:
    'Gives a part something to bump into: a box, a ball, a capsule, one convex hull or several, or a mesh with ' +
    'few triangles; fitted to the part, to picked faces or to the whole item.',
  parameters: addSolidParameters,
  fields: ({ rulebook, kind }) => solidFields(rulebook, kind),
  defaults: ({ document, rulebook, kind }) => {
    const part = listViewParts(document)[0]
    return {
      part: part?.name ?? '',
      of: 'part',
      parts: [],
      faces: [],
      shape: 'box',
      turned: false,
      surface: (part && surfaceOfPart(part, document, rulebook)) ?? rulebook.materials.surfaces[0].name,
      layers: rulebook.solids.defaultLayers,
      weighing: kind.solids?.massKilograms ? 'volume' : 'hand',
      massKilograms: kind.solids?.massKilograms ? 10 : 0,
      points: rulebook.solids.hullPoints,
      error: 0,
      hulls: 1,
      triangles: 400,
      onlyOutside: false,
      moved: [0, 0, 0],
      turnedDegrees: [0, 0, 0],
      sized: [1, 1, 1],
    }
  },
  propose: (context) => proposeSolids(context, (part) => surfaceOfPart(part, context.document, context.rulebook)),
  async run({ document, parameters: chosen, rulebook, kind, progress }) {
    const part = listViewParts(document).find((each) => each.name === chosen.part)
    if (!part) return gonePart(chosen.part)
    const refused = shapeRefusal(chosen.shape, rulebook, kind)
    if (refused) throw new PlainError(refused, 'Add a solid', `It takes ${kind.solids?.shapes.join(', ') || 'none'}.`)
    await progress(0, part.name)
    const ground = solidGround(document, part, chosen)
    const shapes = (await fitSolid(ground, chosen, progress)).map((shape) => editShape(chosen.shape, shape, chosen))
    await progress(0.85, 'how well it fits')
    const masses = massesOf(shapes, chosen, rulebook, kind)
    const names = shapes.map((shape, index) =>
      putSolid(document, part, shape, chosen, rulebook, masses?.[index] ?? null),
    )
    const total = countTriangles(listViewParts(document)) + countTriangles(listSolids(document))
    const triangles = shapes.reduce((sum, { mesh }) => sum + mesh.indices.length / 3, 0)
    return {
      headline: shapes.length > 1 ? `${shapes.length} hulls` : `${chosen.shape} · ${formatCount(triangles)}`,
      details: [
        `${names.join(', ')} ${names.length === 1 ? 'was' : 'were'} put under ${part.name}: ${plural(triangles, 'triangle')}, ${plural(
          shapes.reduce((sum, { mesh }) => sum + mesh.positions.length / 3, 0),
          'point',
        )}, ${chosen.surface}.`,
        fitSentence(ground, shapes, chosen.shape, rulebook),
        `View and solids together now have ${formatCount(total)} triangles.`,
        ...(masses
          ? [
              `Mass ${formatLength(masses.reduce((sum, mass) => sum + mass, 0))} ` +
                `kg${chosen.weighing === 'volume' ? `: its volume of ${chosen.surface}, within what a ${kind.title.toLowerCase()} may weigh` : ''}.`,
            ]
          : []),
      ],
      changed: true,
    }
  },
})

/**
 * Why a shape cannot be chosen; null when it can.
 * @example const refusal = shapeRefusal('hull', rulebook, kind)
 */
export function shapeRefusal(shape: SolidShape, rulebook: Rulebook, kind: Kind): string | null {
  if (!kind.solids) return `a ${kind.title.toLowerCase()} takes no solids`
  if (kind.solids.shapes.includes(shape)) return null
  if (shape === 'mesh' && rulebook.solids.meshOnlyIfFixed && !kind.solids.fixed)
    return 'things that move collide only as convex shapes, so a mesh is for what is fixed'
  if (!rulebook.kinds.some((each) => each.solids?.shapes.includes(shape)))
    return `${rulebook.title} has no ${shape} solids`
  return `a ${kind.title.toLowerCase()} takes no ${shape} solids`
}

function solidFields(rulebook: Rulebook, kind: Kind): StepField[] {
  const { unit } = rulebook.space
  const range = kind.solids?.massKilograms
  return [
    { type: 'part', key: 'part', label: 'Under the part' },
    {
      type: 'choice',
      key: 'of',
      label: 'Fitted to',
      options: [
        { value: 'part', label: 'That part' },
        { value: 'parts', label: 'Several parts' },
        { value: 'faces', label: 'Picked faces' },
        { value: 'item', label: 'The whole item' },
      ],
    },
    { type: 'parts', key: 'parts', label: 'Parts', when: { key: 'of', is: ['parts'] } },
    { type: 'faces', key: 'faces', label: 'Faces', when: { key: 'of', is: ['faces'] } },
    {
      type: 'choice',
      key: 'shape',
      label: 'Shape',
      options: solidShapes.map((shape) => ({
        value: shape,
        label: shapeTitles[shape],
        refused: shapeRefusal(shape, rulebook, kind) ?? undefined,
      })),
    },
    { type: 'toggle', key: 'turned', label: 'Turned as tightly as it goes', when: { key: 'shape', is: ['box'] } },
    {
      type: 'number',
      key: 'points',
      label: 'Up to',
      unit: `points (≤ ${rulebook.solids.hullPoints})`,
      least: 4,
      most: rulebook.solids.hullPoints,
      step: 1,
      slider: true,
      when: { key: 'shape', is: ['hull'] },
    },
    {
      type: 'number',
      key: 'error',
      label: 'May miss',
      unit: `${unit.plural}; 0 for all points`,
      least: 0,
      most: 10,
      step: 0.01,
      when: { key: 'shape', is: ['hull'] },
    },
    {
      type: 'number',
      key: 'hulls',
      label: 'Split into',
      unit: `hulls (≤ ${rulebook.solids.mostPerItem} solids)`,
      least: 1,
      most: Math.min(48, rulebook.solids.mostPerItem),
      step: 1,
      when: { key: 'shape', is: ['hull'] },
    },
    {
      type: 'number',
      key: 'triangles',
      label: 'Up to',
      unit: 'triangles',
      least: 12,
      most: 3000,
      step: 10,
      slider: true,
      when: { key: 'shape', is: ['mesh'] },
    },
    { type: 'toggle', key: 'onlyOutside', label: 'Keep only the outside', when: { key: 'shape', is: ['mesh'] } },
    { type: 'shape-edit', key: 'shape-edit', label: 'Moved, turned, sized', unit: unit.plural },
    {
      type: 'choice',
      key: 'surface',
      label: 'Surface kind',
      options: rulebook.materials.surfaces.map(({ name, density, friction, bounce }) => ({
        value: name,
        label: `${name}: ${formatCount(density)} kg/m³, grip ${friction}, bounce ${bounce}`,
      })),
    },
    {
      type: 'layers',
      key: 'layers',
      label: 'Layers',
      options: rulebook.solids.layers.map((layer) => ({ value: layer.name, label: layer.meaning })),
    },
    ...(range
      ? ([
          {
            type: 'choice',
            key: 'weighing',
            label: 'Mass',
            options: [
              { value: 'volume', label: 'Volume × density' },
              { value: 'hand', label: 'By hand' },
            ],
          },
          {
            type: 'number',
            key: 'massKilograms',
            label: 'Weighs',
            unit: `kg (${range.least} to ${range.most})`,
            least: range.least,
            most: range.most,
            step: 0.1,
            when: { key: 'weighing', is: ['hand'] },
          },
        ] satisfies StepField[])
      : []),
  ]
}

/** How far the shapes stand out of what they stand for, and what stands out of them. */
function fitSentence(
  ground: TriangleSoup,
  shapes: readonly PlacedShape[],
  shape: SolidShape,
  { space: { unit } }: Rulebook,
): string {
  const placed = shapes.map(placedMesh)
  const longest = Math.max(...[0, 1, 2].map((axis) => spreadAlong(ground.positions, axis)))
  const finder = createSurfaceFinder(ground)
  const out = Math.max(...placed.map((mesh) => standOut(ground, mesh, longest / 12, finder).outside))
  const missed = shape === 'mesh' || shapes.length > 1 ? null : outsideConvex(placed[0], ground.positions)
  const length = (value: number): string => `${formatLength(Number(value.toFixed(4)))} ${unit.plural}`
  return (
    'It stands out by up to ' +
    `${length(out)}${missed === null ? '' : missed < 1e-4 * longest ? ' and leaves nothing outside' : `; what it stands for reaches ${length(missed)} out of it`}.`
  )
}

function spreadAlong(positions: Float32Array, axis: number): number {
  let [low, high] = [Infinity, -Infinity]
  for (let at = axis; at < positions.length; at += 3) {
    if (positions[at] < low) low = positions[at]
    if (positions[at] > high) high = positions[at]
  }
  return high - low
}
