import type { Document, Primitive } from '@gltf-transform/core'
import { z } from 'zod'
import { setNodeExtras } from '../document/extras.ts'
import { listAllParts, restMatrix, type Part } from '../document/parts.ts'
import { invertMatrix, transformedPoints } from '../document/matrices.ts'
import { freeName } from '../document/name-apart.ts'
import { gatherCorners, readPrimitive, writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { cutPatch, planeOver, type PatchSurface } from '../geometry/decal-patch.ts'
import { cornerNormals } from '../geometry/surface-texels.ts'
import { axisVector } from '../document/axes.ts'
import { opacityKind } from '../texture/opacity.ts'
import type { Pixels } from '../texture/pixels.ts'
import { facePicksSchema, pickedFaces } from './face-picks.ts'
import { pictureByName, pictureNames } from './item-pictures.ts'
import { addTexture } from './map-pixels.ts'
import { defineStep, formatCount, formatLength, gonePart } from './step.ts'

const parameters = z.object({
  faces: facePicksSchema,
  picture: z.string().max(400),
  name: z.string().min(1).max(40),
  /** In game units; the height follows from the picture. */
  width: z.number().positive().max(1e5),
  /** From the middle of the picked faces, along the picture's right and up, in game units. */
  right: z.number().min(-1e5).max(1e5),
  up: z.number().min(-1e5).max(1e5),
  turnDegrees: z.number().min(-360).max(360),
  lift: z.number().min(0).max(10),
  drawn: z.enum(['cut', 'blended']),
})
type Parameters = z.infer<typeof parameters>

/** Lays a picture on a patch of surface. */
export const layDecal = defineStep<Parameters>({
  id: 'lay-decal',
  version: 1,
  stage: 'surface',
  title: 'Lay a decal',
  purpose: 'Copies the picked faces, lifts them a little, and lays a picture on them; what the picture does not cover is cut off.',
  parameters,
  fields: ({ document, rulebook: { space }, images }) => [
    { type: 'faces', key: 'faces', label: 'Faces' },
    { type: 'choice', key: 'picture', label: 'Picture', options: pictureNames(document, images).map((name) => ({ value: name, label: name })) },
    { type: 'text', key: 'name', label: 'Called' },
    { type: 'number', key: 'width', label: 'Width', unit: space.unit.plural, least: 0.01, most: 1000, step: 0.1, slider: true },
    { type: 'number', key: 'right', label: 'To the right', unit: space.unit.plural, least: -100, most: 100, step: 0.1 },
    { type: 'number', key: 'up', label: 'Upwards', unit: space.unit.plural, least: -100, most: 100, step: 0.1 },
    { type: 'number', key: 'turnDegrees', label: 'Turned', unit: '°', least: -180, most: 180, step: 1 },
    { type: 'number', key: 'lift', label: 'Lifted by', unit: `${space.unit.plural}, ${formatLength(liftFor(space.depth, 100))} holds to 100`, least: 0, most: 1, step: 0.001 },
    { type: 'choice', key: 'drawn', label: 'Drawn', options: [{ value: 'cut', label: 'Cut at one half' }, { value: 'blended', label: 'Blended' }] },
  ],
  defaults: ({ document, rulebook: { space }, images }) => ({ faces: [], picture: unusedPicture(document, images) ?? pictureNames(document, images)[0] ?? '', name: 'decal', width: 1, right: 0, up: 0, turnDegrees: 0, lift: liftFor(space.depth, 100), drawn: 'cut' }),
  propose: () => [],
  async run({ document, images, rulebook: { space }, parameters: how }) {
    const picked = pickedFaces(document, how.faces)
    if (how.faces.length === 0) return { headline: 'no faces', details: ['No faces are picked yet: click them in the yard.'], changed: false }
    const part = listAllParts(document).find((each) => each.name === how.faces[0].part)
    if (!part) return gonePart(how.faces[0].part)
    const pixels = await pictureByName(how.picture, document, images)
    const window = visibleWindow(pixels)
    if (!window) return { headline: 'all clear', details: [`${how.picture} is clear everywhere.`], changed: false }
    const size = { width: how.width, height: (how.width * pixels.height) / pixels.width }
    const material = document.createMaterial(how.name).setRoughnessFactor(0.9).setMetallicFactor(0)
    material.setAlphaMode(opacityKind(pixels) === 'opaque' ? 'OPAQUE' : how.drawn === 'cut' ? 'MASK' : 'BLEND')
    material.setBaseColorTexture(addTexture(document, how.name, 'colour', pixels, 'laid as a decal'))
    const mesh = document.createMesh(how.name)
    for (const [primitive, marks] of picked.triangles) {
      if (!part.mesh.listPrimitives().includes(primitive)) continue
      const surface = inScene(primitive, part)
      const plane = planeOver(surface, marks, axisVector(space.up), how.turnDegrees)
      if (!plane) continue
      const middle = plane.middle.map((value, axis) => value + plane.right[axis] * how.right + plane.up[axis] * how.up)
      const patch = cutPatch(surface, marks, { ...plane, ...size, middle }, how.lift, window)
      if (patch.indices.length > 0) mesh.addPrimitive(writePatch(document, primitive, part, patch).setMaterial(material))
    }
    const triangles = mesh.listPrimitives().reduce((sum, each) => sum + (each.getIndices()?.getCount() ?? 0) / 3, 0)
    if (triangles === 0) {
      mesh.dispose()
      material.getBaseColorTexture()?.dispose()
      material.dispose()
      return { headline: 'beside it', details: ['The picture lies beside the picked faces. Move it, or pick more of them.'], changed: false }
    }
    const taken = new Set(listAllParts(document).map((each) => each.name))
    const node = document.createNode(freeName(`${part.name}_${how.name}`, taken)).setMesh(mesh)
    node.setTranslation(part.node.getTranslation()).setRotation(part.node.getRotation()).setScale(part.node.getScale()).setSkin(part.node.getSkin())
    setNodeExtras(node, { role: 'part', ...(part.extras.model === undefined ? {} : { model: part.extras.model }) })
    const parent = part.node.getParentNode()
    if (parent) parent.addChild(node)
    else for (const scene of document.getRoot().listScenes()) if (scene.listChildren().includes(part.node)) scene.addChild(node)
    return {
      headline: `+${formatCount(triangles)}`,
      details: [
        `${how.name} lies on ${part.name}: ${formatLength(size.width)} × ${formatLength(size.height)} ${space.unit.plural}, ${formatCount(triangles)} triangles of ${formatCount(picked.count)} picked.`,
        `Lifted by ${formatLength(how.lift)} ${space.unit.plural}, which the game’s depth tells apart as far as ${formatLength(holdsTo(space.depth, how.lift))} ${space.unit.plural}.`,
      ],
      changed: true,
    }
  },
})

interface Depth {
  near: number
  bits: number
}

/**
 * The least gap that a depth buffer of that many bits tells apart at a distance, with the far plane far beyond it: d² / (near · 2ᵇⁱᵗˢ), times four for slanted views
 * (Akeley and Su, “Minimum triangle separation for correct z-buffer occlusion”, 2006, give the first term).
 */
export const liftFor = ({ near, bits }: Depth, distance: number): number => (4 * distance ** 2) / (near * 2 ** bits)

/** How far off a gap is still told apart. */
export const holdsTo = ({ near, bits }: Depth, lift: number): number => Math.sqrt((lift * near * 2 ** bits) / 4)

function inScene(primitive: Primitive, part: Part): PatchSurface {
  const { positions, indices, normals } = readPrimitive(primitive)
  const places = transformedPoints(positions, restMatrix(part.node))
  const matrix = [...restMatrix(part.node)]
  matrix[12] = matrix[13] = matrix[14] = 0
  return { positions: places, indices, normals: normals ? transformedPoints(normals, matrix) : cornerNormals(places, indices) }
}

/** The patch as a surface of the part's own space; bones and weights are those of the corners it was cut from. */
function writePatch(document: Document, from: Primitive, part: Part, patch: ReturnType<typeof cutPatch>): Primitive {
  const back = invertMatrix(restMatrix(part.node)) ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
  const turnBack = [...back]
  turnBack[12] = turnBack[13] = turnBack[14] = 0
  const primitive = document.createPrimitive()
  for (const semantic of from.listSemantics()) if (/^(JOINTS|WEIGHTS)_/.test(semantic)) primitive.setAttribute(semantic, from.getAttribute(semantic))
  gatherCorners(document, primitive, patch.oldCorner)
  writeAttribute(document, primitive, 'POSITION', transformedPoints(patch.positions, back), 3)
  writeAttribute(document, primitive, 'NORMAL', transformedPoints(patch.normals, turnBack), 3)
  writeAttribute(document, primitive, 'TEXCOORD_0', patch.uvs, 2)
  writeIndices(document, primitive, patch.indices, patch.oldCorner.length)
  return primitive
}

/** The part of a picture that is not clear, in UVs; null when all is. */
function visibleWindow({ width, height, data }: Pixels): { left: number; top: number; right: number; bottom: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1]
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] < 8) continue
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      if (y > bottom) bottom = y
    }
  }
  return right < 0 ? null : { left: left / width, top: top / height, right: (right + 1) / width, bottom: (bottom + 1) / height }
}

/** A picture that was brought and that no texture of the item came from: most likely what is to be laid. */
function unusedPicture(document: Document, images: readonly { path: string }[] = []): string | undefined {
  const used = new Set(document.getRoot().listTextures().flatMap((texture) => [texture.getURI(), texture.getName()]))
  return images.map((image) => image.path.split(/[\\/]/).pop() ?? image.path).find((name) => !used.has(name) && !used.has(name.replace(/\.[^.]*$/, '')))
}
