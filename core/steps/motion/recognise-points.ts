import type { Document, Node } from '@gltf-transform/core'
import { z } from 'zod'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { lettersApart, lettersOf } from '../../game/solid-names.ts'
import type { AnnotationRole } from '../../item/annotations/annotation-kind.ts'
import { annotationKind } from '../../item/annotations/index.ts'
import { LIGHTS_EXTENSION } from '../../item/annotations/light/light.ts'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { listSceneNodes } from '../../item/parts.ts'
import { plural } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** Names of the nodes that are points; what else there is stays a node without meaning. */
  names: namesInItem,
})

interface FoundPoint {
  node: Node
  role: AnnotationRole
  /** Which of the rulebook's markers it is. */
  marker?: string
}

/** Tells what the empty nodes and lamps of a source are to the game: markers by their names, attach points, lights. */
export const recognisePoints = defineStep<z.infer<typeof parameters>>({
  id: 'recognise-points',
  version: 1,
  stage: 'motion',
  title: 'Recognise points',
  purpose: 'Reads empty nodes and lamps of the source as the markers, attach points and lights that the game knows.',
  parameters,
  fields: ({ document, source, rulebook, kind }) => [
    {
      type: 'layers',
      key: 'names',
      label: 'Are points',
      options: findPoints(source ?? document, rulebook, kind).map(({ node, role, marker }) => ({
        value: node.getName(),
        label: `${node.getName()} (${marker ?? annotationKind(role)?.title.toLowerCase()})`,
      })),
    },
  ],
  defaults: ({ document, rulebook, kind }) => ({ names: namesOf(findPoints(document, rulebook, kind)) }),
  propose({ document, rulebook, kind }) {
    const found = findPoints(document, rulebook, kind)
    if (found.length === 0) return []
    return [
      {
        parameters: { names: namesOf(found) },
        reason:
          `${plural(found.length, 'node')} without a mesh ${found.length === 1 ? 'is' : 'are'} something to the ` +
          `game: ${listed(found)}.`,
      },
    ]
  },
  async run({ document, rulebook, kind, parameters: { names } }) {
    const found = findPoints(document, rulebook, kind).filter(({ node }) => names.includes(node.getName()))
    for (const { node, role, marker } of found)
      setNodeExtras(node, { ...getNodeExtras(node), role, ...(marker === undefined ? {} : { marker }) })
    const missing = names.filter((name) => !found.some(({ node }) => node.getName() === name))
    return {
      headline: plural(found.length, 'point'),
      details: [
        ...found.map(
          ({ node, role, marker }) =>
            `${node.getName()} is ` +
            `${marker === undefined ? `a${role === 'attach-point' ? 'n' : ''} ${annotationKind(role)?.title.toLowerCase()}` : `the marker ${marker}`}.`,
        ),
        ...(missing.length > 0 ? [`Not there any more, or no point: ${missing.slice(0, 4).join(', ')}.`] : []),
      ],
      changed: found.length > 0,
    }
  },
})

const namesOf = (points: readonly FoundPoint[]): string[] => points.map(({ node }) => node.getName())

function listed(points: readonly FoundPoint[]): string {
  const [first, second, third, ...rest] = namesOf(points)
  return `${[first, second, third].filter(Boolean).join(', ')}${rest.length > 0 ? ` and ${rest.length} more` : ''}`
}

/** What without a mesh means something to the game, for things of this kind, and is not told so yet. */
function findPoints(document: Document, { markers }: Rulebook, kind: Kind): FoundPoint[] {
  const joints = new Set(
    document
      .getRoot()
      .listSkins()
      .flatMap((skin) => skin.listJoints()),
  )
  const found: FoundPoint[] = []
  for (const node of listSceneNodes(document)) {
    if (node.getMesh() || node.getCamera() || joints.has(node) || getNodeExtras(node).role !== 'part') continue
    if (node.getExtension(LIGHTS_EXTENSION)) {
      if (kind.mostLights > 0) found.push({ node, role: 'light' })
      continue
    }
    if (node.listChildren().length > 0) continue
    const letters = lettersOf(node.getName())
    const marker = kind.markers ? markers.find(({ name }) => lettersApart(letters, lettersOf(name)) <= 1) : undefined
    if (marker) found.push({ node, role: 'marker', marker: marker.name })
    else if (kind.attachPoints) found.push({ node, role: 'attach-point' })
  }
  return found
}
