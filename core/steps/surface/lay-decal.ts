import type { Document, Primitive, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { setNodeExtras } from '../../item/extras.ts'
import { invertMatrix, transformedPoints } from '../../maths/matrices.ts'
import { freeName } from '../../item/name-apart.ts'
import { listAllParts, restMatrix, type Part } from '../../item/parts.ts'
import { gatherCorners, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import type { DecalPatch } from '../../geometry/surface/decal-patch.ts'
import { cleanName, joinedName } from '../../game/clean-name.ts'
import { flagsFor, setMaterialTag, surfaceOf, writtenName } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import { opacityKind } from '../../pictures/opacity.ts'
import { resizePixels } from '../../pictures/resize.ts'
import { decalPlacementSchema, placeDecal } from '../../operations/maps/decal-placement.ts'
import { pictureByName, pictureNames, unusedPictures } from '../../operations/maps/item-pictures.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { fittingSize } from './size-maps.ts'
import { guessSurface } from './tag-materials.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount, formatLength } from '../../support/wording.ts'

const parameters = decalPlacementSchema.extend({
  name: z.string().min(1).max(40),
  drawn: z.enum(['cut', 'blended']),
})
type Parameters = z.infer<typeof parameters>

/** Lays a picture on a patch of surface. */
export const layDecal = defineStep<Parameters>({
  id: 'lay-decal',
  version: 2,
  stage: 'surface',
  ofMaps: true,
  title: 'Lay a decal',
  purpose:
    'Copies the picked faces, lifts them a little, and lays a picture on them; what the picture does not cover ' +
    'is cut off.',
  parameters,
  fields: ({ document, rulebook: { space }, images }) => [
    { type: 'faces', key: 'faces', label: 'Faces' },
    { type: 'placement', key: 'placement', label: 'Its place' },
    {
      type: 'choice',
      key: 'picture',
      label: 'Picture',
      options: pictureNames(document, images).map((name) => ({ value: name, label: name })),
    },
    { type: 'text', key: 'name', label: 'Called' },
    {
      type: 'number',
      key: 'width',
      label: 'Width',
      unit: space.unit.plural,
      least: 0.01,
      most: 1000,
      step: 0.1,
      slider: true,
    },
    { type: 'number', key: 'right', label: 'To the right', unit: space.unit.plural, least: -100, most: 100, step: 0.1 },
    { type: 'number', key: 'up', label: 'Upwards', unit: space.unit.plural, least: -100, most: 100, step: 0.1 },
    { type: 'number', key: 'turnDegrees', label: 'Turned', unit: '°', least: -180, most: 180, step: 1 },
    {
      type: 'number',
      key: 'lift',
      label: 'Lifted by',
      unit: `${space.unit.plural}, ${formatLength(liftFor(space.depth, 100))} holds to 100`,
      least: 0,
      most: 1,
      step: 0.001,
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
  defaults: ({ document, rulebook: { space }, images }) => ({
    faces: [],
    picture: unusedPictures(document, images)[0] ?? pictureNames(document, images)[0] ?? '',
    name: 'decal',
    width: 1,
    right: 0,
    up: 0,
    turnDegrees: 0,
    lift: liftFor(space.depth, 100),
    drawn: 'cut',
  }),
  propose: () => [],
  async run({ document, images, rulebook, parameters: how }) {
    const { space } = rulebook
    if (how.faces.length === 0)
      return { headline: 'no faces', details: ['No faces are picked yet: click them in the yard.'], changed: false }
    const pixels = await pictureByName(how.picture, document, images)
    const placed = placeDecal(document, how, pixels)
    if (!placed) return gonePart(how.faces[0].part)
    const { part, plane, picked } = placed
    const opacity = opacityKind(pixels) === 'opaque' ? [] : ([how.drawn === 'cut' ? 'cut-out' : 'blended'] as const)
    const base = cleanName(rulebook, how.name, 'decal')
    const material = document.createMaterial(base).setRoughnessFactor(0.9).setMetallicFactor(0)
    const surface = surfaceUnder(placed.patches[0]?.primitive.getMaterial() ?? null, rulebook)
    const flags = flagsFor(rulebook, [...opacity, 'throws-no-shadow'])
    setMaterialTag(document, material, { base, surface, flags }, rulebook)
    material.setAlphaMode(opacity.length === 0 ? 'OPAQUE' : how.drawn === 'cut' ? 'MASK' : 'BLEND')
    const name = writtenName(rulebook, { base, surface, flags })
    const size = fittingSize(pixels.width, pixels.height, rulebook.maps.largestPixels, rulebook)
    material.setBaseColorTexture(
      addTexture(
        document,
        how.name,
        'colour',
        resizePixels(pixels, size.width, size.height, 'colour'),
        'laid as a decal',
      ),
    )
    const mesh = document.createMesh(how.name)
    for (const { primitive, patch } of placed.patches)
      mesh.addPrimitive(writePatch(document, primitive, part, patch).setMaterial(material))
    const triangles = mesh.listPrimitives().reduce((sum, each) => sum + (each.getIndices()?.getCount() ?? 0) / 3, 0)
    if (triangles === 0) {
      mesh.dispose()
      material.getBaseColorTexture()?.dispose()
      material.dispose()
      return {
        headline: 'beside it',
        details: ['The picture lies beside the picked faces. Move it, or pick more of them.'],
        changed: false,
      }
    }
    const taken = new Set(listAllParts(document).map((each) => each.name))
    const node = document.createNode(freeName(joinedName(rulebook, part.name, how.name), taken)).setMesh(mesh)
    node
      .setTranslation(part.node.getTranslation())
      .setRotation(part.node.getRotation())
      .setScale(part.node.getScale())
      .setSkin(part.node.getSkin())
    setNodeExtras(node, { role: 'part', ...(part.extras.model === undefined ? {} : { model: part.extras.model }) })
    const parent = part.node.getParentNode()
    if (parent) parent.addChild(node)
    else
      for (const scene of document.getRoot().listScenes())
        if (scene.listChildren().includes(part.node)) scene.addChild(node)
    return {
      headline: `+${formatCount(triangles)}`,
      details: [
        `${name} lies on ${part.name}: ${formatLength(plane.width)} × ${formatLength(plane.height)} ` +
          `${space.unit.plural}, ${formatCount(triangles)} triangles of ${formatCount(picked)} picked.`,
        `Lifted by ${formatLength(how.lift)} ${space.unit.plural}, which the game’s depth tells apart as far as ` +
          `${formatLength(holdsTo(space.depth, how.lift))} ${space.unit.plural}.`,
      ],
      changed: true,
    }
  },
})

/** The surface kind of what a decal lies on. */
const surfaceUnder = (under: Material | null, rulebook: Rulebook): string =>
  surfaceOf(under, rulebook) ?? guessSurface(under?.getName() ?? '', rulebook)

interface Depth {
  near: number
  bits: number
}

/**
 * The least gap that a depth buffer of that many bits tells apart at a distance, with the far plane far beyond it: d² /
 * (near · 2ᵇⁱᵗˢ), times four for slanted views (Akeley and Su, “Minimum triangle separation for correct z-buffer
 * occlusion”, 2006, give the first term).
 */
export const liftFor = ({ near, bits }: Depth, distance: number): number => (4 * distance ** 2) / (near * 2 ** bits)

/** How far off a gap is still told apart. */
export const holdsTo = ({ near, bits }: Depth, lift: number): number => Math.sqrt((lift * near * 2 ** bits) / 4)

/** The patch as a surface of the part's own space; bones and weights are those of the corners it was cut from. */
function writePatch(document: Document, from: Primitive, part: Part, patch: DecalPatch): Primitive {
  const back = invertMatrix(restMatrix(part.node)) ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
  const turnBack = [...back]
  turnBack[12] = turnBack[13] = turnBack[14] = 0
  const primitive = document.createPrimitive()
  for (const semantic of from.listSemantics())
    if (/^(JOINTS|WEIGHTS)_/.test(semantic)) primitive.setAttribute(semantic, from.getAttribute(semantic))
  gatherCorners(document, primitive, patch.oldCorner)
  writeAttribute(document, primitive, 'POSITION', transformedPoints(patch.positions, back), 3)
  writeAttribute(document, primitive, 'NORMAL', transformedPoints(patch.normals, turnBack), 3)
  writeAttribute(document, primitive, 'TEXCOORD_0', patch.uvs, 2)
  writeIndices(document, primitive, patch.indices, patch.oldCorner.length)
  return primitive
}
