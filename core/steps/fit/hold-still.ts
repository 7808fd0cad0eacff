import type { Document, Node, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { noteGivenUp } from '../../item/given-up.ts'
import { identityMatrix } from '../../maths/axes.ts'
import { chainMatrices, determinantOf, invertMatrix, transformedNormals, type Matrix } from '../../maths/matrices.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { listAllParts, type Part } from '../../item/parts.ts'
import {
  accessorToFloats,
  dropUnusedAccessors,
  primitiveIndices,
  reversedWinding,
  writeAttribute,
  writeIndices,
} from '../../item/primitive-arrays.ts'
import { influenceSets } from '../../operations/motion/skin.ts'
import { dropUnused } from '../../operations/meshes/drop-unused.ts'
import { defineStep } from '../step.ts'
import { plural, withArticle } from '../../support/wording.ts'

const parameters = z.object({})

/** Takes clips and bones out of a thing whose kind does not move, as it stands at rest. */
export const holdStill = defineStep<z.infer<typeof parameters>>({
  id: 'hold-still',
  version: 1,
  stage: 'fit',
  title: 'Hold still',
  purpose: 'Takes out clips and bones that the kind does not have; what bones hold stays where they hold it.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, kind }) {
    const clips = kind.motionAsked ? 0 : document.getRoot().listAnimations().length
    const held = kind.bones ? 0 : listAllParts(document).filter(({ node }) => node.getSkin()).length
    if (clips === 0 && held === 0) return []
    const found = [
      ...(clips > 0 ? [plural(clips, 'clip')] : []),
      ...(held > 0 ? [`${plural(held, 'part')} held by bones`] : []),
    ]
    return [
      {
        parameters: {},
        reason: `It came with ${found.join(' and ')}; ${withArticle(kind.title.toLowerCase())} does not move.`,
      },
    ]
  },
  async run({ document, kind, progress }) {
    const clips = kind.motionAsked ? [] : document.getRoot().listAnimations()
    for (const clip of clips) {
      noteGivenUp(document, {
        what: 'Motion',
        where: clip.getName() || 'clip',
        message:
          `The clip “${clip.getName() || 'without a name'}” is left out: ${withArticle(kind.title.toLowerCase())} ` +
          'does not move',
        why: 'Choose a kind that moves if the motion is wanted.',
      })
      for (const channel of clip.listChannels()) channel.dispose()
      for (const sampler of clip.listSamplers()) sampler.dispose()
      clip.dispose()
    }
    const held = kind.bones ? [] : listAllParts(document).filter(({ node }) => node.getSkin())
    for (const [index, part] of held.entries()) {
      await progress(index / held.length, part.name)
      freeOfBones(document, part)
    }
    dropUnused(document)
    dropUnusedAccessors(document)
    const details = [
      ...(clips.length > 0 ? [`${plural(clips.length, 'clip')} left out.`] : []),
      ...(held.length > 0
        ? [`${plural(held.length, 'part')} put where bones held ${held.length === 1 ? 'it' : 'them'}.`]
        : []),
    ]
    return {
      headline: plural(clips.length + held.length, 'thing'),
      details: details.length > 0 ? details : ['Nothing moves.'],
      changed: details.length > 0,
    }
  },
})

/** Puts every corner where its bones hold it, and takes the bones off (glTF 2.0 specification, section 3.7.3). */
function freeOfBones(document: Document, { node }: Part): void {
  const held = boneMatrices(node)
  for (const primitive of ownMesh(node)?.listPrimitives() ?? []) moveByBones(document, primitive, held)
  node.setSkin(null)
}

/** For each bone: from where the mesh lies to where the bone holds it, seen from the mesh's own node. */
function boneMatrices(node: Node): Matrix[] {
  const skin = node.getSkin()
  const toNode = invertMatrix(node.getWorldMatrix())
  const binds = skin?.getInverseBindMatrices()
  return (skin?.listJoints() ?? []).map((bone, number) =>
    chainMatrices(
      toNode ?? identityMatrix(),
      bone.getWorldMatrix(),
      binds && number < binds.getCount() ? binds.getElement(number, []) : identityMatrix(),
    ),
  )
}

function moveByBones(document: Document, primitive: Primitive, held: readonly Matrix[]): void {
  const sets = influenceSets(primitive)
  const attributes = (['POSITION', 'NORMAL', 'TANGENT'] as const).flatMap((semantic) => {
    const accessor = primitive.getAttribute(semantic)
    return accessor
      ? [
          {
            semantic,
            size: semantic === 'TANGENT' ? (4 as const) : (3 as const),
            values: accessorToFloats(accessor).slice(),
          },
        ]
      : []
  })
  const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
  let mirrored = 0
  for (let corner = 0; corner < corners && sets.length > 0; corner++) {
    const matrix = blend(sets, corner, held)
    if (!matrix) continue
    if (determinantOf(matrix) < 0) mirrored++
    for (const { semantic, size, values } of attributes) {
      const at = corner * size
      if (semantic === 'NORMAL') values.set(transformedNormals(values.subarray(at, at + 3), matrix), at)
      else {
        const [x, y, z] = values.subarray(at, at + 3)
        const moved = [0, 1, 2].map(
          (axis) =>
            matrix[axis] * x +
            matrix[axis + 4] * y +
            matrix[axis + 8] * z +
            (semantic === 'POSITION' ? matrix[axis + 12] : 0),
        )
        const length = semantic === 'POSITION' ? 1 : Math.hypot(...moved) || 1
        values.set(
          moved.map((value) => value / length),
          at,
        )
      }
    }
  }
  for (const { semantic, size, values } of attributes) writeAttribute(document, primitive, semantic, values, size)
  if (mirrored > corners / 2) writeIndices(document, primitive, reversedWinding(primitiveIndices(primitive)), corners)
  for (const semantic of primitive.listSemantics())
    if (/^(JOINTS|WEIGHTS)_/.test(semantic)) primitive.setAttribute(semantic, null)
}

/**
 * The matrices of a corner's bones by their weights, which are taken to make 1; null for a corner that no bone holds.
 */
function blend(
  sets: readonly { bones: Float32Array; weights: Float32Array }[],
  corner: number,
  held: readonly Matrix[],
): Matrix | null {
  const sum = new Array<number>(16).fill(0)
  let total = 0
  for (const { bones, weights } of sets) {
    for (let at = corner * 4; at < corner * 4 + 4; at++) {
      const matrix = held[bones[at]]
      if (!matrix || !(weights[at] > 0)) continue
      total += weights[at]
      for (let cell = 0; cell < 16; cell++) sum[cell] += matrix[cell] * weights[at]
    }
  }
  return total > 0 ? sum.map((value) => value / total) : null
}
