import { isRawPixels, readRawPixels } from '../../pictures/formats/raw-pixels.ts'
import { z } from 'zod'
import { listUsedMaterials } from '../../item/parts.ts'
import { rimColour, withOpacity, opacityKind, type OpacitySource } from '../../pictures/opacity.ts'
import { growEdges } from '../../pictures/grow-edges.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { decodeJpegRoughly } from '../../pictures/formats/jpeg.ts'
import { decodePng, sniffImage } from '../../pictures/image-codecs.ts'
import { materialMap, setMaterialMap } from '../../item/source-maps.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import { hexColour, materialByBase, materialOptions, putPixels } from '../../operations/maps/map-pixels.ts'
import { bytesOfHex } from '../../pictures/srgb.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const parameters = z.object({
  material: materialInItem,
  from: z.enum(['colour-key', 'brightness', 'red', 'green', 'blue', 'alpha', 'opacity-map']),
  key: z.string().regex(/^#[0-9a-f]{6}$/i),
  tolerance: z.number().min(0).max(1),
  softness: z.number().min(0).max(1),
  inverted: z.boolean(),
  /** Opacity below which it is cut: moved to one half, where games cut. */
  threshold: z.number().min(0.01).max(0.99).default(0.5),
  drawn: z.enum(['cut', 'blended']),
})
type Parameters = z.infer<typeof parameters>

/** Makes opacity for a material's colour map, and sets how the game draws it. */
export const cutMask = defineStep<Parameters>({
  id: 'cut-mask',
  version: 2,
  stage: 'surface',
  pixelwise: true,
  ofMaps: true,
  title: 'Cut out',
  purpose:
    'Makes a colour map’s opacity from a colour key, its brightness, a channel or an opacity map, and has the ' +
    'game cut it at one half or blend it.',
  parameters,
  fields: ({ document, rulebook }) => [
    { type: 'choice', key: 'material', label: 'Material', options: materialOptions(document, rulebook) },
    {
      type: 'choice',
      key: 'from',
      label: 'From',
      options: [
        ['colour-key', 'A colour'],
        ['brightness', 'Brightness'],
        ['red', 'Red'],
        ['green', 'Green'],
        ['blue', 'Blue'],
        ['alpha', 'Its own opacity'],
        ['opacity-map', 'The opacity map'],
      ].map(([value, label]) => ({ value, label })),
    },
    { type: 'colour', key: 'key', label: 'Clear colour', when: { key: 'from', is: ['colour-key'] } },
    {
      type: 'number',
      key: 'tolerance',
      label: 'Reach',
      unit: 'of 1, by eye',
      least: 0,
      most: 1,
      step: 0.01,
      slider: true,
      when: { key: 'from', is: ['colour-key'] },
    },
    {
      type: 'number',
      key: 'softness',
      label: 'Soft edge',
      unit: 'of 1, by eye',
      least: 0,
      most: 1,
      step: 0.01,
      when: { key: 'from', is: ['colour-key'] },
    },
    { type: 'toggle', key: 'inverted', label: 'Turned round' },
    {
      type: 'number',
      key: 'threshold',
      label: 'Cut below',
      unit: 'opacity, 0 to 1',
      least: 0.01,
      most: 0.99,
      step: 0.01,
      slider: true,
      when: { key: 'drawn', is: ['cut'] },
    },
    {
      type: 'choice',
      key: 'drawn',
      label: 'Drawn',
      options: [
        { value: 'cut', label: 'Cut at one half' },
        { value: 'blended', label: 'Blended' },
      ],
    },
  ],
  defaults: ({ document, rulebook }) => ({
    ...starting,
    material: listUsedMaterials(document).map((material) => baseNameOf(material, rulebook))[0] ?? '',
  }),
  propose({ document, rulebook, kind }) {
    const found: { parameters: Parameters; reason: string }[] = []
    for (const material of listUsedMaterials(document)) {
      const name = baseNameOf(material, rulebook)
      const image = material.getBaseColorTexture()?.getImage()
      if (!image) continue
      if (materialMap(material, 'opacity'))
        found.push({
          parameters: { ...starting, material: name, from: 'opacity-map' },
          reason: `${name} has an opacity map of its own; the game reads opacity from the colour map.`,
        })
      else if (kind.mesh?.facesViewer && material.getAlphaMode() === 'OPAQUE') {
        const pixels = decodable(image)
        const rim = pixels && opacityKind(pixels) === 'opaque' ? rimColour(pixels) : null
        if (rim)
          found.push({
            parameters: { ...starting, material: name, key: hexColour(rim) },
            reason: `The rim of ${name} is all ${hexColour(rim)}: its outline can be cut out by that colour.`,
          })
      }
    }
    return found
  },
  async run({ document, rulebook, parameters: how }) {
    const material = materialByBase(document, rulebook, how.material)
    const texture = material?.getBaseColorTexture()
    if (!material || !texture) return gonePart(how.material)
    const pixels = await texturePixels(texture)
    const other = how.from === 'opacity-map' ? materialMap(material, 'opacity') : null
    if (how.from === 'opacity-map' && !other) return gonePart(`opacity map of ${how.material}`)
    const mask = other ? resizePixels(await texturePixels(other), pixels.width, pixels.height, 'data') : pixels
    const made = withoutFringe(
      cutAt(withOpacity(pixels, sourceOf(how), mask), how.drawn === 'cut' ? how.threshold : 0.5),
    )
    putPixels(texture, made)
    if (other) setMaterialMap(document, material, 'opacity', null)
    material.setAlphaMode(how.drawn === 'cut' ? 'MASK' : 'BLEND').setAlphaCutoff(0.5)
    const clear = clearShare(made.data)
    return {
      headline: `${Math.round(clear * 100)} % clear`,
      details: [
        `${texture.getName()}: ${(clear * 100).toFixed(1)} % of its pixels are clear now; ${how.material} is ` +
          `${how.drawn === 'cut' ? 'cut at one half' : 'blended'}.`,
      ],
      changed: true,
    }
  },
})

const starting: Parameters = {
  material: '',
  from: 'colour-key',
  key: '#ffffff',
  tolerance: 0.08,
  softness: 0.04,
  inverted: false,
  threshold: 0.5,
  drawn: 'cut',
}

function sourceOf(how: Parameters): OpacitySource {
  if (how.from === 'colour-key')
    return { from: 'colour-key', colour: bytesOfHex(how.key), tolerance: how.tolerance, softness: how.softness }
  if (how.from === 'brightness' || how.from === 'opacity-map') return { from: 'brightness', inverted: how.inverted }
  return {
    from: 'channel',
    channel: (['red', 'green', 'blue', 'alpha'] as const).indexOf(how.from) as 0 | 1 | 2 | 3,
    inverted: how.inverted,
  }
}

/** Opacity bent so that a threshold comes to one half; wholly clear and wholly opaque stay. */
function cutAt(pixels: Pixels, threshold: number): Pixels {
  if (threshold === 0.5) return pixels
  const bent = Uint8Array.from({ length: 256 }, (_, value) =>
    Math.round(
      255 *
        (value / 255 < threshold
          ? (value / 255 / threshold) * 0.5
          : 0.5 + ((value / 255 - threshold) / (1 - threshold)) * 0.5),
    ),
  )
  return { ...pixels, data: pixels.data.map((value, at) => (at % 4 === 3 ? bent[value] : value)) }
}

function clearShare(data: Uint8Array): number {
  let clear = 0
  for (let at = 3; at < data.length; at += 4) if (data[at] < 128) clear++
  return clear / (data.length / 4)
}

/** Half-clear pixels still hold some of the ground: they take the colour of the nearest that is wholly there. */
function withoutFringe(pixels: Pixels): Pixels {
  const whole = Uint8Array.from({ length: pixels.data.length / 4 }, (_, pixel) =>
    pixels.data[pixel * 4 + 3] >= 250 ? 1 : 0,
  )
  return growEdges(pixels, whole, true)
}

/** Pixels of a picture that is not compressed, to be read only, or null of anything else: a proposal does not fail. */
function decodable(image: Uint8Array): Pixels | null {
  try {
    if (isRawPixels(image)) return readRawPixels(image)
    return sniffImage(image) === 'image/png' ? decodePng(image) : decodeJpegRoughly(image)
  } catch {
    return null
  }
}
