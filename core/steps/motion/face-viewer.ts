import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { baseNameOf, flagFor, materialTag, setMaterialTag } from '../../game/material-tag.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { moveItem } from '../../geometry/mesh/move-item.ts'
import { turnItem } from '../../geometry/mesh/turn-item.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { rememberFit } from '../../item/fit.ts'
import { boundsSize, partsBounds } from '../../item/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { turningSchema, turningWords } from '../../item/turning.ts'
import { translationMatrix } from '../../maths/matrices.ts'
import { materialByBase, materialOptions } from '../../operations/maps/map-pixels.ts'
import { unpaintedMaterial } from '../../operations/maps/unpainted.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'
import {
  facingCard,
  hangsAbove,
  MOST_DEPTH_SHARE,
  MOST_FRONT_DEGREES,
  type FacingCard,
} from '../../operations/motion/facing-card.ts'
import { makeCard } from '../../operations/motion/make-card.ts'
import { cross, unit, type Vector3 } from '../../maths/vectors.ts'
import { formatLength } from '../../support/wording.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'

const parameters = z.object({
  /** Whether its own mesh stays, or becomes a card with the picture of one of its materials. */
  shape: z.enum(['own', 'card']),
  material: materialInItem,
  turns: turningSchema,
  /** Height of the lower edge above the ground, in game units. */
  lowest: z.number().min(-1e5).max(1e5),
})

/** Makes of an item what its kind turns to who looks. */
export const faceViewer = defineStep<z.infer<typeof parameters>>({
  id: 'face-viewer',
  version: 1,
  stage: 'motion',
  title: 'Face the viewer',
  purpose: 'Has a flat thing look forward, turn about its own middle, hang where it should, and throw no shadow.',
  parameters,
  fields: ({ document, rulebook, kind }) => [
    {
      type: 'choice',
      key: 'shape',
      label: 'Shape',
      options: [
        { value: 'own', label: 'its own' },
        { value: 'card', label: 'a card with one picture' },
      ],
    },
    {
      type: 'choice',
      key: 'material',
      label: 'Picture of',
      options: materialOptions(document, rulebook),
      when: { key: 'shape', is: ['card'] },
    },
    {
      type: 'choice',
      key: 'turns',
      label: 'Turns',
      options: (kind.mesh?.facing?.turns ?? []).map((value) => ({
        value,
        label: turningWords[value],
      })),
    },
    {
      type: 'number',
      key: 'lowest',
      label: 'Lower edge at',
      unit: rulebook.space.unit.plural,
      least: -1000,
      most: 1000,
      step: 0.1,
    },
  ],
  defaults: ({ document, rulebook, kind }) =>
    settingsOf(document, rulebook, kind, facingCard(document, rulebook, kind)),
  propose({ document, rulebook, kind }) {
    const card = facingCard(document, rulebook, kind)
    if (!card) return []
    const settings = settingsOf(document, rulebook, kind, card)
    const reasons = [
      ...(settings.shape === 'card' ? ['it is no flat card'] : []),
      ...(card.frontDegrees > MOST_FRONT_DEGREES ? ['its front looks elsewhere'] : []),
      ...(card.wanderShare > 1e-3 && settings.turns === 'upright' ? ['its middle stands beside the origin'] : []),
      ...(settings.lowest > card.lowest ? ['it hangs lower than a figure’s head'] : []),
      ...(card.throwing.length > 0 ? ['it throws a shadow'] : []),
      ...(getRootExtras(document.getRoot()).turns === undefined ? ['the game has to be told how it turns'] : []),
    ]
    return reasons.length === 0
      ? []
      : [{ parameters: settings, reason: `It is turned to who looks: ${reasons.join(', ')}.` }]
  },
  async run({ document, rulebook, kind, parameters: { shape, material: name, turns, lowest } }) {
    if (!kind.mesh?.facing)
      return { headline: 'as it was', details: [`${kind.title} stands as it is put.`], changed: false }
    const details: string[] = []
    if (shape === 'card') {
      // What has no material at all becomes a card that has none to choose.
      const material =
        materialByBase(document, rulebook, name) ??
        (name === '' ? unpaintedMaterial(document, listViewParts(document).at(0)?.name ?? 'card') : null)
      if (!material) return gonePart(name)
      details.push(await becomeCard(document, material))
    }
    const card = facingCard(document, rulebook, kind)
    if (!card) return { headline: 'nothing is drawn', details: [], changed: false }
    if (card.frontDegrees > 0.01) {
      const turn = turnForward(card)
      turnItem(document, turn)
      rememberFit(document, turn)
      details.push(`Its front was turned forward by ${card.frontDegrees.toFixed(0)}°.`)
    }
    const { min, max } = partsBounds(listViewParts(document))
    const offset: Vector3 = [-(min[0] + max[0]) / 2, lowest - min[1], -(min[2] + max[2]) / 2]
    if (Math.hypot(...offset) > 1e-6) {
      moveItem(document, offset)
      rememberFit(document, translationMatrix(...offset))
      details.push(
        `Its lower edge hangs at ${formatLength(lowest)} ${rulebook.space.unit.plural}, its middle over the origin.`,
      )
    }
    const silenced = throwNoShadow(document, rulebook, card.throwing)
    if (silenced.length > 0)
      details.push(`${silenced.join(', ')} ${silenced.length === 1 ? 'throws' : 'throw'} no shadow.`)
    setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), turns })
    return {
      headline: turns === 'upright' ? 'upright' : 'any way',
      details: [...details, `It turns ${turningWords[turns]}.`],
      changed: true,
    }
  },
})

/** What it should be set to: a card where it is none, over heads, turning as it does or as the game does first. */
function settingsOf(
  document: Document,
  rulebook: Rulebook,
  kind: Kind,
  card: FacingCard | null,
): z.infer<typeof parameters> {
  const facing = kind.mesh?.facing
  const parts = listViewParts(document)
  const isCard =
    card === null || (card.depthShare <= MOST_DEPTH_SHARE && countTriangles(parts) <= (kind.mesh?.triangles ?? 0))
  const turns = card && facing?.turns.includes(card.turns) ? card.turns : (facing?.turns[0] ?? 'upright')
  const least = hangsAbove(rulebook, kind)
  const own = card?.lowest ?? 0
  return {
    shape: isCard ? 'own' : 'card',
    material: pictured(document, rulebook),
    turns,
    // A little more than its head, in round numbers.
    lowest: own >= least ? own : Math.ceil(least * 10.2) / 10,
  }
}

/** The material whose picture a card would show: the first that has one. */
function pictured(document: Document, rulebook: Rulebook): string {
  const used = listUsedMaterials(document)
  const chosen = used.find((material) => material.getBaseColorTexture()) ?? used.at(0)
  return chosen ? baseNameOf(chosen, rulebook) : ''
}

/** Puts a card as high as the item, and as wide as its picture asks, in its place. */
async function becomeCard(document: Document, material: Material): Promise<string> {
  const bounds = partsBounds(listViewParts(document))
  const [width, height, depth] = boundsSize(bounds)
  // What lies on the ground is as high as it is deep.
  const tall = height > 0.02 * Math.max(width, depth) ? height : depth
  const texture = material.getBaseColorTexture()
  const picture = texture ? await texturePixels(texture) : null
  const wide = picture ? (tall * picture.width) / picture.height : Math.max(width, depth)
  makeCard(document, material, {
    width: wide,
    height: tall,
    foot: [(bounds.min[0] + bounds.max[0]) / 2, bounds.min[1], (bounds.min[2] + bounds.max[2]) / 2],
  })
  return picture
    ? 'It became a card of two triangles with one picture.'
    : 'It became a card of two triangles; it has no picture.'
}

/** A rotation (column-major 4 × 4) that brings the front of a card to forward, by the shortest way. */
function turnForward({ front }: FacingCard): number[] {
  const upward: Vector3 = Math.abs(front[1]) > 0.9 ? [0, 0, -Math.sign(front[1])] : [0, 1, 0]
  const side = unit(cross(upward, front))
  const top = cross(front, side)
  const rows = [side, top, front]
  return [0, 1, 2].flatMap((axis) => [...rows.map((row) => row[axis]), 0]).concat([0, 0, 0, 1])
}

function throwNoShadow(document: Document, rulebook: Rulebook, throwing: readonly string[]): string[] {
  const flag = flagFor(rulebook, 'throws-no-shadow')
  if (flag === null) return []
  return listUsedMaterials(document).flatMap((material) => {
    const tag = materialTag(material, rulebook)
    if (!throwing.includes(tag.base)) return []
    setMaterialTag(document, material, { ...tag, flags: [...tag.flags, flag] }, rulebook)
    return [tag.base]
  })
}
