import { identityMatrix } from '../maths/axes.ts'
import type { TextureRole } from '../item/extras.ts'
import { roleFromName, subjectOfName } from '../item/map-roles.ts'
import { isImageFile } from './images.ts'
import { openImage } from '../pictures/open-image.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'
import type { MeshReader } from './reader.ts'
import { buildDocument } from './scene/build-document.ts'
import { sourceNode, type SourceMap } from './scene/source-scene.ts'
import { fileName, fileStem } from './source-file.ts'

/** What a picture is for, by its name; colour when the name does not say. */
export const roleOfName = (path: string): TextureRole => roleFromName(fileStem(path)) ?? 'colour'

/**
 * Pictures that come without a mesh, by the one that leads each set: each colour map leads one, and the others go to
 * the one that shares their subject's name, or to the first.
 *
 * @example for (const [leader, set] of groupPictures(pictures)) planPicture(leader, set)
 */
export function groupPictures<F extends { path: string }>(pictures: readonly F[]): Map<F, F[]> {
  const colours = pictures.filter((picture) => roleOfName(picture.path) === 'colour')
  const leaders = colours.length > 0 ? colours : pictures.slice(0, 1)
  const groups = new Map(leaders.map((leader) => [leader, [leader]]))
  for (const picture of pictures) {
    if (groups.has(picture)) continue
    const subject = subjectOfName(fileStem(picture.path))
    const leader = leaders.find((each) => subjectOfName(fileStem(each.path)) === subject) ?? leaders[0]
    groups.get(leader)?.push(picture)
  }
  return groups
}

/**
 * A picture without a mesh, with the others that came with it, on a board of two triangles: one metre high and as wide
 * as the picture asks. Its axes are ours, because we made it so; how large it is meant to be nobody knows.
 *
 * @example const { document } = await readPicture(main, files, {})
 */
export const readPicture: MeshReader = async (main, files, options) => {
  const set = files.filter((file) => isImageFile(file.path))
  const maps: SourceMap[] = [main, ...set.filter((file) => file !== main)].map((file) => ({
    role: roleOfName(file.path),
    path: file.path,
  }))
  const { width, height } = await sizeOf(main.bytes, fileName(main.path))
  const half = width / height / 2
  const name = fileStem(main.path)
  const node = sourceNode(name, identityMatrix())
  node.mesh = {
    name,
    points: Float32Array.from([-half, 0, 0, half, 0, 0, half, 1, 0, -half, 1, 0]),
    faces: [
      {
        material: 0,
        polygonSizes: [3, 3],
        corners: [0, 1, 2, 0, 2, 3],
        normals: null,
        uvs: [Float32Array.from([0, 1, 1, 1, 1, 0, 0, 1, 1, 0, 0, 0])],
        colours: null,
        smoothing: null,
      },
    ],
  }
  return buildDocument(
    {
      name,
      roots: [node],
      materials: [{ name, colour: [1, 1, 1, 1], metalness: 0, roughness: 0.9, maps }],
      clips: [],
      units: { metresPerUnit: 1, from: 'customary' },
      axes: { up: '+y', forward: '+z', from: 'declared' },
    },
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
    throw new PlainError(
      `this image cannot be read (${plainMessage(error)})`,
      name,
      'Save it again, for instance as PNG.',
    )
  }
}
