import { identityMatrix } from '../document/axes.ts'
import type { TextureRole } from '../document/extras.ts'
import { isImageFile } from './images.ts'
import { openImage } from '../texture/open-image.ts'
import { PlainError, plainMessage } from '../document/plain-error.ts'
import type { MeshReader } from './reader.ts'
import { buildDocument } from './scene/build-document.ts'
import { sourceNode, type SourceMap } from './scene/source-scene.ts'
import { fileName, fileStem } from './source-file.ts'

/** Which words of a file name say what a picture is for; resolutions and copy numbers say nothing. */
const roleWords: readonly [TextureRole, RegExp][] = [
  ['colour', /(^|[\s_.-])(albedo|diffuse|diff|colou?r|col|basecolou?r|base)([\s_.-]|$)/i],
  ['normal', /(^|[\s_.-])(normal|normals|nrm|nor|n)([\s_.-]|$)/i],
  ['other', /(^|[\s_.-])(ao|occlusion|gloss|glossiness|rough|roughness|metal|metallic|metalness|height|disp|bump|mask|emissive|glow|opacity)([\s_.-]|$)/i],
]

/** What a picture is for, by its name; colour when the name does not say. */
export function roleOfName(path: string): TextureRole {
  const stem = fileStem(path)
  return roleWords.find(([, words]) => words.test(stem))?.[0] ?? 'colour'
}

/** Of pictures that come without a mesh, the one that stands for all of them. */
export const leadingPicture = <F extends { path: string }>(pictures: readonly F[]): F | undefined => pictures.find((picture) => roleOfName(picture.path) === 'colour') ?? pictures[0]

/**
 * A picture without a mesh, with the others that came with it, on a board of two triangles: one metre high and as wide as
 * the picture asks. Its unit is a metre, because we made it so.
 */
export const readPicture: MeshReader = async (main, files, options) => {
  const set = files.filter((file) => isImageFile(file.path))
  const maps: SourceMap[] = [main, ...set.filter((file) => file !== main)].map((file) => ({ role: roleOfName(file.path), path: file.path }))
  const { width, height } = await sizeOf(main.bytes, fileName(main.path))
  const half = width / height / 2
  const name = fileStem(main.path)
  const node = sourceNode(name, identityMatrix())
  node.mesh = {
    name,
    points: Float32Array.from([-half, 0, 0, half, 0, 0, half, 1, 0, -half, 1, 0]),
    faces: [{ material: 0, polygonSizes: [3, 3], corners: [0, 1, 2, 0, 2, 3], normals: null, uvs: [Float32Array.from([0, 1, 1, 1, 1, 0, 0, 1, 1, 0, 0, 0])], colours: null, smoothing: null }],
  }
  return buildDocument(
    { name, roots: [node], materials: [{ name, colour: [1, 1, 1, 1], metalness: 0, roughness: 0.9, maps }], clips: [], units: { metresPerUnit: 1, from: 'customary' }, axes: { up: '+y', forward: '+z', from: 'customary' } },
    main,
    files,
    options,
    new Set(set.map((file) => file.path)),
  )
}

async function sizeOf(bytes: Uint8Array, name: string): Promise<{ width: number; height: number }> {
  try {
    return (await openImage(bytes)).facts
  } catch (error) {
    throw new PlainError(`this image cannot be read (${plainMessage(error)})`, name, 'Save it again, for instance as PNG.')
  }
}
