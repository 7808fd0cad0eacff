import { joinedName } from '../../game/clean-name.ts'
import type { Document, Material, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { ownMesh } from '../../item/own-mesh.ts'
import { listViewParts, type Part } from '../../item/parts.ts'
import {
  dropUnusedAccessors,
  gatherCorners,
  readPrimitive,
  reversedWinding,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { flagFor, materialTag, setMaterialTag } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { StepContext } from '../../operations/context.ts'
import { outsideParts } from '../../operations/meshes/bodies.ts'
import {
  measurePartFacing,
  partsWithoutOutside,
  TOLERATED_BACKS_SHARE,
  worstBacks,
} from '../../operations/meshes/measure-part-facing.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, listed, plural } from '../../support/wording.ts'
import { unpaintedMaterial } from '../../operations/maps/unpainted.ts'

const parameters = z.object({ parts: namesInItem, how: z.enum(['flag', 'faces']) })
type Parameters = z.infer<typeof parameters>

/** Lets a part be seen from both sides. */
export const twoSided = defineStep<Parameters>({
  id: 'two-sided',
  version: 2,
  stage: 'mesh',
  title: 'Two sides',
  purpose: 'Lets chosen parts be seen from inside as well: by the material’s flag, or by real back faces.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'how',
      label: 'By',
      options: [
        { value: 'flag', label: 'the material’s flag (no triangles)' },
        { value: 'faces', label: 'back faces (twice the triangles)' },
      ],
    },
    { type: 'parts', key: 'parts', label: 'Parts' },
  ],
  defaults: (context) => ({
    parts: partsInNeed(context),
    how: flagKnown(context.rulebook) ? 'flag' : 'faces',
  }),
  propose(context) {
    // What is turned to who looks has no back that anybody sees.
    if (context.kind.mesh?.facesViewer) return []
    const facing = measurePartFacing(outsideParts(context.document, context), context.rulebook.space.figure.eyeHeight)
    if (facing.share <= TOLERATED_BACKS_SHARE) return []
    const { share } = facing
    const open = worstBacks(facing).map((part) => part.name)
    return [
      {
        parameters: { parts: open, how: flagKnown(context.rulebook) ? 'flag' : 'faces' },
        reason:
          `From outside ${(share * 100).toFixed(1)} % of what one sees is the inside of ${listed(open)}, which ` +
          'has no back faces.',
      },
    ]
  },
  async run({ document, parameters: { parts: names, how }, rulebook }) {
    const chosen = listViewParts(document).filter((part) => names.includes(part.name))
    if (chosen.length === 0 && names.length > 0) return gonePart(names[0])
    const added = how === 'faces' ? chosen.reduce((sum, part) => sum + addBackFaces(document, part), 0) : 0
    if (how === 'flag') setFlag(document, chosen, rulebook, listViewParts(document))
    dropUnusedAccessors(document)
    const missing = names.filter((name) => !chosen.some((part) => part.name === name))
    const details = [
      how === 'flag'
        ? `${plural(chosen.length, 'part is', 'parts are')} drawn from both sides.`
        : `${formatCount(added)} back faces were made for ${plural(chosen.length, 'part')}.`,
    ]
    if (missing.length > 0) details.push(`Not there any more: ${missing.join(', ')}.`)
    return {
      headline: how === 'flag' ? plural(chosen.length, 'part') : `+${formatCount(added)}`,
      details,
      changed: chosen.length > 0,
    }
  },
})

const flagKnown = (rulebook: Rulebook): boolean => flagFor(rulebook, 'two-sided') !== null

/** Parts whose inside shows, and those that have no outside at all. */
function partsInNeed({ document, rulebook, kind }: StepContext): string[] {
  const seen = outsideParts(document, { rulebook, kind })
  const open = worstBacks(measurePartFacing(seen, rulebook.space.figure.eyeHeight)).map((part) => part.name)
  return [...new Set([...open, ...partsWithoutOutside(listViewParts(document)).map((part) => part.name)])]
}

/** Sets the flag on the materials of the parts; a material that other parts use too gets a two-sided copy. */
function setFlag(document: Document, chosen: readonly Part[], rulebook: Rulebook, all: readonly Part[]): void {
  const copies = new Map<Material, Material>()
  for (const part of chosen) {
    const mesh = ownMesh(part.node) ?? part.mesh
    for (const primitive of mesh.listPrimitives()) {
      // The flag is a material's: what has none gets one to carry it.
      if (!primitive.getMaterial()) primitive.setMaterial(unpaintedMaterial(document, part.name))
      const material = primitive.getMaterial()
      if (!material) continue
      const elsewhere = all.some(
        (other) =>
          !chosen.some((each) => each.node === other.node) &&
          other.mesh.listPrimitives().some((each) => each.getMaterial() === material),
      )
      const target = copies.get(material) ?? (elsewhere ? material.clone() : material)
      copies.set(material, target)
      primitive.setMaterial(target)
    }
  }
  const both = flagFor(rulebook, 'two-sided')
  for (const [from, target] of copies) {
    const tag = materialTag(target, rulebook)
    if (from !== target) target.setName(joinedName(rulebook, tag.base, 'sides'))
    if (tag.surface !== null && both !== null && !tag.flags.includes(both))
      setMaterialTag(document, target, { ...tag, base: target.getName(), flags: [...tag.flags, both] }, rulebook)
    target.setDoubleSided(true)
  }
}

/** Every triangle once more from behind, with normals of its own. Returns how many were added. */
function addBackFaces(document: Document, part: Part): number {
  const mesh = ownMesh(part.node) ?? part.mesh
  return mesh.listPrimitives().reduce((sum, primitive) => sum + backFaces(document, primitive), 0)
}

function backFaces(document: Document, primitive: Primitive): number {
  const { positions, indices, normals } = readPrimitive(primitive)
  const corners = positions.length / 3
  gatherCorners(
    document,
    primitive,
    Uint32Array.from({ length: corners * 2 }, (_, corner) => corner % corners),
  )
  if (normals)
    writeAttribute(
      document,
      primitive,
      'NORMAL',
      Float32Array.from({ length: corners * 6 }, (_, at) =>
        at < corners * 3 ? normals[at] : -normals[at - corners * 3],
      ),
      3,
    )
  const both = new Uint32Array(indices.length * 2)
  both.set(indices)
  both.set(
    reversedWinding(indices).map((corner) => corner + corners),
    indices.length,
  )
  writeIndices(document, primitive, both, corners * 2)
  return indices.length / 3
}
