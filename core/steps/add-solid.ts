import type { Document } from '@gltf-transform/core'
import { emptyBounds, growBounds } from '../document/measure.ts'
import { countTriangles, listSolids, listUsedMaterials, listViewParts, type Part } from '../document/parts.ts'
import { accessorToFloats } from '../document/primitive-arrays.ts'
import { PlainError } from '../document/plain-error.ts'
import { boxMesh } from '../geometry/box-mesh.ts'
import { convexHull, type TriangleSoup } from '../geometry/convex-hull.ts'
import { parseMaterialTag, solidName } from '../rulebook/names.ts'
import type { Rulebook } from '../rulebook/schema.ts'
import { addSolidParameters, type AddSolidParameters } from './add-solid-parameters.ts'
import { addDerivedNode, reducedShape, soupMesh } from './derived-meshes.ts'
import { proposeSolids } from './propose-solids.ts'
import { defineStep, formatCount, formatLength, gonePart, plural } from './step.ts'

/** Shapes that this step can make so far. */
const madeShapes = ['box', 'hull', 'mesh'] as const

const shapeTitles: Record<(typeof madeShapes)[number], string> = { box: 'Box', hull: 'Convex hull', mesh: 'The part’s mesh, reduced' }

/** Adds a collision shape to a part. */
export const addSolid = defineStep<AddSolidParameters>({
  id: 'add-solid',
  version: 1,
  stage: 'solids',
  title: 'Add a solid',
  purpose: 'Gives a part something to bump into: a box, a convex hull, or its own mesh with fewer triangles.',
  parameters: addSolidParameters,
  fields: ({ rulebook, kind }) => [
    { type: 'part', key: 'part', label: 'Part' },
    { type: 'choice', key: 'shape', label: 'Shape', options: madeShapes.filter((shape) => kind.solids?.shapes.includes(shape)).map((shape) => ({ value: shape, label: shapeTitles[shape] })) },
    { type: 'choice', key: 'surface', label: 'Surface kind', options: rulebook.materials.surfaces.map((surface) => ({ value: surface.name, label: surface.name })) },
    { type: 'layers', key: 'layers', label: 'Layers', options: rulebook.solids.layers.map((layer) => ({ value: layer.name, label: layer.meaning })) },
    { type: 'number', key: 'triangles', label: 'Mesh, up to', unit: 'triangles', least: 12, most: 3000, step: 10 },
    { type: 'number', key: 'points', label: 'Hull, up to', unit: `points (≤ ${rulebook.solids.hullPoints})`, least: 4, most: rulebook.solids.hullPoints, step: 1 },
    ...(kind.solids?.massKilograms ? [{ type: 'number' as const, key: 'massKilograms', label: 'Mass', unit: 'kg', least: kind.solids.massKilograms.least, most: kind.solids.massKilograms.most, step: 0.1 }] : []),
  ],
  defaults: ({ document, rulebook, kind }) => {
    const part = listViewParts(document)[0]
    return {
      part: part?.name ?? '',
      shape: 'box',
      surface: (part && surfaceOfPart(part, document, rulebook)) ?? rulebook.materials.surfaces[0].name,
      layers: rulebook.solids.defaultLayers,
      massKilograms: kind.solids?.massKilograms ? 10 : 0,
      points: rulebook.solids.hullPoints,
      triangles: 400,
    }
  },
  propose: (context) => proposeSolids(context, (part) => surfaceOfPart(part, context.document, context.rulebook)),
  async run({ document, parameters: chosen, rulebook, kind, progress }) {
    const part = listViewParts(document).find((each) => each.name === chosen.part)
    if (!part) return gonePart(chosen.part)
    if (!kind.solids?.shapes.includes(chosen.shape)) throw new PlainError(`a ${kind.title.toLowerCase()} takes no ${chosen.shape} solids`, 'Add a solid', `It takes ${kind.solids?.shapes.join(', ') || 'none'}.`)
    await progress(0, part.name)
    const soup = await makeShape(part, chosen)
    const solids = listSolids(document)
    const name = solidName(rulebook, chosen.shape, solids.length + 1)
    addDerivedNode(document, part, name, soupMesh(document, name, soup), {
      role: 'solid',
      solid: { shape: chosen.shape, surface: chosen.surface, layers: chosen.layers, massKilograms: chosen.massKilograms > 0 ? chosen.massKilograms : null },
    })
    const total = countTriangles(listViewParts(document)) + countTriangles(listSolids(document))
    return {
      headline: `${chosen.shape} · ${formatCount(soup.indices.length / 3)}`,
      details: [
        `${name} was put under ${part.name}: ${plural(soup.indices.length / 3, 'triangle')}, ${plural(soup.positions.length / 3, 'point')}, ${chosen.surface}.`,
        `View and solids together now have ${formatCount(total)} triangles.`,
        ...(chosen.massKilograms > 0 ? [`Mass ${formatLength(chosen.massKilograms)} kg.`] : []),
      ],
      changed: true,
    }
  },
})

async function makeShape(part: Part, chosen: AddSolidParameters): Promise<TriangleSoup> {
  if (chosen.shape === 'mesh') return reducedShape(part, chosen.triangles)
  const positions = part.mesh.listPrimitives().map((primitive) => primitive.getAttribute('POSITION')).filter((accessor) => accessor !== null).map(accessorToFloats)
  if (chosen.shape === 'box') {
    const bounds = emptyBounds()
    for (const points of positions) growBounds(bounds, points, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    return boxMesh(bounds)
  }
  const all = new Float32Array(positions.reduce((sum, points) => sum + points.length, 0))
  let at = 0
  for (const points of positions) {
    all.set(points, at)
    at += points.length
  }
  const hull = chosen.shape === 'hull' ? convexHull(all, chosen.points) : null
  if (!hull) throw new PlainError(chosen.shape === 'hull' ? 'it is flat and has no hull' : `a ${chosen.shape} cannot be made yet`, part.name, 'Use a box, a hull or the part’s mesh.')
  return hull
}

/** The surface kind of the material that covers most of a part. */
function surfaceOfPart(part: Part, document: Document, rulebook: Rulebook): string | null {
  const known = new Set(rulebook.materials.surfaces.map((surface) => surface.name))
  const counts = new Map<string, number>()
  for (const primitive of part.mesh.listPrimitives()) {
    const { surface } = parseMaterialTag(rulebook, primitive.getMaterial()?.getName() ?? '')
    if (surface && known.has(surface)) counts.set(surface, (counts.get(surface) ?? 0) + (primitive.getIndices()?.getCount() ?? 0))
  }
  const best = [...counts].sort((a, b) => b[1] - a[1])[0]
  if (best) return best[0]
  const any = listUsedMaterials(document).map((material) => parseMaterialTag(rulebook, material.getName()).surface).find((surface) => surface !== null && known.has(surface))
  return any ?? null
}
