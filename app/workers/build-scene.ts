import { annotationKind } from '../../core/item/annotations'
import { listPlaces, type Place } from '../../core/item/annotations/places'
import { shinePicture } from './shine-picture'
import type { Document, Material, Texture } from '@gltf-transform/core'
import { identityMatrix } from '../../core/maths/axes'
import { getRootExtras } from '../../core/item/extras'
import { listLooks, materialInLook } from '../../core/item/looks'
import { isEmptyBounds, partBounds } from '../../core/item/measure'
import { countMeshTriangles, listAllParts, restMatrix } from '../../core/item/parts'
import { readPrimitive } from '../../core/item/primitive-arrays'
import { eventLinks } from '../../core/operations/entry/event-links'
import { itemBendable } from '../../core/operations/motion/bendable'
import { itemLights } from '../../core/operations/motion/lights'
import { itemMotion } from '../../core/operations/motion/pose'
import { meaningOf, texturePixels } from '../../core/operations/maps/texture-pixels'
import { hasFlag, materialTag } from '../../core/game/material-tag'
import type { FlagMeaning } from '../../core/game/schema-surface'
import type { Kind, Rulebook } from '../../core/game/schema'
import { resizePixels } from '../../core/pictures/resize'
import type { SceneData } from './scene-data'
import { testWall } from './test-wall'

const LARGEST_PICTURE = 1024

/** What the yard needs of an item, in arrays of its own so that they can be handed over. */
export async function buildScene(document: Document, game?: { rulebook: Rulebook; kind: Kind }): Promise<SceneData> {
  const materials = document.getRoot().listMaterials()
  const shown = new Set(
    materials.flatMap((material) => [
      material.getBaseColorTexture(),
      material.getNormalTexture(),
      material.getMetallicRoughnessTexture(),
    ]),
  )
  const textures = document
    .getRoot()
    .listTextures()
    .filter((texture) => shown.has(texture))
  const indexOf = (texture: Texture | null): number | null => {
    const index = texture === null ? -1 : textures.indexOf(texture)
    return index < 0 ? null : index
  }
  const scene: SceneData = {
    parts: [],
    materials: [],
    places: listPlaces(document).map(placeOf),
    links: eventLinks(document),
    pictures: [],
    looks: listLooks(document),
    motion: itemMotion(document),
    bend: itemBendable(document),
    lights: itemLights(document).map(({ intensity, ...light }) => ({
      ...light,
      intensity: intensity / (game?.rulebook.space.unit.metres ?? 1) ** 2,
    })),
    turns: (game?.kind.mesh?.facing && getRootExtras(document.getRoot()).turns) ?? null,
    fit: getRootExtras(document.getRoot()).fit ?? identityMatrix(),
  }
  for (const texture of textures) scene.pictures.push(await pictureOf(texture))
  /**
   * The picture of a material's gloss and metal in the channels that the yard draws by, whatever the game packs them
   * into.
   */
  const shineMap = async (material: Material): Promise<number | null> => {
    const made = game ? await shinePicture(material, game.rulebook) : null
    return made && scene.pictures.push(made) - 1
  }
  for (const material of materials) {
    const flags = game ? materialTag(material, game.rulebook).flags : []
    const has = (means: FlagMeaning): boolean => game !== undefined && hasFlag(flags, means, game.rulebook)
    scene.materials.push({
      name: material.getName(),
      colour: [...material.getBaseColorFactor()],
      roughness: material.getRoughnessFactor(),
      metalness: material.getMetallicFactor(),
      twoSided: material.getDoubleSided(),
      cutOut: material.getAlphaMode() === 'MASK',
      blended: material.getAlphaMode() === 'BLEND',
      colourMap: indexOf(material.getBaseColorTexture()),
      normalMap: indexOf(material.getNormalTexture()),
      mixedMap: (await shineMap(material)) ?? indexOf(material.getMetallicRoughnessTexture()),
      unlit: has('unlit'),
      throwsShadow: !has('throws-no-shadow'),
      receivesShadow: !has('receives-no-shadow'),
    })
  }
  for (const part of listAllParts(document)) {
    const bounds = partBounds(part)
    scene.parts.push({
      name: part.name,
      role: part.extras.role,
      level: part.extras.level ?? 0,
      triangles: countMeshTriangles(part.mesh),
      matrix: [...restMatrix(part.node)],
      bounds: isEmptyBounds(bounds) ? { min: [0, 0, 0], max: [0, 0, 0] } : bounds,
      primitives: part.mesh.listPrimitives().map((primitive) => {
        const { positions, indices, normals, uvs } = readPrimitive(primitive)
        const material = primitive.getMaterial()
        return {
          positions: positions.slice(),
          indices: indices.slice(),
          normals: normals?.slice() ?? null,
          uvs: uvs?.slice() ?? null,
          material: material ? materials.indexOf(material) : -1,
          looks: scene.looks.map((look) => materials.indexOf(materialInLook(primitive, look) as Material)),
        }
      }),
    })
  }
  // A finish has no mesh: what carried its picture on the way in becomes a wall.
  const carrier = scene.parts[0]?.primitives[0]
  if (game?.kind.mesh === null && carrier)
    return { ...scene, motion: null, bend: null, parts: [testWall('wall', carrier.looks, game.rulebook.space)] }
  return scene
}

/** Where a place stands and which way it looks: along its own forward, whatever it is scaled by. */
function placeOf({ name, node, extras }: Place): SceneData['places'][number] {
  const matrix = node.getWorldMatrix()
  const length = Math.hypot(matrix[8], matrix[9], matrix[10]) || 1
  return {
    name,
    title: annotationKind(extras.role)?.title ?? '',
    joins: extras.joint?.joins ?? null,
    at: [matrix[12], matrix[13], matrix[14]],
    ahead: [matrix[8] / length, matrix[9] / length, matrix[10] / length],
  }
}

async function pictureOf(texture: Texture): Promise<SceneData['pictures'][number]> {
  const pixels = await texturePixels(texture)
  const shrink = Math.min(1, LARGEST_PICTURE / Math.max(pixels.width, pixels.height))
  const shown =
    shrink < 1
      ? resizePixels(pixels, Math.round(pixels.width * shrink), Math.round(pixels.height * shrink), meaningOf(texture))
      : pixels
  if (meaningOf(texture) === 'normal') restoreBlue(shown.data)
  return { name: texture.getName(), width: shown.width, height: shown.height, data: shown.data.slice() }
}

/** Two-channel blocks keep x and y; z follows from the unit length. */
function restoreBlue(data: Uint8Array): void {
  for (let at = 0; at < data.length; at += 4) {
    if (data[at + 2] !== 0) continue
    const x = data[at] / 127.5 - 1
    const y = data[at + 1] / 127.5 - 1
    data[at + 2] = Math.round(Math.sqrt(Math.max(0, 1 - x * x - y * y)) * 127.5 + 127.5)
    data[at + 3] = 255
  }
}
