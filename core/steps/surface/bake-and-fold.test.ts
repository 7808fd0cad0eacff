import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import type { Rulebook } from '../../game/schema.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { listMaterialMaps } from '../../item/source-maps.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { boxWith, grey } from '../../test-support/mapped-boxes.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { mirroredGames } from '../../test-support/mirrored-games.ts'
import { pictureOf, wavyNormals } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { sheet } from '../../test-support/shapes.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const SQUARES = 64
/** A wave along X, four to the sheet. */
const wave = (x: number): number => 0.8 * Math.sin((x / SQUARES) * 8 * Math.PI)
const slopeAt = (x: number): number => ((0.8 * 8 * Math.PI) / SQUARES) * Math.cos((x / SQUARES) * 8 * Math.PI)

/** A sheet in the plane z = 0 with one UV square over it; its rows run from the top, as pictures do. */
function mapped(height: (x: number) => number, squares = SQUARES): Document {
  const scale = SQUARES / squares
  const { positions, indices } = sheet(squares, squares, (x) => height(x * scale))
  const placed = positions.map((value, at) => (at % 3 === 2 ? value : value * scale))
  const document = documentOf({ sheet: { positions: placed, indices } })
  const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
  const uvs = Float32Array.from({ length: (placed.length / 3) * 2 }, (_, at) => {
    const along = placed[Math.floor(at / 2) * 3 + (at % 2)] / SQUARES
    return at % 2 === 0 ? along : 1 - along
  })
  writeAttribute(document, primitive, 'TEXCOORD_0', uvs, 2)
  return document
}

const bakedMap = async (document: Document): Promise<Pixels> =>
  texturePixels(listUsedMaterials(document)[0].getNormalTexture() as never)

/** The largest angle between what a map says along its middle row and the wave it was made of, in degrees. */
function worstAngle({ width, data }: Pixels, green: 1 | -1): number {
  let worst = 0
  for (let x = 2; x < width - 2; x++) {
    const at = ((width / 2) * width + x) * 4
    const said = [0, 1, 2].map((axis) => (data[at + axis] / 127.5 - 1) * (axis === 1 ? green : 1))
    const slope = slopeAt(((x + 0.5) / width) * SQUARES)
    const [wanted, length] = [[-slope, 0, 1], Math.hypot(slope, 1) * Math.hypot(...said)]
    const agreement = wanted.reduce((sum, value, axis) => sum + value * said[axis], 0) / length
    worst = Math.max(worst, (Math.acos(Math.min(1, agreement)) * 180) / Math.PI)
  }
  return worst
}

describe('Bake normals', () => {
  const source = mapped(wave)
  const bake = (rulebook: Rulebook = tarnAndTiller, parameters: Record<string, unknown> = {}) =>
    runStep(
      'bake-normals',
      mapped(() => 0, 1),
      { sidePixels: 256, reach: 2, ...parameters },
      { source, rulebook },
    )

  it('keeps on two triangles how the whole mesh lies, within three degrees', async () => {
    const { after, summary } = await bake()
    expect(summary).toMatchObject({ headline: '100 % met', changed: true })
    expect(summary.details[0]).toMatch(/256 × 256: 8,192 triangles seen from 2, within 2/)
    expect(worstAngle(await bakedMap(after), 1)).toBeLessThan(3)
  })

  it('turns green down for a game that reads it so', async () => {
    const roles = tarnAndTiller.maps.roles.map((role) => (role.normalY ? { ...role, normalY: 'down' as const } : role))
    const { after } = await bake({ ...tarnAndTiller, maps: { ...tarnAndTiller.maps, roles } })
    expect(worstAngle(await bakedMap(after), -1)).toBeLessThan(3)
  })

  it('leaves flat what lies out of reach, and says how much was met', async () => {
    const { after, summary } = await bake(tarnAndTiller, { reach: 0.2 })
    expect(Number(/^\d+/.exec(summary.headline)?.[0])).toBeLessThan(60)
    const { data } = await bakedMap(after)
    expect(Math.max(...data.filter((_, at) => at % 4 === 2))).toBe(255)
  })

  it('changes nothing where there are no UVs, no source or no such material', async () => {
    const bare = documentOf({ sheet: sheet(2, 2) })
    expect((await runStep('bake-normals', bare, { sidePixels: 64 }, { source })).summary).toMatchObject({
      headline: 'no UVs',
      changed: false,
    })
    expect((await bake(tarnAndTiller, { material: 'gone' })).summary.changed).toBe(false)
  })
})

describe('Fold into colour', () => {
  const colourAlone = mirroredGames.map((game) => ({
    ...game,
    maps: { ...game.maps, roles: game.maps.roles.filter(({ channels }) => channels.r === 'red') },
    materials: { ...game.materials, naming: { form: 'plain' as const }, shadingModels: [] },
  }))[0]
  const fold = (document: Document, parameters: Record<string, unknown>) =>
    runStep(
      'fold-maps',
      document,
      { occlusion: 0, relief: 0, shine: 0, lightDegrees: 0, heightDegrees: 45, ...parameters },
      { rulebook: colourAlone },
    )
  const colourOf = async (document: Document): Promise<Pixels> =>
    texturePixels(listUsedMaterials(document)[0].getBaseColorTexture() as never)

  it('is proposed where a game reads the colour alone, and not where it reads the rest', () => {
    const { document } = boxWith({ colour: grey(128), occlusion: grey(90) })
    expect(proposals('fold-maps', document, { rulebook: colourAlone })[0].reason).toMatch(/1 material has more/)
    expect(proposals('fold-maps', document)).toEqual([])
    const { document: plain } = boxWith({ colour: grey(128) })
    expect(proposals('fold-maps', plain, { rulebook: colourAlone })).toEqual([])
  })

  it('darkens by occlusion as strongly as chosen, and takes the other maps away', async () => {
    const { document } = boxWith({ colour: grey(200), occlusion: grey(0), normal: wavyNormals(16, true) })
    for (const [occlusion, shade] of [
      [0, 200],
      [1, 0],
    ]) {
      const { after, summary } = await fold(document, { occlusion })
      expect((await colourOf(after)).data[0]).toBe(shade)
      expect(listMaterialMaps(listUsedMaterials(after)[0]).map(({ role }) => role)).toEqual(['colour'])
      expect(summary.details[0]).toMatch(/planks: occlusion, normal are in its colour now/)
    }
  })

  it('lights the slopes that face the light, and shades those that turn away', async () => {
    const { document } = boxWith({ colour: grey(128, 64), normal: wavyNormals(64, true) })
    const flat = await colourOf((await fold(document, { relief: 0 })).after)
    const lit = await colourOf((await fold(document, { relief: 1 })).after)
    const normals = wavyNormals(64, true)
    let [towards, away] = [0, 0]
    for (let at = 0; at < lit.data.length; at += 4) {
      const lean = normals.data[at] / 127.5 - 1
      if (lean > 0.1) towards += lit.data[at] - flat.data[at]
      if (lean < -0.1) away += lit.data[at] - flat.data[at]
    }
    expect(towards).toBeGreaterThan(0)
    expect(away).toBeLessThan(0)
  })

  it('reads roughness out of a gloss map the other way round', async () => {
    const shine = { shine: 1, heightDegrees: 90 }
    const level = pictureOf(16, 16, () => [128, 128, 255])
    const rough = boxWith({ colour: grey(100), roughness: grey(60), normal: level }).document
    const gloss = boxWith({ colour: grey(100), gloss: grey(195), normal: level }).document
    const [first, second] = await Promise.all(
      [rough, gloss].map(async (each) => colourOf((await fold(each, shine)).after)),
    )
    expect(first.data[0]).toBeGreaterThan(100)
    expect(second).toEqual(first)
  })
})

describe('Keep parts', () => {
  const scene = () => documentOf({ post: sheet(1, 1), rail: sheet(2, 2), shed: sheet(3, 3) })
  const names = (document: Document): string[] => listViewParts(document).map(({ name }) => name)

  it('keeps the chosen ones with what they hang on, and says what is no longer there', async () => {
    const document = scene()
    const [post, rail] = listViewParts(document)
    post.node.addChild(rail.node.setTranslation([1, 2, 3]))
    const { after, summary } = await runStep('keep-parts', document, { parts: ['rail', 'gone'] })
    expect(names(after)).toEqual(['rail'])
    expect(listViewParts(after)[0].node.getWorldTranslation()).toEqual([1, 2, 3])
    expect(summary.details).toEqual(['1 part kept, 2 parts left out.', expect.stringMatching(/^gone: no such part/)])
    expect(
      after
        .getRoot()
        .listMaterials()
        .map((material) => material.getName()),
    ).toEqual(['rail_material'])
  })

  it('keeps everything, and says so, where none of the chosen is there', async () => {
    const { after, summary } = await runStep('keep-parts', scene(), { parts: ['gone'] })
    expect(names(after)).toHaveLength(3)
    expect(summary).toMatchObject({ changed: false, doesNotApply: expect.any(String) })
  })
})
