import type { Document, Node, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { setNodeExtras } from '../../item/extras.ts'
import { freeName } from '../../item/name-apart.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { itemScene, listViewParts, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors, readPrimitive } from '../../item/primitive-arrays.ts'
import { hasOwnTransform } from '../../maths/transforms.ts'
import { connectedPieces } from '../../geometry/mesh/pieces.ts'
import { facePicksSchema, pickedFaces } from '../../operations/meshes/face-picks.ts'
import { withTriangles } from '../../operations/meshes/sections.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, plural } from '../../support/wording.ts'

const parameters = z.object({
  by: z.enum(['material', 'piece', 'faces']),
  parts: namesInItem,
  faces: facePicksSchema,
})
type Parameters = z.infer<typeof parameters>

/** More pieces than this are hardly things of their own. */
const MOST_PIECES = 500

/** Takes parts apart. */
export const splitParts = defineStep<Parameters>({
  id: 'split-parts',
  version: 1,
  stage: 'mesh',
  title: 'Split parts',
  purpose: 'Takes parts apart: by material, by connected piece, or along the faces that you click in the yard.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'by',
      label: 'Split by',
      options: [
        { value: 'material', label: 'material' },
        { value: 'piece', label: 'connected piece' },
        { value: 'faces', label: 'picked faces' },
      ],
    },
    { type: 'parts', key: 'parts', label: 'Parts', when: { key: 'by', is: ['material', 'piece'] } },
    { type: 'faces', key: 'faces', label: 'Faces to take off', when: { key: 'by', is: ['faces'] } },
  ],
  defaults: ({ document }) => ({
    by: 'material',
    parts: listViewParts(document)
      .filter((part) => part.mesh.listPrimitives().length > 1)
      .map((part) => part.name),
    faces: [],
  }),
  propose: () => [],
  async run({ document, parameters: { by, parts: names, faces } }) {
    const all = listViewParts(document)
    const asked = by === 'faces' ? [...new Set(faces.map((pick) => pick.part))] : names
    const chosen = all.filter((part) => asked.includes(part.name))
    if (chosen.length === 0 && asked.length > 0) return gonePart(asked[0])
    for (const part of chosen) ownMesh(part.node)
    const marks = by === 'faces' ? pickedFaces(document, faces).triangles : new Map<Primitive, Uint8Array>()
    const taken = new Set(all.map((part) => part.name))
    const details: string[] = []
    let made = 0
    for (const part of listViewParts(document).filter((each) => asked.includes(each.name))) {
      const groups = groupsOf(part, by, marks)
      if (groups.length > MOST_PIECES) {
        details.push(
          `${part.name} has ${formatCount(groups.length)} pieces, more than ${MOST_PIECES}; it was left as it is.`,
        )
        continue
      }
      if (groups.length < 2) continue
      const nodes = takeApart(document, part, groups, taken)
      made += nodes.length
      details.push(
        `${part.name} became ${part.name}${nodes
          .map((node) => `, ${node.getName()}`)
          .slice(0, 6)
          .join('')}${nodes.length > 6 ? ` and ${nodes.length - 6} more` : ''}.`,
      )
    }
    dropUnusedAccessors(document)
    if (details.length === 0)
      details.push(
        asked.length === 0 ? 'Nothing is chosen yet.' : 'There was nothing to split: each part is one already.',
      )
    return { headline: made > 0 ? `+${plural(made, 'part')}` : 'as it was', details, changed: made > 0 }
  },
})

/** Triangles of each surface that make up one new part: for each surface a list of triangle numbers. */
type Group = { name: string; triangles: Map<Primitive, number[]> }

function groupsOf(part: Part, by: Parameters['by'], marks: ReadonlyMap<Primitive, Uint8Array>): Group[] {
  const primitives = part.mesh.listPrimitives()
  const groups = new Map<string, Group>()
  const pieces = by === 'piece' ? piecesOf(primitives) : []
  primitives.forEach((primitive, surface) => {
    const count = readPrimitive(primitive).indices.length / 3
    for (let triangle = 0; triangle < count; triangle++) {
      const [key, name] =
        by === 'material'
          ? [primitive.getMaterial()?.getName() ?? '', primitive.getMaterial()?.getName() ?? 'plain']
          : by === 'piece'
            ? [String(pieces[surface][triangle]), '']
            : [String(marks.get(primitive)?.[triangle] ?? 0), '']
      const group = groups.get(key) ?? { name, triangles: new Map<Primitive, number[]>() }
      groups.set(key, group)
      const list = group.triangles.get(primitive) ?? []
      group.triangles.set(primitive, list)
      list.push(triangle)
    }
  })
  // The part itself keeps what was not picked.
  return by === 'faces'
    ? [...groups.entries()].sort(([a], [b]) => Number(a) - Number(b)).map(([, group]) => group)
    : [...groups.values()]
}

/** Connected pieces over all surfaces of a part: surfaces that touch are one. */
function piecesOf(primitives: readonly Primitive[]): Uint32Array[] {
  const arrays = primitives.map(readPrimitive)
  const positions = new Float32Array(arrays.reduce((sum, each) => sum + each.positions.length, 0))
  const indices = new Uint32Array(arrays.reduce((sum, each) => sum + each.indices.length, 0))
  let [corner, at] = [0, 0]
  for (const each of arrays) {
    positions.set(each.positions, corner * 3)
    indices.set(
      each.indices.map((value) => value + corner),
      at,
    )
    corner += each.positions.length / 3
    at += each.indices.length
  }
  const { pieceOfTriangle } = connectedPieces(positions, indices)
  let first = 0
  return arrays.map((each) => pieceOfTriangle.subarray(first, (first += each.indices.length / 3)))
}

/** The first group stays in the part, each other gets a node with the same place and skin. */
function takeApart(document: Document, part: Part, groups: readonly Group[], taken: Set<string>): Node[] {
  const mesh = part.mesh
  const nodes = groups.slice(1).map((group, number) => {
    const name = freeName(group.name === '' ? `${part.name} ${number + 2}` : `${part.name} ${group.name}`, taken)
    taken.add(name)
    const own = document.createMesh(name)
    for (const [primitive, triangles] of group.triangles)
      own.addPrimitive(withTriangles(document, primitive.clone(), triangles))
    const node = document.createNode(name).setMesh(own).setSkin(part.node.getSkin())
    const { heldHere } = part.extras
    setNodeExtras(node, { role: 'part', ...(heldHere ? { heldHere } : {}) })
    // Where the part has no transform of its own the new one stands beside it, else it hangs on it and moves along.
    if (part.node.getParentNode() || hasOwnTransform(part.node)) part.node.addChild(node)
    else itemScene(document).addChild(node)
    return node
  })
  for (const primitive of mesh.listPrimitives()) {
    const kept = groups[0].triangles.get(primitive)
    if (kept) withTriangles(document, primitive, kept)
    else mesh.removePrimitive(primitive)
  }
  return nodes
}
