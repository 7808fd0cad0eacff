import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { listPlaces } from '../../item/annotations/places.ts'
import { descendants, listAllParts, listSceneNodes } from '../../item/parts.ts'
import { dropUnused } from '../../operations/meshes/drop-unused.ts'
import type { OfficialWithin } from '../../operations/context.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatChange, plural, withArticle } from '../../support/wording.ts'

const parameters = z.object({ parts: namesInItem })

/** Every part that the game does not have already. */
const partsToKeep = (document: Document, official: OfficialWithin | null | undefined): string[] =>
  listAllParts(document)
    .map((part) => part.name)
    .filter((name) => !official?.parts.includes(name))

/** Keeps only chosen parts of a source: how one thing is taken out of a whole scene. */
export const keepParts = defineStep<z.infer<typeof parameters>>({
  id: 'keep-parts',
  version: 1,
  stage: 'intake',
  title: 'Keep parts',
  purpose: 'Keeps only the chosen parts, with what they hang on and the motion that moves them.',
  parameters,
  fields: () => [{ type: 'parts', key: 'parts', label: 'Keep' }],
  defaults: ({ document, official }) => ({ parts: partsToKeep(document, official) }),
  propose({ document, official, kind }) {
    const kept = partsToKeep(document, official)
    if (!official || kept.length === 0 || official.parts.length === 0) return []
    return [
      {
        parameters: { parts: kept },
        reason:
          `${plural(official.parts.length, 'part')} ${official.parts.length === 1 ? 'is' : 'are'} of ` +
          `“${official.title}”, which the game has already; ${withArticle(kind.title.toLowerCase())} brings what ` +
          'is new.',
      },
    ]
  },
  async run({ document, parameters: { parts } }) {
    const all = listAllParts(document)
    const kept = all.filter((part) => parts.includes(part.name))
    const missing = parts.filter((name) => !kept.some((part) => part.name === name))
    if (kept.length === 0) return gonePart(parts[0] ?? '')
    const needed = new Set(kept.flatMap(({ node }) => [node, ...(node.getSkin()?.listJoints() ?? [])]))
    // What is something to the game goes with the part that it hangs on.
    const holders = new Set(kept.map((part) => part.node))
    for (const { node } of listPlaces(document))
      for (let above = node.getParentNode(); above; above = above.getParentNode())
        if (holders.has(above)) needed.add(node)
    let left = 0
    for (const node of listSceneNodes(document).toReversed()) {
      if (needed.has(node)) continue
      if (node.getMesh()) left++
      const carries = descendants(node).some((below) => needed.has(below))
      if (carries) node.setMesh(null).setCamera(null).setExtension('KHR_lights_punctual', null)
      else node.dispose()
    }
    dropUnused(document)
    const details = [`${plural(kept.length, 'part')} kept, ${plural(left, 'part')} left out.`]
    if (missing.length > 0)
      details.push(
        `${missing.slice(0, 4).join(', ')}: no such ${missing.length === 1 ? 'part' : 'parts'} in the source any more.`,
      )
    return { headline: formatChange(-left), details, changed: left > 0 }
  },
})
