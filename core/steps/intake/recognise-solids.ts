import { surfaceOf } from '../../game/material-tag.ts'
import { calledLikeSolids } from '../../operations/solids/called-like-solids.ts'
import type { Node } from '@gltf-transform/core'
import { z } from 'zod'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { solidShapes } from '../../item/annotations/solid/facts.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { decomposeMatrix, invertMatrix } from '../../maths/matrices.ts'
import { partBounds, type Bounds } from '../../item/measure.ts'
import { listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { UNTURNED } from '../../geometry/shapes/placed-shape.ts'
import { readSolidName } from '../../game/solid-names.ts'
import { massesOf, surfaceOfPart } from '../../operations/solids/put-solid.ts'
import { nextSolidName, plainShape, soupMesh } from '../../operations/meshes/derived-meshes.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({ names: namesInItem })

/** Takes parts that are called like solids for what they are. */
export const recogniseSolids = defineStep<z.infer<typeof parameters>>({
  id: 'recognise-solids',
  version: 1,
  stage: 'intake',
  title: 'Recognise solids',
  purpose:
    'Takes what came with the source and is called like a solid, or nearly, for one: under the part that it ' +
    'stands for, with a name the game reads, not drawn.',
  parameters,
  fields: ({ source, document, rulebook }) => [
    {
      type: 'layers',
      key: 'names',
      label: 'Are solids',
      options: calledLikeSolids(source ?? document, rulebook).map(({ name }) => ({ value: name, label: name })),
    },
  ],
  defaults: ({ document, rulebook }) => ({ names: calledLikeSolids(document, rulebook).map(({ name }) => name) }),
  propose({ document, rulebook, kind }) {
    const found = calledLikeSolids(document, rulebook)
    if (found.length === 0 || !kind.solids) return []
    const near = found.filter(({ name }) => readSolidName(rulebook, name)?.exact === false)
    return [
      {
        parameters: { names: found.map(({ name }) => name) },
        reason: `${plural(found.length, 'part')} ${found.length === 1 ? 'is' : 'are'} called like ${found.length === 1 ? 'a solid' : 'solids'}: ${found
          .slice(0, 3)
          .map(({ name }) => name)
          .join(', ')}${near.length > 0 ? `; ${near[0].name} is not quite what the game reads` : ''}.`,
      },
    ]
  },
  async run({ document, rulebook, kind, parameters: { names } }) {
    const details: string[] = []
    const wanted = calledLikeSolids(document, rulebook).filter(({ name }) => names.includes(name))
    for (const part of wanted) {
      const shape = solidShapes.find((each) => each === readSolidName(rulebook, part.name)?.shape) ?? 'hull'
      const parent = belongsTo(
        part,
        listViewParts(document).filter((each) => !wanted.some((other) => other.node === each.node)),
      )
      const written = surfaceOf(part.mesh.listPrimitives()[0]?.getMaterial() ?? null, rulebook)
      const surface =
        written ?? (parent ? surfaceOfPart(parent, document, rulebook) : null) ?? rulebook.materials.surfaces[0].name
      const mesh = plainShape(part)
      const masses = massesOf(
        [{ mesh, translation: [0, 0, 0], rotation: UNTURNED }],
        { weighing: 'volume', massKilograms: 0, surface },
        rulebook,
        kind,
      )
      const name = nextSolidName(document, rulebook, shape)
      if (parent && part.node.getParentNode() !== parent.node) moveUnder(part.node, parent.node)
      setNodeExtras(part.node, {
        ...getNodeExtras(part.node),
        role: 'solid',
        solid: { shape, surface, layers: rulebook.solids.defaultLayers, massKilograms: masses?.[0] ?? null },
      })
      part.node.setMesh(soupMesh(document, name, mesh)).setName(name)
      details.push(`${part.name} is ${name} now, a ${shape} of ${surface}${parent ? `, under ${parent.name}` : ''}.`)
    }
    return {
      headline: plural(details.length, 'solid'),
      details: details.length > 0 ? details : ['Nothing is called like a solid.'],
      changed: details.length > 0,
    }
  },
})

/** The part it is under, else the one whose box it shares most with. */
function belongsTo(part: Part, others: readonly Part[]): Part | null {
  const above = others.find((other) => other.node === part.node.getParentNode())
  if (above) return above
  const own = partBounds(part)
  return (
    others
      .map((other) => ({ other, shared: sharedVolume(own, partBounds(other)) }))
      .sort((a, b) => b.shared - a.shared)[0]?.other ?? null
  )
}

function sharedVolume(a: Bounds, b: Bounds): number {
  return [0, 1, 2].reduce(
    (volume, axis) => volume * Math.max(1e-9, Math.min(a.max[axis], b.max[axis]) - Math.max(a.min[axis], b.min[axis])),
    1,
  )
}

function moveUnder(node: Node, parent: Node): void {
  const { translation, rotation, scale } = decomposeMatrix(
    multiplyMatrices(invertMatrix(restMatrix(parent)) ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], [
      ...restMatrix(node),
    ]),
  )
  parent.addChild(node)
  node
    .setTranslation(translation as [number, number, number])
    .setRotation(rotation as [number, number, number, number])
    .setScale(scale as [number, number, number])
}
