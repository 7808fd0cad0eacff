import type { Document, Material, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { colourRole, keyOf, roleNamed } from '../game/map-roles.ts'
import { setMaterialTag } from '../game/material-tag.ts'
import { mapNameOf } from '../game/templates.ts'
import type { MapRole, Rulebook } from '../game/schema.ts'
import { getMaterialExtras, setMaterialExtras, setTextureExtras } from '../item/extras.ts'
import { addLook } from '../item/looks.ts'
import { setMaterialMap } from '../item/source-maps.ts'
import { factorOfHex } from '../pictures/srgb.ts'
import { ddsMimeType, readDdsHeader } from '../pictures/codecs/dds.ts'
import { decodeAnyImage, openImage } from '../pictures/open-image.ts'
import { ktx2, ktx2AsDds } from '../pictures/formats/ktx2.ts'
import { opacityKind } from '../pictures/opacity.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'

/** A look as packing writes it. */
export const packedLookSchema = z.object({
  look: z.string().max(200).optional(),
  materials: z.record(
    z.string(),
    z.object({
      shading: z.string(),
      surface: z.string().nullable().optional(),
      flags: z.array(z.string()).max(64).optional(),
      tint: z.string().max(64).optional(),
      maps: z.record(z.string(), z.string()),
    }),
  ),
})
export type ReadLook = z.infer<typeof packedLookSchema>

/** Puts an item's looks back on its materials: the first as what they show, each further one as a look. */
export class PackedLooks {
  private readonly made = new Map<string, Promise<Texture>>()

  constructor(
    private readonly document: Document,
    private readonly files: ReadonlyMap<string, Uint8Array>,
    private readonly rulebook: Rulebook,
  ) {}

  /** @param looks as the entry lists them; materials are looked up by the names that the mesh gives them */
  async putOn(looks: readonly ReadLook[]): Promise<void> {
    const [first, ...others] = looks
    if (!first) return
    const materials = new Map(
      this.document
        .getRoot()
        .listMaterials()
        .map((material) => [material.getName(), material]),
    )
    for (const [name, line] of Object.entries(first.materials)) {
      const material = materials.get(name)
      if (material) await this.wear(material, name, line)
    }
    for (const look of others) {
      const instead = new Map<Material, Material>()
      for (const [name, line] of Object.entries(look.materials)) {
        const own = materials.get(name)
        const shown = first.materials[name]
        if (!own || (sameMaps(line.maps, shown?.maps ?? {}) && line.tint === shown?.tint)) continue
        const other = own.clone()
        await this.wear(other, name, line)
        instead.set(own, other)
      }
      addLook(this.document, look.look ?? 'second', instead)
    }
  }

  private async wear(material: Material, name: string, line: ReadLook['materials'][string]): Promise<void> {
    const extras = { ...getMaterialExtras(material), shadingModel: line.shading, references: [] as References }
    for (const [roleName, path] of Object.entries(line.maps)) {
      const role = roleNamed(roleName, this.rulebook)
      if (!role) continue
      const bytes = this.files.get(path)
      if (bytes)
        setMaterialMap(this.document, material, keyOf(role, this.rulebook), await this.texture(path, bytes, role))
      // A map of the game's own is shown, and still is not packed again.
      if (!bytes || this.isStock(path)) extras.references.push(this.notPacked(path, role))
    }
    setMaterialExtras(material, extras)
    if (line.tint !== undefined) material.setBaseColorFactor(factorOfHex(line.tint))
    if (line.surface || (line.flags ?? []).length > 0)
      setMaterialTag(
        this.document,
        material,
        { base: name, surface: line.surface ?? null, flags: line.flags ?? [] },
        this.rulebook,
      )
  }

  /** A map that is named and not packed: the game's own, or missing. */
  private notPacked(path: string, role: MapRole): References[number] {
    return { role: keyOf(role, this.rulebook), path, found: null, ...(this.isStock(path) ? { stock: path } : {}) }
  }

  private isStock(path: string): boolean {
    return this.rulebook.stock.textures.some((texture) => texture.path === path)
  }

  private texture(path: string, bytes: Uint8Array, role: MapRole): Promise<Texture> {
    const known = this.made.get(path) ?? this.makeTexture(path, bytes, role)
    this.made.set(path, known)
    return known
  }

  private async makeTexture(path: string, bytes: Uint8Array, role: MapRole): Promise<Texture> {
    const stem = mapNameOf(path, this.rulebook)
    const said = { role: keyOf(role, this.rulebook), written: path }
    try {
      const blocks = blocksOf(bytes)
      const image = blocks ? await keptAsItIs(blocks) : await openImage(bytes, true)
      const texture = this.document
        .createTexture(stem)
        .setImage(image.bytes as Uint8Array<ArrayBuffer>)
        .setURI(`${stem}.${image.mimeType === ddsMimeType ? 'dds' : image.mimeType === 'image/png' ? 'png' : 'jpg'}`)
        // After the address, which would say another type.
        .setMimeType(image.mimeType)
      const opacity = 'opacity' in image && role === colourRole(this.rulebook) ? { opacity: image.opacity } : {}
      setTextureExtras(texture, { ...said, cameAs: image.facts.title, ...opacity })
      return texture
    } catch (error) {
      throw new PlainError(`it cannot be read (${plainMessage(error)})`, path, 'Copy the pack again.')
    }
  }
}

type References = ReturnType<typeof getMaterialExtras>['references']

const sameMaps = (first: Record<string, string>, second: Record<string, string>): boolean =>
  Object.keys(first).length === Object.keys(second).length &&
  Object.entries(first).every(([role, path]) => second[role] === path)

/** A file in blocks as an item keeps it, so that it is packed again as it is; null for any other. */
function blocksOf(bytes: Uint8Array): Uint8Array | null {
  if (ktx2.begins(bytes)) return ktx2AsDds(bytes)
  try {
    readDdsHeader(bytes)
    return bytes
  } catch {
    return null
  }
}

/** Blocks as they are, decoded once to prove that they are whole and to see what their opacity is like. */
async function keptAsItIs(bytes: Uint8Array) {
  const { pixels, detail } = await decodeAnyImage(bytes)
  return { mimeType: ddsMimeType, bytes, facts: { title: `DDS ${detail}` }, opacity: opacityKind(pixels) }
}
