import type { Document, Node } from '@gltf-transform/core'
import { getNodeExtras, type NodeExtras } from '../extras.ts'
import { listSceneNodes } from '../parts.ts'
import { annotationKind } from './index.ts'

/** A node without mesh that is something to the game. */
export interface Place {
  name: string
  node: Node
  extras: NodeExtras
}

/**
 * Every attach point, marker and light, in the order of the scene.
 *
 * @example const markers = listPlaces(document).filter(({ extras }) => extras.role === 'marker')
 */
export const listPlaces = (document: Document): Place[] =>
  listSceneNodes(document)
    .map((node) => ({ name: node.getName(), node, extras: getNodeExtras(node) }))
    .filter(({ extras }) => annotationKind(extras.role)?.is === 'place')
