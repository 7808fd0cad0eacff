import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  DoubleSide,
  FrontSide,
  LinearFilter,
  LinearMipmapLinearFilter,
  Matrix4,
  MeshBasicMaterial,
  MeshStandardMaterial,
  NoColorSpace,
  RepeatWrapping,
  RGBAFormat,
  SRGBColorSpace,
  UnsignedByteType,
  type Texture,
} from 'three'
import type { SceneData, SceneMaterial, ScenePart } from '../workers/scene-data'

/** One primitive ready to be drawn. */
export interface DrawnPrimitive {
  key: string
  part: string
  role: ScenePart['role']
  /** For a level: 1 or above. */
  level: number
  /** Number of the surface in its part. */
  surface: number
  geometry: BufferGeometry
  matrix: Matrix4
  material: MeshStandardMaterial | MeshBasicMaterial
  throwsShadow: boolean
  receivesShadow: boolean
}

/** A scene's arrays as things the card can draw; `dispose` gives the card's memory back. */
export interface DrawnItem {
  primitives: DrawnPrimitive[]
  fit: Matrix4
  dispose: () => void
}

/** @param look which of the item's looks; null for the first */
export function drawItem(scene: SceneData, look: string | null = null): DrawnItem {
  const lookNumber = look === null ? 0 : Math.max(0, scene.looks.indexOf(look))
  const textures = scene.pictures.map((picture) => {
    const texture = new DataTexture(
      picture.data as Uint8Array<ArrayBuffer>,
      picture.width,
      picture.height,
      RGBAFormat,
      UnsignedByteType,
    )
    texture.wrapS = texture.wrapT = RepeatWrapping
    texture.magFilter = LinearFilter
    texture.minFilter = LinearMipmapLinearFilter
    texture.generateMipmaps = true
    texture.anisotropy = 4
    texture.needsUpdate = true
    return texture
  })
  const materials = new Map<string, MeshStandardMaterial | MeshBasicMaterial>()
  const materialFor = (number: number, flat: boolean): MeshStandardMaterial | MeshBasicMaterial => {
    const key = `${number} ${flat}`
    const known = materials.get(key)
    if (known) return known
    const made = makeMaterial(scene.materials[number], textures, flat)
    materials.set(key, made)
    return made
  }
  const primitives = scene.parts.flatMap((part) =>
    part.primitives.map((primitive, index): DrawnPrimitive => {
      const geometry = new BufferGeometry()
      geometry.setAttribute('position', new BufferAttribute(primitive.positions, 3))
      if (primitive.normals) geometry.setAttribute('normal', new BufferAttribute(primitive.normals, 3))
      if (primitive.uvs) geometry.setAttribute('uv', new BufferAttribute(primitive.uvs, 2))
      geometry.setIndex(new BufferAttribute(primitive.indices, 1))
      const shown = primitive.looks[lookNumber] ?? primitive.material
      // Flags are the mesh's own material's, whatever a look shows.
      const facts = scene.materials[primitive.material]
      return {
        key: `${part.name} ${index}`,
        part: part.name,
        role: part.role,
        level: part.level,
        surface: index,
        geometry,
        matrix: new Matrix4().fromArray(part.matrix),
        material: materialFor(shown, !primitive.normals),
        throwsShadow: facts?.throwsShadow ?? true,
        receivesShadow: facts?.receivesShadow ?? true,
      }
    }),
  )
  return {
    primitives,
    fit: new Matrix4().fromArray(scene.fit),
    dispose: () => {
      for (const { geometry } of primitives) geometry.dispose()
      for (const material of materials.values()) material.dispose()
      for (const texture of textures) texture.dispose()
    },
  }
}

function makeMaterial(
  facts: SceneMaterial | undefined,
  textures: Texture[],
  flat: boolean,
): MeshStandardMaterial | MeshBasicMaterial {
  if (facts?.unlit) return makeUnlit(facts, textures)
  const material = new MeshStandardMaterial({ color: 0xb9b2a4, roughness: 0.92, metalness: 0, flatShading: flat })
  if (!facts) return material
  const colourMap = facts.colourMap === null ? null : (textures[facts.colourMap] ?? null)
  const normalMap = facts.normalMap === null ? null : (textures[facts.normalMap] ?? null)
  if (colourMap) colourMap.colorSpace = SRGBColorSpace
  if (normalMap) normalMap.colorSpace = NoColorSpace
  material.map = colourMap
  material.normalMap = normalMap
  // Red occlusion, green roughness, blue metalness: as glTF and the game have them.
  const mixedMap = facts.mixedMap === null ? null : (textures[facts.mixedMap] ?? null)
  if (mixedMap) mixedMap.colorSpace = NoColorSpace
  material.aoMap = material.roughnessMap = material.metalnessMap = mixedMap
  const [red, green, blue, opacity] = facts.colour
  material.color.setRGB(red, green, blue)
  material.roughness = facts.roughness
  material.metalness = facts.metalness
  material.side = facts.twoSided ? DoubleSide : FrontSide
  material.transparent = facts.blended
  material.opacity = facts.blended ? opacity : 1
  material.alphaTest = facts.cutOut ? 0.5 : 0
  return material
}

/** Drawn as painted, without light. */
function makeUnlit(facts: SceneMaterial, textures: Texture[]): MeshBasicMaterial {
  const map = facts.colourMap === null ? null : (textures[facts.colourMap] ?? null)
  if (map) map.colorSpace = SRGBColorSpace
  const material = new MeshBasicMaterial({
    map,
    side: facts.twoSided ? DoubleSide : FrontSide,
    transparent: facts.blended,
    alphaTest: facts.cutOut ? 0.5 : 0,
  })
  material.color.setRGB(facts.colour[0], facts.colour[1], facts.colour[2])
  return material
}
