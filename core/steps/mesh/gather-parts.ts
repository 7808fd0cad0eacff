import type { Document, Node } from '@gltf-transform/core'
import { z } from 'zod'
import { tellsBodies } from '../../game/body-names.ts'
import { foreignExtras, getNodeExtras } from '../../item/extras.ts'
import { countMeshTriangles, listViewParts, movingReasons, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { joinTogether } from '../../operations/meshes/join-together.ts'
import { solidGroups } from '../../operations/solids/solid-groups.ts'
import { formatCount, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({ most: z.number().int().min(1).max(1000) })

/** More parts than these are no things of their own any more, such as the bricks of a wall. */
const MANY_PARTS = 400
/** As many as anything a game has is made of. */
const FEW_PARTS = 64

/** Makes few parts of very many. */
export const gatherParts = defineStep<z.infer<typeof parameters>>({
  id: 'gather-parts',
  version: 1,
  stage: 'mesh',
  title: 'Gather parts',
  purpose: 'Makes one part of those that lie together and stand still, until there are few. Materials stay as groups.',
  parameters,
  fields: () => [{ type: 'number', key: 'most', label: 'At most', unit: 'parts', least: 1, most: 1000, step: 1 }],
  defaults: () => ({ most: FEW_PARTS }),
  propose({ document, rulebook, kind }) {
    // Where a part's name says what it does, or parts are what bones are made of, each stays.
    if (!kind.mesh || kind.mesh.losesUVs || kind.bones || tellsBodies(rulebook, kind)) return []
    const parts = gatherable(document)
    if (parts.length <= MANY_PARTS) return []
    return [
      {
        parameters: { most: FEW_PARTS },
        reason:
          `${formatCount(parts.length)} parts stand still, and a game draws each by itself: those that lie together ` +
          'become one.',
      },
    ]
  },
  async run({ document, parameters: { most }, progress }) {
    const parts = gatherable(document)
    const before = parts.length
    const groups = [...new Set(parts.map(({ extras }) => extras.model))].flatMap((model) => {
      const ofModel = parts.filter(({ extras }) => extras.model === model)
      return ofModel.length > most ? solidGroups(document, ofModel, most) : ofModel.map((part) => [part])
    })
    for (const [number, group] of groups.entries()) {
      await progress(number / groups.length, group[0].name)
      if (group.length < 2) continue
      const carriers = group.map(({ node }) => node.getParentNode())
      joinTogether(document, largestFirst(group))
      for (const carrier of carriers) dropEmptied(carrier)
    }
    dropUnusedAccessors(document)
    const gone = before - groups.length
    return {
      headline: gone > 0 ? `−${plural(gone, 'part')}` : 'as it was',
      details: [
        gone > 0
          ? `${formatCount(before)} parts that stand still became ${formatCount(groups.length)}, each called like the ` +
            'largest in it.'
          : `${plural(before, 'part')} ${before === 1 ? 'stands' : 'stand'} still; there is nothing to gather.`,
      ],
      changed: gone > 0,
    }
  },
})

/** Still parts of which nothing hangs on what each is by itself: no group, no host, nothing that stands for it. */
function gatherable(document: Document): Part[] {
  const moving = movingReasons(document)
  const isOfGroup = (node: Node | null): boolean =>
    node !== null && (getNodeExtras(node).group !== undefined || isOfGroup(node.getParentNode()))
  return listViewParts(document).filter(
    ({ node, extras }) =>
      !moving.has(node) &&
      !node.getSkin() &&
      !extras.ofHost &&
      node.listChildren().every((child) => getNodeExtras(child).role === 'part') &&
      !isOfGroup(node),
  )
}

/** Nodes that carried nothing but what was joined elsewhere go with it. Those that move carry no still part. */
function dropEmptied(carrier: Node | null): void {
  for (let node = carrier; node && !node.isDisposed();) {
    const above: Node | null = node.getParentNode()
    const carries =
      node.listChildren().length > 0 ||
      node.getMesh() !== null ||
      node.getCamera() !== null ||
      node.listExtensions().length > 0
    if (carries || getNodeExtras(node).role !== 'part' || Object.keys(foreignExtras(node)).length > 0) return
    node.dispose()
    node = above
  }
}

const largestFirst = (parts: readonly Part[]): Part[] =>
  parts
    .map((part) => ({ part, triangles: countMeshTriangles(part.mesh) }))
    .sort((a, b) => b.triangles - a.triangles)
    .map(({ part }) => part)
