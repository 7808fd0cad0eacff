import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras } from '../../item/extras.ts'
import { isGameMapRole, isPackedRole, mapRoleSchema } from '../../item/map-roles.ts'
import { keyOf, normalRole, roleNamed, roleOfKey } from '../../game/map-roles.ts'
import type { ChannelMeaning } from '../../game/schema-surface.ts'
import { PlainError } from '../../support/plain-error.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { isUnlit, surfaceQuantities, type Quantity } from '../../item/material-meaning.ts'
import { dropIngredients, listMaterialMaps, materialMap, setMaterialMap } from '../../item/source-maps.ts'
import type { MapRole, Rulebook } from '../../game/schema.ts'
import { roleNames } from '../../game/shading.ts'
import {
  channelNames,
  packChannels as packPixels,
  sizeForAll,
  type ChannelSource,
} from '../../pictures/pack-channels.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { addTexture, materialByBase } from '../../operations/maps/map-pixels.ts'
import { meaningOfRole } from '../../pictures/meaning.ts'
import { fittingSize } from './size-maps.ts'
import { pictureByName, pictureNames } from '../../operations/maps/item-pictures.ts'
import type { SourceImage } from '../../operations/context.ts'
import { materialInItem, nameInItem } from '../item-names.ts'
import { defineStep } from '../step.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'
import { needsSurfaceMap } from '../../operations/maps/unsettled.ts'

/** What is punched for one channel of an output: a map's channel, or one value. */
export const punchSchema = z.object({
  /**
   * Role of a map of the material, `constant`, or `picture:` and the name of any picture: brought, of the game's stock,
   * or a texture of the item.
   */
  from: nameInItem,
  channel: z.enum(channelNames),
  inverted: z.boolean(),
  scale: z.number().min(0).max(8),
  /** What is added after scaling: 0 to 1. */
  base: z.number().min(0).max(1).default(0),
  /** For `constant`: 0 to 1. */
  value: z.number().min(0).max(1),
})
export type Punch = z.output<typeof punchSchema>

export const cardSchema = z.object({
  /** The material's name without its tag. */
  material: materialInItem,
  /** A role of the game, by its name. */
  output: z.string().max(64),
  red: punchSchema,
  green: punchSchema,
  blue: punchSchema,
  alpha: punchSchema,
})
export type Card = z.infer<typeof cardSchema>

/** Before the name of a picture in `from`. */
const PICTURE = 'picture:'

const parameters = z.object({ cards: z.array(cardSchema).max(20_000) })
const outputs = ['red', 'green', 'blue', 'alpha'] as const
const letters = { red: 'r', green: 'g', blue: 'b', alpha: 'a' } as const

/** Puts channels of several maps into those that the game reads. */
export const packChannels = defineStep<z.infer<typeof parameters>>({
  id: 'pack-channels',
  version: 3,
  stage: 'surface',
  pixelwise: true,
  ofMaps: true,
  title: 'Pack channels',
  purpose: 'Puts any channel of any map, turned round or scaled, or one value, into the channels that the game reads.',
  parameters,
  fields: ({ document, source, rulebook, images }) => [
    {
      type: 'cards',
      key: 'cards',
      label: 'Cards',
      layouts: rulebook.maps.roles.map(({ role, title, channels }) => ({ role, title, channels })),
      rows: rowsOf(source ?? document, rulebook),
      pictures: pictureNames(source ?? document, images),
    },
  ],
  defaults: ({ document, rulebook }) => ({ cards: proposeCards(document, rulebook) }),
  propose({ document, rulebook }) {
    const cards = proposeCards(document, rulebook)
    if (cards.length === 0) return []
    const from = (card: Card): string =>
      [
        ...new Set(
          outputs
            .map((output) => card[output])
            .filter((punch) => punch.from !== 'constant')
            .map((punch) => punch.from),
        ),
      ].join(', ')
    return [
      {
        parameters: { cards },
        reason:
          cards
            .map(
              (card) =>
                `${from(card) || 'gloss and metal without a map'} ` +
                `${from(card).includes(',') || from(card) === '' ? 'go' : 'goes'} into one ${card.output} map of ` +
                `${card.material}`,
            )
            .join('; ') + ', as the game reads them.',
      },
    ]
  },
  async run({ document, rulebook, images, parameters: { cards }, progress }) {
    const details: string[] = []
    let used = 0
    for (const [number, card] of cards.entries()) {
      await progress(number / cards.length, `${card.material}, ${card.output}`)
      const material = materialByBase(document, rulebook, card.material)
      if (!material) {
        details.push(`There is no material “${card.material}” at this place.`)
        continue
      }
      const role = roleNamed(card.output, rulebook)
      if (!role) {
        details.push(`The game has no map “${card.output}”.`)
        continue
      }
      const key = keyOf(role, rulebook)
      const sources = await Promise.all(
        outputs.map((output) => sourceOf(document, images, material, card[output], rulebook)),
      )
      // As large as the largest that goes in, at a size that the game takes.
      const given = sizeForAll(sources)
      const size = fittingSize(given.width, given.height, rulebook.maps.largestPixels, rulebook)
      const made = packPixels(
        size.width,
        size.height,
        sources as [ChannelSource, ChannelSource, ChannelSource, ChannelSource],
      )
      const name = `${card.material}_${card.output}`
      setMaterialMap(document, material, key, addTexture(document, name, key, made, 'packed channels'))
      // The map says it all now: factors would weaken it where glTF multiplies the two.
      if (isPackedRole(key)) material.setRoughnessFactor(1).setMetallicFactor(1)
      details.push(...addFlatMaps(document, material, rulebook))
      used += new Set(outputs.map((output) => card[output].from).filter((from) => from !== 'constant')).size
      details.push(
        `${name}, ${size.width} × ${size.height}: ` +
          `${outputs.map((output) => `${letters[output].toUpperCase()} ${describe(card[output])}`).join(', ')}.`,
      )
    }
    // What is packed, and what no game reads, is not carried on.
    for (const material of listUsedMaterials(document))
      if (cards.some((card) => card.material === baseNameOf(material, rulebook))) dropIngredients(document, material)
    for (const texture of document.getRoot().listTextures())
      if (texture.listParents().every((parent) => parent.propertyType === 'Root')) texture.dispose()
    return {
      headline: `${used} → ${cards.length}`,
      details: details.length > 0 ? details : ['No card was punched.'],
      changed: cards.length > 0,
    }
  },
})

/** The rows of a card: each map that the item's materials came with. */
function rowsOf(document: Document, rulebook: Rulebook): { value: string; label: string; picture: string }[] {
  const rows = new Map<string, string>()
  for (const material of listUsedMaterials(document))
    for (const { role: key, texture } of listMaterialMaps(material)) {
      const name = isPackedRole(key) ? (roleOfKey(key, rulebook)?.role ?? key) : key
      if (!rows.has(name)) rows.set(name, texture.getName())
    }
  return [...rows].map(([value, picture]) => ({
    value,
    label: value.charAt(0).toUpperCase() + value.slice(1),
    picture,
  }))
}

const describe = (punch: Punch): string =>
  punch.from === 'constant'
    ? String(Math.round(punch.value * 100) / 100)
    : `${punch.from.replace(PICTURE, '')} ` +
      `${punch.channel}${punch.inverted ? ' turned round' : ''}${punch.scale === 1 ? '' : ` × ${punch.scale}`}`

async function sourceOf(
  document: Document,
  images: readonly SourceImage[] | undefined,
  material: Material,
  { from, value, channel, inverted, scale, base }: Punch,
  rulebook: Rulebook,
): Promise<ChannelSource> {
  if (from === 'constant') return { constant: value }
  if (from.startsWith(PICTURE))
    return {
      picture: await pictureByName(from.slice(PICTURE.length), document, images),
      channel,
      meaning: channel === 'alpha' || channel === 'brightness' ? 'data' : 'colour',
      inverted,
      scale,
      base,
    }
  const known = mapRoleSchema.safeParse(keyWritten(from, rulebook))
  const texture = known.success ? materialMap(material, known.data) : null
  if (!known.success || !texture)
    throw new PlainError(
      `there is no map “${from}” at this place`,
      material.getName(),
      'Punch another row, or a constant.',
    )
  return { picture: await texturePixels(texture), channel, meaning: meaningOfRole(known.data), inverted, scale, base }
}

/** What a punch calls a map, as items keep it: a role that a game packs is called by the game’s own name. */
const keyWritten = (from: string, rulebook: Rulebook): string => {
  const role = roleNamed(from, rulebook)
  return role && isPackedRole(keyOf(role, rulebook)) ? keyOf(role, rulebook) : from
}

const fromMap = (from: string, channel: Punch['channel']): Punch => ({
  from,
  channel,
  inverted: false,
  scale: 1,
  base: 0,
  value: 0,
})
const constant = (value: number): Punch => ({
  from: 'constant',
  channel: 'red',
  inverted: false,
  scale: 1,
  base: 0,
  value,
})
const channels = ['red', 'green', 'blue'] as const

/** A number of the surface as a punch: the channel that says it, its factor multiplied in. */
const fromQuantity = ({ map, scale, base }: Quantity): Punch =>
  map ? { ...fromMap(map.role, channels[map.channel]), inverted: map.inverted, scale, base } : constant(base)

/**
 * Cards for every output whose channels some ingredient of a material belongs to, or whose gloss and metal no map says
 * yet.
 */
export function proposeCards(document: Document, rulebook: Rulebook): Card[] {
  return listUsedMaterials(document).flatMap((material) => {
    const has = new Set<string>(listMaterialMaps(material).map(({ role }) => role))
    if (isUnlit(material)) return []
    return rulebook.maps.roles.flatMap((layout) => {
      const wanted = Object.values(layout.channels).filter((meaning) => meaning !== null)
      const fed = wanted.some((meaning) =>
        [...has].some((role) => !isGameMapRole(role) && (saidBy[meaning] ?? [meaning]).includes(role)),
      )
      const shines =
        (wanted.includes('roughness') || wanted.includes('gloss')) &&
        !getMaterialExtras(material).shineIsGuessed &&
        needsSurfaceMap(material, material.getBaseColorTexture() !== null, rulebook)
      return fed || shines ? [cardFor(material, layout, has, rulebook)] : []
    })
  })
}

/** What ingredients say of a meaning. */
const saidBy: Partial<Record<ChannelMeaning, readonly string[]>> = {
  gloss: ['roughness', 'gloss', 'metal-rough', 'orm'],
  roughness: ['roughness', 'gloss', 'metal-rough', 'orm'],
  metalness: ['metalness', 'metal-rough', 'orm'],
  occlusion: ['occlusion', 'orm'],
}

/** What gloss is where this is roughness: 1 − (scale · x + base). */
const turnedRound = (punch: Punch): Punch =>
  punch.from === 'constant'
    ? { ...punch, value: 1 - punch.value }
    : { ...punch, inverted: !punch.inverted, base: Math.max(0, 1 - punch.scale - punch.base) }

/** Each channel of an output from what the source means; what it says nothing of has the value that changes nothing. */
function cardFor(material: Material, layout: MapRole, has: ReadonlySet<string>, rulebook: Rulebook): Card {
  const own = keyOf(layout, rulebook)
  const quantities = surfaceQuantities(material)
  const kept = isPackedRole(own) ? layout.role : own
  const punch = (output: (typeof outputs)[number]): Punch => {
    const meaning = layout.channels[letters[output]]
    if (meaning === 'roughness' || meaning === 'metalness' || meaning === 'occlusion' || meaning === 'gloss') {
      const quantity = quantities[meaning === 'gloss' ? 'roughness' : meaning]
      if (quantity.map === null && has.has(own)) return fromMap(kept, output)
      return meaning === 'gloss' ? turnedRound(fromQuantity(quantity)) : fromQuantity(quantity)
    }
    if (meaning === 'full') return constant(1)
    if (meaning !== null && has.has(meaning))
      return fromMap(meaning, meaning === 'opacity' || meaning === 'glow' ? 'brightness' : 'red')
    if (has.has(own)) return fromMap(kept, output)
    if (meaning === 'opacity') return constant(1)
    return constant(meaning === null && output === 'alpha' ? 1 : 0)
  }
  return {
    material: baseNameOf(material, rulebook),
    output: layout.role,
    red: punch('red'),
    green: punch('green'),
    blue: punch('blue'),
    alpha: punch('alpha'),
  }
}

/** Maps that the shading of a material's maps needs and that it lacks, with nothing in them: a relief that is flat. */
function addFlatMaps(document: Document, material: Material, rulebook: Rulebook): string[] {
  const present = roleNames(material, rulebook)
  const model = rulebook.materials.shadingModels.find(
    ({ requires, forbids }) =>
      present.every((role) => !forbids.includes(role)) && present.every((role) => requires.includes(role)),
  )
  const lacking = (model?.requires ?? []).filter((role) => !present.includes(role))
  return lacking.flatMap((role) => {
    const layout = roleNamed(role, rulebook)
    if (!layout || layout !== normalRole(rulebook)) return []
    const side = rulebook.maps.smallestPixels
    const name = `flat_${role}`
    const known = document
      .getRoot()
      .listTextures()
      .find((texture) => texture.getName() === name)
    const data = Uint8Array.from({ length: side * side * 4 }, (_, at) => [128, 128, 255, 255][at % 4])
    const pixels = { width: side, height: side, data }
    const flat = known ?? addTexture(document, name, 'normal', pixels, 'nothing: its shading asks for it')
    setMaterialMap(document, material, 'normal', flat)
    return [
      `${baseNameOf(material, rulebook)} got a flat ${role} map, since ` +
        `${model?.title.toLowerCase() ?? 'its shading'} go together.`,
    ]
  })
}
