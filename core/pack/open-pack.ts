import { keyOf, roleNamed } from '../game/map-roles.ts'
import type { GameMapRole } from '../item/map-roles.ts'
import { setMaterialMap } from '../item/source-maps.ts'
import { readWrittenTags, setMaterialTag } from '../game/material-tag.ts'
import type { Document, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { readArchive } from '../support/archive.ts'
import { setMaterialExtras, setTextureExtras } from '../item/extras.ts'
import { documentToGlb } from '../item/io.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'
import { enterWorkingSpace } from './space-door.ts'
import type { Rulebook } from '../game/schema.ts'
import { isEntryPath } from '../game/templates.ts'
import { openImage } from '../pictures/open-image.ts'
import { recogniseRoles } from './node-roles.ts'
import { openMesh } from './openers/open-mesh.ts'

/** What can be taken out of a pack. */
export interface OpenedPack {
  rulebook: Rulebook
  title: string
  items: PackedItem[]
  /** Every map of the pack. */
  textures: { path: string; bytes: Uint8Array }[]
  files: ReadonlyMap<string, Uint8Array>
}
export interface PackedItem {
  name: string
  kind: string
  /** Paths in the pack; one mesh for each model, none for an item without a mesh. */
  meshes: string[]
  looks: string[]
  /** What the entry says for its first mesh that the mesh file has no word for. */
  beside: unknown
}

const manifestSchema = z.object({
  game: z.string(),
  title: z.string().default(''),
  items: z.array(z.object({ name: z.string(), kind: z.string() })).max(10_000),
})
const entrySchema = z.object({
  item: z.string(),
  kind: z.string(),
  mesh: z.string().optional(),
  models: z.record(z.string(), z.string()).optional(),
  looks: z.array(z.string()).max(100),
  nodes: z.unknown().optional(),
  clips: z.unknown().optional(),
  ofModels: z.record(z.string(), z.unknown()).optional(),
})
const lookSchema = z.object({
  materials: z.record(
    z.string(),
    z.object({
      shading: z.string(),
      surface: z.string().nullable().optional(),
      flags: z.array(z.string()).max(64).optional(),
      maps: z.record(z.string(), z.string()),
    }),
  ),
})

const TEXTURE = /\.(dds|ktx2|tga|png|jpe?g)$/i

function parseJson<T>(files: ReadonlyMap<string, Uint8Array>, path: string, schema: z.ZodType<T>, name: string): T {
  const bytes = files.get(path)
  if (!bytes) throw new PlainError(`its ${path} is missing`, name, 'Copy the pack again.')
  try {
    return schema.parse(JSON.parse(new TextDecoder().decode(bytes)))
  } catch {
    throw new PlainError(`its ${path} cannot be read`, name, 'Copy the pack again.')
  }
}

const manifestPaths = (games: readonly Rulebook[]): string[] => [
  ...new Set(games.map(({ files }) => files.manifest.path)),
]

/** Whether the files of an archive are those of a pack for one of the games. */
export function isPack(paths: Iterable<string>, games: readonly Rulebook[]): boolean {
  const present = new Set(paths)
  return manifestPaths(games).some((path) => present.has(path))
}

/** The game that an archive's manifest names, under the name that one of the games gives manifests; null where none does. */
export function gameOfPack(files: ReadonlyMap<string, Uint8Array>, games: readonly Rulebook[]): string | null {
  for (const path of manifestPaths(games))
    try {
      return z.object({ game: z.string() }).parse(JSON.parse(new TextDecoder().decode(files.get(path)))).game
    } catch {
      continue
    }
  return null
}

/**
 * Opens a pack of one of the games given.
 * @param games the crate’s own first, then the built-in ones
 * @throws PlainError when it is no pack, or its game is not known
 */
export function openPack(bytes: Uint8Array, name: string, games: readonly Rulebook[]): OpenedPack {
  const files = readArchive(bytes, name)
  if (!isPack(files.keys(), games))
    throw new PlainError(
      `it holds no ${manifestPaths(games).join(' or ')}, so it is not a pack`,
      name,
      'Choose a pack.',
    )
  const game = gameOfPack(files, games)
  if (game === null) throw new PlainError('its manifest cannot be read', name, 'Copy the pack again.')
  const rulebook = games.find(({ id }) => id === game)
  if (!rulebook)
    throw new PlainError(
      `it is for “${game}”, a game that is not known here`,
      name,
      `Known ones: ${games.map(({ id }) => id).join(', ')}. Or bring that game’s rulebook.`,
    )
  const manifest = parseJson(files, rulebook.files.manifest.path, manifestSchema, name)
  const entries = [...files.keys()]
    .filter((path) => isEntryPath(path, rulebook))
    .map((path) => parseJson(files, path, entrySchema, name))
  return {
    rulebook,
    title: manifest.title || name,
    items: entries.map((entry) => ({
      name: entry.item,
      kind: entry.kind,
      meshes: entry.mesh !== undefined ? [entry.mesh] : Object.values(entry.models ?? {}),
      looks: entry.looks,
      beside: entry.ofModels ? Object.values(entry.ofModels)[0] : entry,
    })),
    textures: [...files].filter(([path]) => TEXTURE.test(path)).map(([path, content]) => ({ path, bytes: content })),
    files,
  }
}

/**
 * An item of a pack as one GLB in game units: its first look's maps are put back on its materials, and solids,
 * levels and shadow mesh are known as such again.
 * @throws PlainError when the pack has no such item, or its mesh is broken
 */
export async function takeItem(pack: OpenedPack, itemName: string): Promise<Uint8Array> {
  const item = pack.items.find((each) => each.name === itemName)
  if (!item)
    throw new PlainError(
      `it has no item “${itemName}”`,
      pack.title,
      `Its items: ${pack.items.map((each) => each.name).join(', ')}.`,
    )
  // Of an item with several models the first is taken: each stands on its own.
  const [path] = item.meshes
  if (path === undefined)
    throw new PlainError(`${itemName} is a ${item.kind} and has no mesh`, pack.title, 'Take its pictures instead.')
  const mesh = pack.files.get(path)
  if (!mesh) throw new PlainError(`the mesh of ${itemName} is missing`, pack.title, 'Copy the pack again.')
  let document: Document
  try {
    document = await openMesh({ path, bytes: mesh, files: pack.files, beside: item.beside }, pack.rulebook)
  } catch (error) {
    throw new PlainError(
      `the mesh of ${itemName} cannot be read (${plainMessage(error)})`,
      pack.title,
      'Copy the pack again.',
    )
  }
  if (item.looks.length > 0)
    await wearLook(document, pack, parseJson(pack.files, item.looks[0], lookSchema, pack.title))
  enterWorkingSpace(document, pack.rulebook)
  readWrittenTags(document, pack.rulebook)
  recogniseRoles(document, pack.rulebook)
  return documentToGlb(document)
}

async function wearLook(document: Document, pack: OpenedPack, look: z.infer<typeof lookSchema>): Promise<void> {
  const made = new Map<string, Texture>()
  for (const material of document.getRoot().listMaterials()) {
    const entry = look.materials[material.getName()]
    if (!entry) continue
    setMaterialExtras(material, { references: [], shadingModel: entry.shading })
    if (entry.surface)
      setMaterialTag(
        document,
        material,
        { base: material.getName(), surface: entry.surface, flags: entry.flags ?? [] },
        pack.rulebook,
      )
    for (const [role, path] of Object.entries(entry.maps)) {
      const bytes = pack.files.get(path)
      if (!bytes) continue
      const known = roleNamed(role, pack.rulebook)
      if (!known) continue
      const key = keyOf(known, pack.rulebook)
      const texture = made.get(path) ?? (await makeTexture(document, path, bytes, key))
      made.set(path, texture)
      setMaterialMap(document, material, key, texture)
    }
  }
}

async function makeTexture(document: Document, path: string, bytes: Uint8Array, role: GameMapRole): Promise<Texture> {
  const image = await openImage(bytes).catch((error: unknown) => {
    throw new PlainError(`it cannot be read (${plainMessage(error)})`, path, 'Copy the pack again.')
  })
  const stem = (path.split('/').pop() ?? path).replace(/\.[^.]*$/, '')
  const texture = document
    .createTexture(stem)
    .setMimeType(image.mimeType)
    .setImage(image.bytes as Uint8Array<ArrayBuffer>)
    .setURI(`${stem}.${image.mimeType === 'image/png' ? 'png' : 'jpg'}`)
  setTextureExtras(texture, { role, written: path, cameAs: image.facts.title })
  return texture
}
