import * as THREE from 'three'
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js'
import { GLTFLoader, type GLTFParser } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js'
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js'
import { MeshoptDecoder } from 'meshoptimizer'
import { decodeWithPillow } from './other-pictures.ts'
import {
  averagedTo,
  sampleAt,
  type DrawnItem,
  type DrawnSurface,
  type Picture,
  type Shown,
  type Wrap,
} from './surface.ts'

/** Files by name: the mesh and what lies beside it. */
export type FileSet = ReadonlyMap<string, Uint8Array>

const nameOf = (path: string): string =>
  decodeURIComponent(path.replaceAll('\\', '/').split('/').pop() ?? path).toLowerCase()

/** The file that a path means: the same path, else the same name. */
function fileFor(files: FileSet, path: string): Uint8Array | undefined {
  return files.get(path) ?? [...files].find(([each]) => nameOf(each) === nameOf(path))?.[1]
}

const dataUri = (bytes: Uint8Array): string =>
  `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`

/** In place of a page's images: the bytes of the picture, decoded later all at once. */
const withBytes = (bytes: Uint8Array | undefined): THREE.Texture => new THREE.Texture({ bytes } as never)

const wrapOf: Record<number, THREE.Wrapping> = {
  10497: THREE.RepeatWrapping,
  33071: THREE.ClampToEdgeWrapping,
  33648: THREE.MirroredRepeatWrapping,
}

/** Reads pictures of a glTF as bytes: in Node there is nothing that decodes them. */
const pictureReader = (files: FileSet) => (parser: GLTFParser) => ({
  name: 'picture-bytes',
  loadTexture: async (index: number): Promise<THREE.Texture> => {
    const json = parser.json as {
      textures: { source?: number; sampler?: number; extensions?: Record<string, { source: number }> }[]
      images: { bufferView?: number; uri?: string }[]
      samplers?: { wrapS?: number; wrapT?: number }[]
    }
    const definition = json.textures[index]
    const image = json.images[definition.extensions?.['EXT_texture_webp']?.source ?? definition.source ?? -1]
    const uri = image?.uri
    const bytes =
      image?.bufferView !== undefined
        ? new Uint8Array((await parser.getDependency('bufferView', image.bufferView)) as ArrayBuffer)
        : uri?.startsWith('data:')
          ? new Uint8Array(Buffer.from(uri.slice(uri.indexOf(',') + 1), 'base64'))
          : uri === undefined
            ? undefined
            : fileFor(files, uri)
    const texture = withBytes(bytes)
    texture.flipY = false
    const sampler = json.samplers?.[definition.sampler ?? -1] ?? {}
    texture.wrapS = wrapOf[sampler.wrapS ?? 10497]
    texture.wrapT = wrapOf[sampler.wrapT ?? 10497]
    parser.associations.set(texture, { textures: index })
    return texture
  },
})

// What the loaders ask for of a page.
;(globalThis as { ProgressEvent?: unknown }).ProgressEvent ??= Event

/** Opens a mesh with the drawing library's own loaders. @throws whatever they throw */
async function openScene(main: string, files: FileSet): Promise<THREE.Object3D> {
  const bytes = files.get(main) as Uint8Array
  const buffer = bytes.slice().buffer
  const text = (): string => new TextDecoder().decode(bytes)
  const ending = main.slice(main.lastIndexOf('.') + 1).toLowerCase()
  if (ending === 'glb' || ending === 'gltf') {
    const manager = new THREE.LoadingManager()
    manager.setURLModifier((url) => {
      const file = url.startsWith('data:') ? undefined : fileFor(files, url)
      return file ? dataUri(file) : url
    })
    const loader = new GLTFLoader(manager).register(pictureReader(files) as never).setMeshoptDecoder(MeshoptDecoder)
    const { scene, animations } = await loader.parseAsync(ending === 'gltf' ? text() : buffer, '')
    scene.animations = animations
    // It knows nothing of the older way to say how a surface shines.
    scene.userData['shineUnknown'] = /"KHR_materials_pbrSpecularGlossiness"\s*:/.test(
      new TextDecoder('latin1').decode(bytes),
    )
    return scene
  }
  if (ending === 'obj') {
    const load = THREE.TextureLoader.prototype.load
    THREE.TextureLoader.prototype.load = (url) => withBytes(fileFor(files, url)) as never
    try {
      const loader = new OBJLoader()
      const library = /^mtllib\s+(.+)$/m.exec(text())?.[1].trim()
      const mtl = library === undefined ? undefined : fileFor(files, library)
      if (mtl) loader.setMaterials(new MTLLoader().parse(new TextDecoder().decode(mtl), ''))
      return loader.parse(text())
    } finally {
      THREE.TextureLoader.prototype.load = load
    }
  }
  const geometry = ending === 'stl' ? new STLLoader().parse(buffer) : new PLYLoader().parse(buffer)
  const coloured = geometry.getAttribute('color') !== undefined
  const mesh = new THREE.Mesh(geometry, new THREE.MeshStandardMaterial({ vertexColors: coloured }))
  // Without colours of its own it looks as its reader likes.
  mesh.userData['bare'] = !coloured
  return mesh
}

interface Drawn {
  mesh: THREE.Mesh
  material: THREE.MeshStandardMaterial
  world: THREE.Matrix4
  /** Corner of each place in the index. */
  corners: number[]
}

/**
 * Everything that is drawn of a file, in its own space.
 * @param share how far the first clip has run, 0 to 1; at rest where nothing is said
 */
export async function readWithThree(
  main: string,
  files: FileSet,
  mostPixels: number,
  share: number | null = null,
): Promise<DrawnItem> {
  const scene = await openScene(main, files)
  const [clip] = scene.animations
  if (share !== null && clip) {
    const mixer = new THREE.AnimationMixer(scene)
    mixer.clipAction(clip).setLoop(THREE.LoopOnce, 1).play()
    // The game starts at 0 what begins later.
    const first = Math.min(...clip.tracks.map(({ times }) => times[0]))
    mixer.setTime(first + (clip.duration - first) * share)
  }
  scene.updateMatrixWorld(true)
  const drawn: Drawn[] = []
  scene.traverse((object) => {
    const mesh = object as THREE.Mesh
    if (!mesh.isMesh) return
    const instanced = mesh as THREE.InstancedMesh
    const worlds = instanced.isInstancedMesh
      ? Array.from({ length: instanced.count }, (_, at) =>
          new THREE.Matrix4().fromArray(instanced.instanceMatrix.array, at * 16).premultiply(mesh.matrixWorld),
        )
      : [mesh.matrixWorld]
    const { index, groups, attributes } = mesh.geometry
    const count = index?.count ?? attributes['position'].count
    const cornerAt = (at: number): number => index?.getX(at) ?? at
    const materials = Array.isArray(mesh.material) ? mesh.material : [mesh.material]
    const runs = groups.length > 0 && materials.length > 1 ? groups : [{ start: 0, count, materialIndex: 0 }]
    for (const { start, count: length, materialIndex } of runs) {
      const corners = Array.from({ length: Math.max(0, Math.min(length, count - start)) }, (_, at) =>
        cornerAt(start + at),
      )
      for (const world of worlds)
        drawn.push({ mesh, world, corners, material: materials[materialIndex ?? 0] as THREE.MeshStandardMaterial })
    }
  })
  const pictures = decodeAll(drawn, mostPixels)
  return { surfaces: drawn.map((each) => surfaceOf(each, pictures, scene.userData['shineUnknown'] !== true)) }
}

const mapsOf = (material: THREE.MeshStandardMaterial): THREE.Texture[] =>
  [
    material.map,
    material.roughnessMap,
    material.metalnessMap,
    material.aoMap,
    material.emissiveMap,
    material.alphaMap,
  ].filter((texture) => texture !== null && texture !== undefined)

const bytesIn = (texture: THREE.Texture): Uint8Array | undefined =>
  (texture.image as { bytes?: Uint8Array } | null)?.bytes

function decodeAll(drawn: readonly Drawn[], mostPixels: number): Map<Uint8Array, Picture> {
  const all = [
    ...new Set(drawn.flatMap(({ material }) => mapsOf(material)).flatMap((texture) => bytesIn(texture) ?? [])),
  ]
  return new Map(
    decodeWithPillow(all).flatMap((picture, at) =>
      picture ? [[all[at], averagedTo(picture, mostPixels)] as const] : [],
    ),
  )
}

const wrapNames = new Map<number, Wrap>([
  [THREE.RepeatWrapping, 'repeat'],
  [THREE.MirroredRepeatWrapping, 'mirror'],
  [THREE.ClampToEdgeWrapping, 'clamp'],
])

function surfaceOf(
  { mesh, world, corners, material }: Drawn,
  pictures: Map<Uint8Array, Picture>,
  shineKnown: boolean,
): DrawnSurface {
  const { attributes, morphAttributes } = mesh.geometry
  const position = attributes['position']
  const normal = attributes['normal']
  const mirrored = world.determinant() < 0
  const order = corners.map((_, at) => corners[at - (at % 3) + (mirrored ? [0, 2, 1] : [0, 1, 2])[at % 3]])
  const positions = new Float32Array(order.length * 3)
  const normals = normal ? new Float32Array(order.length * 3) : null
  const turn = new THREE.Matrix3().getNormalMatrix(world)
  const point = new THREE.Vector3()
  const skinned = mesh as THREE.SkinnedMesh
  order.forEach((corner, at) => {
    point.fromBufferAttribute(position, corner)
    if (!skinned.isSkinnedMesh) addMorphs(point, corner, mesh, morphAttributes['position'])
    else mesh.getVertexPosition(corner, point)
    point.applyMatrix4(world).toArray(positions, at * 3)
    if (normals)
      point
        .fromBufferAttribute(normal, corner)
        .applyMatrix3(turn)
        .normalize()
        .toArray(normals, at * 3)
  })
  const at = (name: string, place: number, size: number, b: number, c: number): number[] => {
    const attribute = attributes[name]
    return Array.from({ length: size }, (_, axis) =>
      [1 - b - c, b, c].reduce(
        (sum, weight, each) =>
          sum + weight * (axis < attribute.itemSize ? attribute.getComponent(order[place * 3 + each], axis) : 1),
        0,
      ),
    )
  }
  const look = (texture: THREE.Texture | null | undefined, place: number, b: number, c: number): number[] | null => {
    const picture = texture && bytesIn(texture) ? pictures.get(bytesIn(texture) as Uint8Array) : undefined
    const set = texture && texture.channel > 0 ? `uv${texture.channel}` : 'uv'
    if (!texture || !picture || !attributes[set]) return null
    texture.updateMatrix()
    const uv = new THREE.Vector2(...(at(set, place, 2, b, c) as [number, number])).applyMatrix3(texture.matrix)
    const srgb = texture === material.map || texture === material.emissiveMap
    return sampleAt(
      picture,
      uv.x,
      texture.flipY ? 1 - uv.y : uv.y,
      wrapNames.get(texture.wrapS) ?? 'repeat',
      wrapNames.get(texture.wrapT) ?? 'repeat',
      srgb,
    )
  }
  const shown = (place: number, b: number, c: number): Shown => {
    const tint = attributes['color'] && material.vertexColors ? at('color', place, 4, b, c) : [1, 1, 1, 1]
    const base = look(material.map, place, b, c) ?? [1, 1, 1, 1]
    const emissive = look(material.emissiveMap, place, b, c) ?? [1, 1, 1]
    const standard = material.isMeshStandardMaterial && shineKnown
    const { r, g, b: blue } = material.emissive ?? new THREE.Color(0)
    const power = material.emissiveIntensity ?? 1
    return {
      colour: [material.color.r, material.color.g, material.color.b].map(
        (value, axis) => value * base[axis] * tint[axis],
      ) as [number, number, number],
      opacity: material.transparent || material.alphaTest > 0 ? material.opacity * base[3] * tint[3] : 1,
      roughness: standard ? material.roughness * (look(material.roughnessMap, place, b, c)?.[1] ?? 1) : null,
      metalness: standard ? material.metalness * (look(material.metalnessMap, place, b, c)?.[2] ?? 1) : null,
      occlusion: standard ? 1 + material.aoMapIntensity * ((look(material.aoMap, place, b, c)?.[0] ?? 1) - 1) : null,
      glow: [r, g, blue].map((value, axis) => value * power * emissive[axis]) as [number, number, number],
    }
  }
  return {
    name: mesh.name,
    positions,
    normals,
    shown: mesh.userData['bare'] === true ? null : shown,
    twoSided: material.side === THREE.DoubleSide,
    cut: material.alphaTest > 0 ? material.alphaTest : null,
    blended: material.transparent,
  }
}

function addMorphs(
  point: THREE.Vector3,
  corner: number,
  mesh: THREE.Mesh,
  targets: readonly (THREE.BufferAttribute | THREE.InterleavedBufferAttribute)[] | undefined,
): void {
  targets?.forEach((target, number) => {
    const weight = mesh.morphTargetInfluences?.[number] ?? 0
    if (weight !== 0) point.addScaledVector(new THREE.Vector3().fromBufferAttribute(target, corner), weight)
  })
}
