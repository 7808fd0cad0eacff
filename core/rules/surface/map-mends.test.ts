import type { Document, Texture } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setMaterialTag } from '../../game/material-tag.ts'
import { setMaterialExtras } from '../../item/extras.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { textureFacts } from '../../operations/maps/texture-pixels.ts'
import { ddsMimeType, writeDds } from '../../pictures/codecs/dds.ts'
import { levelBytes } from '../../pictures/codecs/block-codec.ts'
import { boxWith } from '../../test-support/mapped-boxes.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { painted } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { kindOf } from '../../game/load.ts'
import { checkItem } from '../registry.ts'
import type { Finding } from '../rule.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const findings = (document: Document): Finding[] =>
  checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings
const of = (document: Document, rule: string): Finding[] => findings(document).filter((each) => each.rule === rule)

/** A box that shows one picture of such a size, with UVs. */
function showing(width: number, height: number): Document {
  const { document } = boxWith({ colour: painted(width, height) })
  const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
  const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
  writeAttribute(
    document,
    primitive,
    'TEXCOORD_0',
    Float32Array.from({ length: corners * 2 }, (_, at) => (at * 0.37) % 1),
    2,
  )
  return document
}
const textureOf = (document: Document): Texture => document.getRoot().listTextures()[0]

/** The box’s picture as blocks of a codec, with so many mipmaps, whatever they show. */
function asBlocks(document: Document, codec: 'bc1' | 'bc5' | 'bc7', srgb: boolean, mipmaps: number): Document {
  const { width, height } = textureFacts(textureOf(document))
  const levels = Array.from(
    { length: mipmaps },
    (_, level) => new Uint8Array(levelBytes(codec, Math.max(1, width >> level), Math.max(1, height >> level))),
  )
  textureOf(document)
    .setMimeType(ddsMimeType)
    .setImage(writeDds(codec, srgb, width, height, levels, 'dx10') as Uint8Array<ArrayBuffer>)
  return document
}

const faults: [rule: string, step: string, what: string, make: () => Document][] = [
  ['texture-power-of-two', 'size-maps', 'a picture of an odd size', () => showing(24, 24)],
  ['texture-size', 'size-maps', 'a picture that is too small', () => showing(2, 2)],
  ['texture-aspect', 'size-maps', 'a picture that is a ribbon', () => showing(1024, 4)],
  ['texture-format', 'compress-maps', 'a picture that is no blocks', () => showing(16, 16)],
  ['texture-codec', 'compress-maps', 'a colour in two channels', () => asBlocks(showing(16, 16), 'bc5', false, 5)],
  [
    'texture-space',
    'compress-maps',
    'a colour that is stored as numbers',
    () => asBlocks(showing(16, 16), 'bc7', false, 5),
  ],
  [
    'texture-mipmaps',
    'compress-maps',
    'a picture without its mipmaps',
    () => asBlocks(showing(16, 16), 'bc7', true, 1),
  ],
  ['texture-ending', 'clean-names', 'a picture whose name does not say its role', () => showing(16, 16)],
]

describe('a mend of a map', () => {
  it.each(faults)('of %s by %s mends %s', async (rule, step, _what, make) => {
    const document = make()
    const [first] = of(document, rule)
    expect(
      first,
      findings(document)
        .map((each) => each.rule)
        .join(' '),
    ).toBeDefined()
    expect(first.mend?.step).toBe(step)
    expect(first.place.texture ?? textureOf(document).getName()).toBe(textureOf(document).getName())
    const { after } = await runStep(step, document, first.mend?.parameters ?? {})
    expect(of(after, rule)).toEqual([])
  })

  it('that sizes it keeps it within the game’s bounds and shape', async () => {
    const { after } = await runStep('size-maps', showing(1500, 300))
    const { width, height } = textureFacts(textureOf(after))
    expect(Math.log2(width) % 1).toBe(0)
    expect(Math.log2(height) % 1).toBe(0)
    expect(Math.max(width, height)).toBeLessThanOrEqual(tarnAndTiller.maps.largestPixels)
    expect(width / height).toBeGreaterThanOrEqual(2)
  })
})

describe('memory of maps', () => {
  it('is told beyond what the kind may take, and compressing mends it', async () => {
    const document = documentOf({ crate: unitBox() })
    const [material] = listUsedMaterials(document)
    // Plain pixels of 1024² take four mebibytes, and a third more for mipmaps.
    const count = Math.ceil(prop.textureMemoryBytes / (1024 * 1024 * 4 * (4 / 3))) + 1
    const roles = ['colour', 'normal', 'roughness'] as const
    const pixels = painted(1024, 1024)
    for (let at = 0; at < Math.min(count, roles.length); at++)
      setMaterialMap(
        document,
        material,
        roles[at],
        addTexture(document, `crate_${roles[at]}`, roles[at], pixels, 'test'),
      )
    for (let at = roles.length; at < count; at++) {
      const other = document.createMaterial(`other_${at}`)
      setMaterialMap(document, other, 'colour', addTexture(document, `other_${at}`, 'colour', pixels, 'test'))
      const shape = listViewParts(document)[0].mesh.listPrimitives()[0]
      listViewParts(document)[0].mesh.addPrimitive(shape.clone().setMaterial(other))
    }
    const told = of(document, 'texture-memory')
    expect(told.length).toBe(count > roles.length || told.length > 0 ? 1 : 0)
    for (const { mend } of told) expect(mend?.step).toBe('compress-maps')
  })
})

describe('what materials are told', () => {
  const tagged = (surface: string | null, flags: string[] = []): Document => {
    const document = showing(16, 16)
    const [material] = listUsedMaterials(document)
    setMaterialTag(document, material, { base: 'planks', surface, flags }, tarnAndTiller)
    return document
  }
  const [known] = tarnAndTiller.materials.surfaces

  it('is nothing where the game knows what they are made of', () => {
    const rules = findings(tagged(known.name)).map(({ rule }) => rule)
    for (const rule of ['material-tag', 'material-surface', 'material-flag']) expect(rules).not.toContain(rule)
  })

  it.each([
    ['material-tag', null, []],
    ['material-surface', 'cloud', []],
    ['material-flag', known.name, ['shiny']],
  ] as const)('is %s where it does not, and tagging mends it', async (rule, surface, flags) => {
    const document = tagged(surface, [...flags])
    const [first] = of(document, rule)
    expect(first.mend?.step).toBe('tag-materials')
    const { after } = await runStep('tag-materials', document, first.mend?.parameters ?? {})
    expect(of(after, rule)).toEqual([])
  })

  it('is the shading that it cannot have', async () => {
    const document = tagged(known.name)
    const [material] = listUsedMaterials(document)
    setMaterialExtras(material, { references: [], shadingModel: 'sparkling' })
    const [first] = of(document, 'shading-unknown')
    expect(first.message).toContain('asks for the shading “sparkling”, which the game does not know')
  })

  it('is a face without a material, which gets a plain colour', async () => {
    const document = documentOf({ crate: unitBox() })
    listViewParts(document)[0].mesh.listPrimitives()[0].setMaterial(null)
    const [first] = of(document, 'material-missing')
    expect(first.where).toBe('crate')
    const { after } = await runStep('plain-colours', document, first.mend?.parameters ?? {})
    expect(of(after, 'material-missing')).toEqual([])
  })
})
