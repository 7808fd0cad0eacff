import { getMaterialExtras, getTextureExtras } from '../../item/extras.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { isImageFile } from '../images.ts'
import { fileName } from '../source-file.ts'
import { listed, type Oddity, type OddityCheck } from './oddity.ts'

const isPower = (value: number): boolean => value > 0 && (value & (value - 1)) === 0

/**
 * Textures that are missing, broken or on a disk of someone’s; images and materials that nothing uses; odd sizes.
 * @example const oddities = checkTextures(context)
 */
export const checkTextures: OddityCheck = ({ document, sources }) => {
  const root = document.getRoot()
  const references = root.listMaterials().flatMap((material) => getMaterialExtras(material).references)
  const odd: Oddity[] = []
  const missing = [
    ...new Set(references.filter((each) => each.found === null && each.stock === undefined).map((each) => each.path)),
  ]
  if (missing.length > 0)
    odd.push({
      id: 'texture-missing',
      where: missing[0],
      message: `${listed(missing.map(fileName))} ${missing.length === 1 ? 'was' : 'were'} not found`,
      mend: { do: 'link-texture', label: 'Point to the file' },
    })
  for (const problem of new Set(references.map((each) => each.problem).filter((each) => each !== undefined)))
    odd.push({
      id: 'texture-unreadable',
      where: problem.split(':')[0],
      message: problem.replace(/\.$/, ''),
      mend: null,
    })
  const onDisk = [
    ...new Set(references.filter((each) => /^([a-z]:|file:\/\/|[\\/])/i.test(each.path)).map((each) => each.path)),
  ]
  if (onDisk.length > 0)
    odd.push({
      id: 'texture-path',
      where: onDisk[0],
      message:
        `${onDisk.length === 1 ? 'A texture path points' : `${onDisk.length} texture paths point`} to a folder of ` +
        `one computer: ${listed(onDisk.slice(0, 1))}`,
      mend: null,
    })
  const sizes = new Map(root.listTextures().map((texture) => [texture.getName(), texture.getSize() ?? [0, 0]]))
  for (const { path, pixels } of references)
    if (pixels) sizes.set(fileName(path).replace(/\.[^.]*$/, ''), [pixels.width, pixels.height])
  for (const [name, [width, height]] of sizes) {
    if (width > 0 && !(isPower(width) && isPower(height)))
      odd.push({
        id: 'texture-size',
        where: name,
        message: `${name} is ${width} × ${height}: not powers of two`,
        mend: { do: 'step', step: 'size-maps', label: 'Size maps' },
      })
  }
  const found = new Set(references.map((each) => each.found))
  const unused = sources
    .filter((source) => isImageFile(source.path) && !found.has(source.path))
    .map((source) => fileName(source.path))
  if (unused.length > 0)
    odd.push({
      id: 'images-unused',
      where: unused[0],
      message: `${listed(unused)} ${unused.length === 1 ? 'is' : 'are'} asked for by no material`,
      mend: null,
    })
  return odd
}

/**
 * Materials and embedded textures that no part shows.
 * @example const oddities = checkUnusedMaterials(context)
 */
export const checkUnusedMaterials: OddityCheck = ({ document }) => {
  const used = new Set(listUsedMaterials(document))
  const idle = document
    .getRoot()
    .listMaterials()
    .filter((material) => !used.has(material))
    .map((material) => material.getName())
  const bare = document
    .getRoot()
    .listTextures()
    .filter((texture) => texture.listParents().every((parent) => parent.propertyType === 'Root'))
    .map((texture) => getTextureExtras(texture).written ?? texture.getName())
  const odd: Oddity[] = []
  if (idle.length > 0)
    odd.push({
      id: 'materials-unused',
      where: idle[0],
      message: `${listed(idle)} ${idle.length === 1 ? 'is a material' : 'are materials'} on no face`,
      mend: null,
    })
  if (bare.length > 0)
    odd.push({
      id: 'textures-unused',
      where: bare[0],
      message: `${listed(bare)} ${bare.length === 1 ? 'is a texture' : 'are textures'} that no material shows`,
      mend: null,
    })
  return odd
}

/**
 * The same bytes under two names.
 * @example const oddities = checkFiles(context)
 */
export const checkFiles: OddityCheck = ({ sources }) => {
  const byContent = new Map<string, string[]>()
  for (const { path, sha256 } of sources) byContent.set(sha256, [...(byContent.get(sha256) ?? []), path])
  return [...byContent.values()]
    .filter((paths) => paths.length > 1)
    .map((paths) => ({ id: 'file-twice', where: paths[0], message: `${listed(paths)} are the same file`, mend: null }))
}
