import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { bodyName, keyOfBody, tellsBodies } from '../../game/body-names.ts'
import { flipTriangles } from '../../geometry/mesh/orient.ts'
import { bodyRoleSchema, type BodyRole } from '../../item/body-role.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'
import { renameNode } from '../../item/written-name.ts'
import { dropUnusedAccessors, readPrimitive, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { bodyRole, boxesMeet, listBodies, longestSide, type Body } from '../../operations/meshes/bodies.ts'
import type { Proposal, StepContext } from '../../operations/context.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { turnNormals } from './turn-outward.ts'

const parameters = z.object({
  is: bodyRoleSchema,
  /** Names of the parts. */
  parts: namesInItem,
})
type Parameters = z.infer<typeof parameters>

const titles: Record<BodyRole, string> = {
  solid: 'solid: stands there',
  hollow: 'hollow: a room cut out',
  trim: 'trim: only seen',
}

/** Says what parts of level geometry do, in the words of the game, and turns their faces as that asks. */
export const tellBodies = defineStep<Parameters>({
  id: 'tell-bodies',
  version: 1,
  stage: 'mesh',
  title: 'Solid, hollow or trim',
  purpose: 'Says which parts of level geometry stand there, which are cut out as rooms, and which are only seen.',
  parameters,
  fields: ({ kind }) => [
    {
      type: 'choice',
      key: 'is',
      label: 'They are',
      options: (kind.faceRoles.length > 0 ? kind.faceRoles : bodyRoleSchema.options).map((value) => ({
        value,
        label: titles[value],
      })),
    },
    { type: 'parts', key: 'parts', label: 'Parts' },
  ],
  defaults: ({ kind }) => ({ is: kind.faceRoles.find((role) => role !== 'solid') ?? 'solid', parts: [] }),
  propose: (context) => (tellsBodies(context.rulebook, context.kind) ? likely(context) : []),
  async run({ document, rulebook, kind, parameters: { is, parts: names } }) {
    if (!tellsBodies(rulebook, kind))
      return nothing(`${rulebook.title} does not tell solid, hollow and trim apart in a ${kind.id}.`)
    if (!kind.faceRoles.includes(is)) return nothing(`A ${kind.id} has no ${is} bodies.`)
    // Whoever says so by what came out of later steps knows a part by its cleaned name.
    const wanted = new Set(names)
    const parts = listViewParts(document)
    const exact = new Set(parts.map(({ name }) => name).filter((name) => wanted.has(name)))
    const others = new Map(
      names.filter((name) => !exact.has(name)).map((name) => [keyOfBody(rulebook, name), name] as const),
    )
    const isMeant = (part: Part): boolean => exact.has(part.name) || others.has(keyOfBody(rulebook, part.name))
    const chosen = parts.filter(isMeant)
    const found = new Set(chosen.map(({ name }) => keyOfBody(rulebook, name)))
    if (chosen.length === 0) return names.length > 0 ? gonePart(names[0]) : nothing('No parts are chosen yet.')
    const renamed = chosen.filter((part) => bodyRole(part, { rulebook, kind }) !== is)
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    for (const { node } of renamed) {
      const name = bodyName(rulebook, is, node.getName(), taken)
      taken.add(name)
      renameNode(node, name)
    }
    const nodes = new Set(chosen.map(({ node }) => node))
    const turned = listBodies(document, { rulebook, kind }).filter(
      (body) => nodes.has(body.part.node) && looksWrongWay(body),
    )
    for (const { part } of turned) turnOver(document, part)
    dropUnusedAccessors(document)
    const details = [
      `${plural(chosen.length, 'part is', 'parts are')} ${is}: ${chosen
        .slice(0, 4)
        .map(({ node }) => node.getName())
        .join(', ')}.`,
    ]
    if (turned.length > 0)
      details.push(
        `The faces of ${plural(turned.length, 'part')} were turned ` +
          `${is === 'hollow' ? 'inward, into the room' : 'outward'}.`,
      )
    const gone = [...others].flatMap(([key, name]) => (found.has(key) ? [] : [name]))
    if (gone.length > 0) details.push(`Not there any more: ${gone.slice(0, 4).join(', ')}.`)
    return { headline: plural(chosen.length, 'part'), details, changed: renamed.length + turned.length > 0 }
  },
})

const nothing = (why: string) => ({ headline: 'none', details: [why], changed: false })

/** Whether a closed body shows the side that nobody sees: a room is seen from inside, all else from outside. */
const looksWrongWay = ({ is, closed, volume }: Body): boolean =>
  closed && is !== 'trim' && volume !== 0 && (is === 'hollow') !== volume < 0

function turnOver(document: Document, { node, mesh }: Part): void {
  for (const primitive of (ownMesh(node) ?? mesh).listPrimitives()) {
    const { positions, indices, normals } = readPrimitive(primitive)
    const all = new Uint8Array(indices.length / 3).fill(1)
    writeIndices(document, primitive, flipTriangles(indices, all), positions.length / 3)
    if (normals) writeAttribute(document, primitive, 'NORMAL', turnNormals(normals, indices, all), 3)
  }
}

/** Rooms, by faces that look inward within something that stands there; and small things that are not closed. */
function likely({ document, rulebook, kind }: StepContext): Proposal<Parameters>[] {
  const bodies = listBodies(document, { rulebook, kind }).filter(({ is }) => is === 'solid')
  const standing = bodies.filter(({ closed, volume }) => closed && volume > 0)
  const rooms = bodies.filter(
    (body) => body.closed && body.volume < 0 && standing.some((other) => boxesMeet(body, other)),
  )
  // No longer than half of something that stands there: a railing, not the floor.
  const small = Math.max(0, ...standing.map(longestSide)) / 2
  const open = bodies.filter((body) => !body.closed && longestSide(body) <= small)
  const found: [BodyRole, Body[], string][] = [
    ['hollow', rooms, 'look inward, within a body that stands there'],
    ['trim', open, 'are not closed, and small beside what is'],
  ]
  return found
    .filter(([is, list]) => kind.faceRoles.includes(is) && list.length > 0)
    .map(([is, list, why]) => {
      const names = list.map(({ part }) => part.name)
      return {
        parameters: { is, parts: names },
        reason:
          `${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''}: faces that ` +
          `${why}.`,
      }
    })
}
