import { ImageUtils, type Document, type Material, type Texture } from '@gltf-transform/core'
import { setMaterialExtras, setTextureExtras, type TextureReference, type TextureRole } from '../../item/extras.ts'
import { PlainError } from '../../support/plain-error.ts'
import { provenImage } from '../images.ts'
import { stockOfLink } from '../texture-search.ts'

/** For each image URI: the path as written, and the file that was found for it. */
export type ImageSources = Map<string, { written: string; found: string | null }>

const INSIDE = 'inside the file'

/**
 * Lists what each material asks for, proves the images, and takes out those that are missing or broken.
 * @example await collectTextures(document, images, {})
 */
export async function collectTextures(
  document: Document,
  images: ImageSources,
  links: Readonly<Record<string, string>>,
): Promise<void> {
  const problems = new Map<Texture, string>()
  const written = new Map<Texture, string>()
  const missing = new Set<Texture>()
  const cameAs = new Map<Texture, string>()
  for (const texture of document.getRoot().listTextures()) {
    const source = images.get(texture.getURI())
    written.set(texture, source?.written ?? (texture.getURI() || texture.getName()))
    if (source?.found === null || stockOfLink(links[written.get(texture) ?? '']) !== null) missing.add(texture)
    else await prove(texture, written.get(texture) ?? '', problems, cameAs)
  }
  for (const material of document.getRoot().listMaterials()) {
    const references: TextureReference[] = []
    for (const [role, texture] of mapsOf(material)) {
      const found = missing.has(texture) ? null : (images.get(texture.getURI())?.found ?? INSIDE)
      const path = written.get(texture) ?? ''
      const stock = stockOfLink(links[path])
      references.push({
        role,
        path,
        found,
        ...(stock === null ? {} : { stock }),
        ...(problems.has(texture) ? { problem: problems.get(texture) } : {}),
      })
    }
    setMaterialExtras(material, { references })
  }
  for (const texture of document.getRoot().listTextures())
    if (!missing.has(texture) && !problems.has(texture)) partRoles(document, texture, written, cameAs)
  for (const texture of document.getRoot().listTextures()) {
    if (missing.has(texture) || problems.has(texture)) texture.dispose()
    else nameTexture(texture, written.get(texture) ?? '', cameAs.get(texture))
  }
}

/**
 * Numbers of a surface are read otherwise than its colours, which also glow: one picture in both places becomes two.
 */
const readAs = (role: TextureRole): string => (role === 'colour' || role === 'glow' ? 'colours' : role)

function partRoles(
  document: Document,
  texture: Texture,
  written: Map<Texture, string>,
  cameAs: Map<Texture, string>,
): void {
  const uses = document
    .getRoot()
    .listMaterials()
    .flatMap((material) => mapsOf(material).flatMap(([role, each]) => (each === texture ? [{ material, role }] : [])))
  const copies = new Map<string, Texture>(uses.length > 0 ? [[readAs(uses[0].role), texture]] : [])
  for (const { material, role } of uses) {
    const copy = copies.get(readAs(role)) ?? texture.clone()
    copies.set(readAs(role), copy)
    if (copy === texture) continue
    written.set(copy, written.get(texture) ?? '')
    const came = cameAs.get(texture)
    if (came !== undefined) cameAs.set(copy, came)
    if (role === 'normal') material.setNormalTexture(copy)
    else if (role === 'metal-rough') {
      if (material.getOcclusionTexture() === texture) material.setOcclusionTexture(copy)
      material.setMetallicRoughnessTexture(copy)
    } else if (role === 'occlusion') material.setOcclusionTexture(copy)
    else if (role === 'glow') material.setEmissiveTexture(copy)
    else material.setBaseColorTexture(copy)
  }
}

async function prove(
  texture: Texture,
  written: string,
  problems: Map<Texture, string>,
  cameAs: Map<Texture, string>,
): Promise<void> {
  const image = texture.getImage()
  if (!image) {
    problems.set(texture, `${written || 'a texture'}: it holds no picture. Export it again.`)
    return
  }
  try {
    const opened = await provenImage(image, written || texture.getName() || 'a texture')
    texture.setMimeType(opened.mimeType).setImage(opened.bytes as Uint8Array<ArrayBuffer>)
    cameAs.set(texture, opened.facts.title)
  } catch (error) {
    if (!(error instanceof PlainError)) throw error
    problems.set(texture, error.message.slice(0, 1000))
  }
}

function nameTexture(texture: Texture, written: string, cameAs: string | undefined): void {
  const role =
    texture
      .listParents()
      .flatMap((parent) => (parent.propertyType === 'Material' ? mapsOf(parent as Material) : []))
      .find(([, each]) => each === texture)?.[0] ?? 'other'
  const stem = (written.split(/[\\/]/).pop() ?? '').replace(/\.[^.]*$/, '')
  const name = texture.getName() || stem || 'texture'
  texture
    .setName(name)
    .setURI(
      /\.[a-z0-9]+$/i.test(written) ? written : `${name}.${ImageUtils.mimeTypeToExtension(texture.getMimeType())}`,
    )
  setTextureExtras(texture, { role, written: written || name, cameAs })
}

/** The maps of a material with what they are for. */
function mapsOf(material: Material): [TextureRole, Texture][] {
  const found: [TextureRole, Texture | null][] = [
    ['colour', material.getBaseColorTexture()],
    ['normal', material.getNormalTexture()],
    ['metal-rough', material.getMetallicRoughnessTexture()],
    [
      'occlusion',
      material.getOcclusionTexture() === material.getMetallicRoughnessTexture() ? null : material.getOcclusionTexture(),
    ],
    ['glow', material.getEmissiveTexture()],
  ]
  return found.filter((pair): pair is [TextureRole, Texture] => pair[1] !== null)
}
