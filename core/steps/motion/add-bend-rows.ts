import { z } from 'zod'
import { ownMesh } from '../../item/own-mesh.ts'
import { countMeshTriangles, countTriangles, listViewParts } from '../../item/parts.ts'
import { addRows, spreadOnce } from '../../operations/motion/add-rows.ts'
import { ANGULAR_DEGREES, breaksOf } from '../../operations/motion/measure-bend.ts'
import { readHeldMesh } from '../../operations/motion/skin.ts'
import { formatCount } from '../../support/wording.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { chosenHeldParts, partsHeldHere } from './held-part.ts'

const MOST_ROUNDS = 5
/** Triangles that stay free for what comes after. */
const SHARE_OF_BUDGET = 0.8

const parameters = z.object({
  /** Names of parts; empty for all that bones hold. */
  parts: namesInItem,
  /** How much an edge may break, in degrees, when a bone is turned. */
  mostDegrees: z.number().min(1).max(90),
})

/** More rows where a bend would be angular. */
export const addBendRows = defineStep<z.infer<typeof parameters>>({
  id: 'add-bend-rows',
  version: 1,
  stage: 'motion',
  title: 'Add rows where it bends',
  purpose:
    'Splits edges at which the mesh breaks when a bone is turned; new corners are held halfway, and at rest the ' +
    'shape stays as it is.',
  parameters,
  fields: () => [
    { type: 'parts', key: 'parts', label: 'Only these' },
    {
      type: 'number',
      key: 'mostDegrees',
      label: 'An edge breaks by at most',
      unit: '°',
      least: 1,
      most: 90,
      step: 1,
      slider: true,
    },
  ],
  defaults: () => ({ parts: [], mostDegrees: ANGULAR_DEGREES - 5 }),
  propose({ document, kind }) {
    if (!kind.bones) return []
    const angular = partsHeldHere(document).flatMap((part) => {
      const held = readHeldMesh(part)
      const worst = held ? breaksOf(held).worstDegrees : 0
      return worst > ANGULAR_DEGREES ? [{ name: part.name, worst }] : []
    })
    if (angular.length === 0) return []
    return [
      {
        parameters: {
          parts: angular.map(({ name }) => name),
          // A little less than what is noticed, so that what is left is not noticed again.
          mostDegrees: ANGULAR_DEGREES - 5,
        },
        reason:
          `${angular.map(({ name, worst }) => `${name} breaks by ${worst.toFixed(0)}°`).join(', ')} at one edge ` +
          'when a bone is turned.',
      },
    ]
  },
  async run({ document, kind, parameters: { parts, mostDegrees }, progress }) {
    const chosen = chosenHeldParts(document, parts)
    const details: string[] = []
    let added = 0
    for (const [number, part] of chosen.entries()) {
      const mesh = ownMesh(part.node)
      const before = readHeldMesh(part)
      if (!mesh || !before) continue
      const own = { ...part, mesh }
      const worst = breaksOf(before).worstDegrees
      const least = countMeshTriangles(mesh)
      for (let round = 0; round < MOST_ROUNDS; round++) {
        await progress((number + round / MOST_ROUNDS) / chosen.length, part.name)
        const room = (kind.mesh?.triangles ?? Infinity) * SHARE_OF_BUDGET - countTriangles(listViewParts(document))
        if (addRows(document, own, mesh, mostDegrees, room) === 0) break
      }
      const more = countMeshTriangles(mesh) - least
      if (more > 0) spreadOnce(document, own, mesh)
      added += more
      const now = readHeldMesh(own)
      if (more > 0 && now)
        details.push(
          `${part.name}: ${formatCount(more)} triangles more. It broke by ${worst.toFixed(0)}° at one edge, now ` +
            `by ${breaksOf(now).worstDegrees.toFixed(0)}°.`,
        )
      else if (worst > mostDegrees)
        details.push(
          `${part.name} breaks by ${worst.toFixed(0)}°; more rows would not change that, or there is no room for them.`,
        )
    }
    return {
      headline: `+${formatCount(added)}`,
      details: details.length > 0 ? details : ['Nothing bends sharply.'],
      changed: added > 0,
    }
  },
})
