import type { Document, Material, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { baseNameOf, setMaterialTag, surfaceOf } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import { getMaterialExtras, setMaterialExtras } from '../../item/extras.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { listUsedMaterials, listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors, readPrimitive } from '../../item/primitive-arrays.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { facePicksSchema, pickedFaces } from '../../operations/meshes/face-picks.ts'
import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import { withTriangles } from '../../operations/meshes/sections.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { materialInItem, nameInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'

const parameters = z.object({
  /** A material of the item by its name, or a texture that the game has, by its path. */
  lay: nameInItem,
  by: z.enum(['slope', 'material', 'faces']),
  /** How far a face leans: 0° is level ground, 90° a wall, 180° a ceiling. */
  fromDegrees: z.number().min(0).max(180),
  toDegrees: z.number().min(0).max(180),
  material: materialInItem,
  faces: facePicksSchema,
})
type Parameters = z.infer<typeof parameters>

/** The game's own textures that may be laid on faces. */
const stockFinishes = ({ stock }: Rulebook) => stock.textures.filter(({ role }) => role === 'colour')

const nameOfStock = (path: string): string => (path.split('/').pop() ?? path).replace(/\.[^.]*$/, '')

/** Gives faces another finish: a material of the item, or a picture that the game has. */
export const layFinish = defineStep<Parameters>({
  id: 'lay-finish',
  version: 1,
  stage: 'surface',
  title: 'Lay a finish',
  purpose:
    'Gives faces another material: level ground, walls or ceilings by how far they lean, all that shows one ' +
    'material, or the faces that you click.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'choice',
      key: 'lay',
      label: 'Finish',
      options: [
        ...materialOptions(document, rulebook),
        ...stockFinishes(rulebook).map(({ path }) => ({ value: path, label: `${nameOfStock(path)}, of the game` })),
      ],
    },
    {
      type: 'choice',
      key: 'by',
      label: 'On',
      options: [
        { value: 'slope', label: 'faces that lean so far' },
        { value: 'material', label: 'all of one material' },
        { value: 'faces', label: 'picked faces' },
      ],
    },
    angle('fromDegrees', 'Leaning from'),
    angle('toDegrees', 'to'),
    {
      type: 'choice',
      key: 'material',
      label: 'In place of',
      options: materialOptions(document, rulebook),
      when: { key: 'by', is: ['material'] },
    },
    { type: 'faces', key: 'faces', label: 'Faces', when: { key: 'by', is: ['faces'] } },
  ],
  defaults({ document, rulebook }) {
    const [first, second] = listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))
    const lay = second ?? stockFinishes(rulebook).at(0)?.path ?? first ?? ''
    return { lay, by: 'slope', fromDegrees: 0, toDegrees: 30, material: first ?? '', faces: [] }
  },
  propose: () => [],
  async run({ document, rulebook, parameters: wanted }) {
    const parts = listViewParts(document)
    const finish = finishOf(document, rulebook, wanted.lay, parts)
    if (!finish) return gonePart(wanted.lay)
    for (const { node } of parts) ownMesh(node)
    const picked = wanted.by === 'faces' ? pickedFaces(document, wanted.faces).triangles : null
    let count = 0
    for (const part of listViewParts(document)) {
      for (const primitive of part.mesh.listPrimitives()) {
        const chosen = picked
          ? chosenOf(picked.get(primitive))
          : wanted.by === 'material'
            ? ofMaterial(primitive, wanted.material, rulebook)
            : leaning(primitive, part, wanted)
        count += give(document, part, primitive, chosen, finish)
      }
      gatherSurfaces(document, part.mesh)
    }
    dropUnusedAccessors(document)
    const name = baseNameOf(finish, rulebook)
    return {
      headline: plural(count, 'face'),
      details: [
        count === 0
          ? 'No face is like that, or all of them have the finish already.'
          : `${formatCount(count)} ${count === 1 ? 'triangle shows' : 'triangles show'} ${name} now.`,
      ],
      changed: count > 0,
    }
  },
})

const angle = (key: 'fromDegrees' | 'toDegrees', label: string) => ({
  type: 'number' as const,
  key,
  label,
  unit: '°',
  least: 0,
  most: 180,
  step: 1,
  when: { key: 'by', is: ['slope'] },
})

/** The material that is laid: one that is there, or a new one with a picture of the game's. */
function finishOf(document: Document, rulebook: Rulebook, finish: string, parts: readonly Part[]): Material | null {
  const there = materialByBase(document, rulebook, finish)
  const stock = stockFinishes(rulebook).find(({ path }) => path === finish)
  if (there || !stock) return there
  const name = nameOfStock(stock.path)
  const known = materialByBase(document, rulebook, name)
  if (known) return known
  const material = document.createMaterial(name).setRoughnessFactor(1).setMetallicFactor(0)
  setMaterialExtras(material, {
    ...getMaterialExtras(material),
    references: [{ role: 'colour', path: stock.path, found: null, stock: stock.path }],
  })
  // It sounds like what it is laid on, until somebody says otherwise.
  const surface = parts
    .flatMap(({ mesh }) => mesh.listPrimitives())
    .map((primitive) => surfaceOf(primitive.getMaterial(), rulebook))
    .find((each) => each !== null)
  if (surface) setMaterialTag(document, material, { base: name, surface, flags: [] }, rulebook)
  return material
}

const chosenOf = (marks: Uint8Array | undefined): number[] =>
  marks ? [...marks.keys()].filter((triangle) => marks[triangle] === 1) : []

function ofMaterial(primitive: Primitive, base: string, rulebook: Rulebook): number[] {
  const material = primitive.getMaterial()
  if (!material || baseNameOf(material, rulebook) !== base) return []
  return Array.from({ length: readPrimitive(primitive).indices.length / 3 }, (_triangle, at) => at)
}

/** Triangles whose normal, by the order of their corners, leans so far from up. */
function leaning(primitive: Primitive, part: Part, { fromDegrees, toDegrees }: Parameters): number[] {
  const { positions, indices } = readPrimitive(primitive)
  const p = transformedPoints(positions, restMatrix(part.node))
  const found: number[] = []
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const length = Math.hypot(nx, ny, nz)
    if (length === 0) continue
    const degrees = (Math.acos(Math.max(-1, Math.min(1, ny / length))) * 180) / Math.PI
    if (degrees >= fromDegrees - 1e-4 && degrees <= toDegrees + 1e-4) found.push(at / 3)
  }
  return found
}

/** Gives some triangles of a surface another material; the others keep theirs. */
function give(
  document: Document,
  part: Part,
  primitive: Primitive,
  chosen: readonly number[],
  finish: Material,
): number {
  if (chosen.length === 0 || primitive.getMaterial() === finish) return 0
  const all = readPrimitive(primitive).indices.length / 3
  if (chosen.length === all) {
    primitive.setMaterial(finish)
    return all
  }
  const taken = new Set(chosen)
  const rest = Array.from({ length: all }, (_triangle, at) => at).filter((triangle) => !taken.has(triangle))
  part.mesh.addPrimitive(withTriangles(document, primitive.clone(), chosen).setMaterial(finish))
  withTriangles(document, primitive, rest)
  return chosen.length
}
