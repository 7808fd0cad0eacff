import type { Document } from '@gltf-transform/core'
import { materialTag, surfaceOf } from '../../game/material-tag.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { massOrHull } from '../../geometry/shapes/mass.ts'
import type { PlacedShape } from '../../geometry/shapes/placed-shape.ts'
import { listUsedMaterials, type Part } from '../../item/parts.ts'
import { addDerivedNode, nextSolidName, soupMesh } from '../meshes/derived-meshes.ts'
import type { AddSolidParameters } from './add-solid-parameters.ts'
import type { SolidShape } from './solid-shape.ts'

/**
 * Kilograms for each shape: the volume of all shared by volume, or the given mass shared alike; null where nothing
 * weighs.
 *
 * @example const masses = massesOf(shapes, parameters, rulebook, kind)
 */
export function massesOf(
  shapes: readonly PlacedShape[],
  chosen: Pick<AddSolidParameters, 'weighing' | 'massKilograms' | 'surface'>,
  rulebook: Rulebook,
  kind: Kind,
): number[] | null {
  const range = kind.solids?.massKilograms
  if (!range) return chosen.massKilograms > 0 ? shapes.map(() => chosen.massKilograms / shapes.length) : null
  const volumes = shapes.map(({ mesh }) => massOrHull(mesh)?.volume ?? 0)
  const whole = volumes.reduce((sum, volume) => sum + volume, 0)
  const density = rulebook.materials.surfaces.find(({ name }) => name === chosen.surface)?.density ?? 1000
  const mass =
    chosen.weighing === 'volume'
      ? Math.min(range.most, Math.max(range.least, whole * rulebook.space.unit.metres ** 3 * density))
      : chosen.massKilograms
  if (mass <= 0) return null
  return volumes.map((volume) =>
    Math.max(range.least, Number((whole > 0 ? (mass * volume) / whole : mass / shapes.length).toPrecision(4))),
  )
}

/**
 * Puts a shape under a part as a solid of the game; returns the name it gets.
 * @example const name = putSolid(document, part, shape, { shape: 'box', surface, layers }, rulebook, null)
 */
export function putSolid(
  document: Document,
  part: Part,
  shape: PlacedShape,
  facts: { shape: SolidShape; surface: string; layers: readonly string[] },
  rulebook: Rulebook,
  massKilograms: number | null,
): string {
  const name = nextSolidName(document, rulebook, facts.shape)
  const node = addDerivedNode(document, part, name, soupMesh(document, name, shape.mesh), {
    role: 'solid',
    solid: { shape: facts.shape, surface: facts.surface, layers: [...facts.layers], massKilograms },
  })
  node.setTranslation(shape.translation).setRotation(shape.rotation)
  return name
}

/**
 * The surface kind of the material that covers most of a part.
 * @example const surface = surfaceOfPart(part, document, rulebook) ?? 'wood'
 */
export function surfaceOfPart(part: Part, document: Document, rulebook: Rulebook): string | null {
  const known = new Set(rulebook.materials.surfaces.map((surface) => surface.name))
  const counts = new Map<string, number>()
  for (const primitive of part.mesh.listPrimitives()) {
    const surface = surfaceOf(primitive.getMaterial(), rulebook)
    if (surface && known.has(surface))
      counts.set(surface, (counts.get(surface) ?? 0) + (primitive.getIndices()?.getCount() ?? 0))
  }
  const best = [...counts].sort((a, b) => b[1] - a[1])[0]
  if (best) return best[0]
  const any = listUsedMaterials(document)
    .map((material) => materialTag(material, rulebook).surface)
    .find((surface) => surface !== null && known.has(surface))
  return any ?? null
}
