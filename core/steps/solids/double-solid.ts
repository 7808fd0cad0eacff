import { z } from 'zod'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { decomposeMatrix, invertMatrix } from '../../maths/matrices.ts'
import { restMatrix } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { nextSolidName, soupMesh } from '../../operations/meshes/derived-meshes.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'

const parameters = z.object({
  solid: nameInItem,
  mirrored: z.enum(['no', 'x', 'y', 'z']),
  moved: z.tuple([z.number(), z.number(), z.number()]),
})

/** Makes a second solid of one: beside it, or mirrored. */
export const doubleSolid = defineStep<z.infer<typeof parameters>>({
  id: 'double-solid',
  version: 1,
  stage: 'solids',
  title: 'Double a solid',
  purpose:
    'Makes a second solid of one that is there, moved or mirrored across a plane through the item’s origin, ' +
    'under the same part.',
  parameters,
  fields: ({ document, rulebook }) => [
    {
      type: 'choice',
      key: 'solid',
      label: 'Solid',
      options: listSolids(document).map(({ name }) => ({ value: name, label: name })),
    },
    {
      type: 'choice',
      key: 'mirrored',
      label: 'Mirrored',
      options: [
        { value: 'no', label: 'No' },
        { value: 'x', label: 'Left and right (X)' },
        { value: 'y', label: 'Up and down (Y)' },
        { value: 'z', label: 'Front and back (Z)' },
      ],
    },
    { type: 'vector', key: 'moved', label: 'Then moved by', unit: rulebook.space.unit.plural },
  ],
  defaults: ({ document }) => ({ solid: listSolids(document)[0]?.name ?? '', mirrored: 'x', moved: [0, 0, 0] }),
  propose: () => [],
  async run({ document, rulebook, parameters: { solid: name, mirrored, moved } }) {
    const solid = listSolids(document).find((each) => each.name === name)
    const parent = solid?.node.getParentNode()
    if (!solid || !parent || !solid.extras.solid) return gonePart(name || 'a solid')
    const { positions, indices } = readPrimitive(solid.mesh.listPrimitives()[0])
    const axis = mirrored === 'no' ? -1 : 'xyz'.indexOf(mirrored)
    const world = [...restMatrix(solid.node)]
    // Mirrored in the scene, and back in the mesh: what is left is a turn, and the mesh is mirrored instead.
    const flip = [0, 1, 2].map((each) => (each === axis ? -1 : 1))
    if (axis >= 0)
      for (let column = 0; column < 4; column++)
        for (let row = 0; row < 3; row++) world[column * 4 + row] *= flip[row] * (column < 3 ? flip[column] : 1)
    for (let row = 0; row < 3; row++) world[12 + row] += moved[row]
    const local = decomposeMatrix(multiplyMatrices(invertMatrix(restMatrix(parent)) ?? world, world))
    const mesh =
      axis < 0
        ? { positions, indices }
        : {
            positions: positions.map((value, at) => value * flip[at % 3]),
            indices: indices.map((_, at) => indices[at % 3 === 1 ? at + 1 : at % 3 === 2 ? at - 1 : at]),
          }
    const newName = nextSolidName(document, rulebook, solid.extras.solid.shape)
    const node = document
      .createNode(newName)
      .setMesh(soupMesh(document, newName, mesh))
      .setTranslation(local.translation as [number, number, number])
      .setRotation(local.rotation as [number, number, number, number])
    setNodeExtras(node, getNodeExtras(solid.node))
    parent.addChild(node)
    return {
      headline: newName,
      details: [
        `${newName} is ${name}${axis < 0 ? '' : `, mirrored along ${mirrored.toUpperCase()}`}, moved by ` +
          `${moved.join(', ')}, under ${parent.getName()}.`,
      ],
      changed: true,
    }
  },
})
