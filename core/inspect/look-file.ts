import { setMaterialTag } from '../game/material-tag.ts'
import type { Document, Material, Texture } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras, setMaterialExtras, setTextureExtras, type TextureReference } from '../item/extras.ts'
import { mapNameOf } from '../game/templates.ts'
import type { GameMapRole } from '../item/map-roles.ts'
import { keyOf, roleNamed } from '../game/map-roles.ts'
import { setMaterialMap } from '../item/source-maps.ts'
import type { Rulebook } from '../game/schema.ts'
import { factorOfHex } from '../pictures/srgb.ts'
import { packedLookSchema } from '../pack/packed-look.ts'
import { readRecordOrNothing } from '../pack/records/index.ts'
import type { Finding } from '../rules/rule.ts'
import { fileFinding } from './file-finding.ts'
import { openMap, type OpenedMap } from './map-file.ts'

/** Who packs it elsewhere has to say which look it is. */
const lookSchema = packedLookSchema.extend({ look: z.string() })
export type Look = z.infer<typeof lookSchema>

/**
 * A look's file; null with the reason when it cannot be read.
 * @example const { look, findings } = readLook('items/gate/looks/plain.json', content, rulebook)
 */
export function readLook(
  path: string,
  content: ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
): { look: Look | null; findings: Finding[] } {
  const parsed = lookSchema.safeParse(readRecordOrNothing('look', content.get(path), path, rulebook))
  if (parsed.success) return { look: parsed.data, findings: [] }
  return {
    look: null,
    findings: [
      lookFault(
        path,
        'materials with shading and maps',
        content.has(path) ? 'The look cannot be read' : `The entry names ${path}; it is not in the pack`,
      ),
    ],
  }
}

/**
 * A finding that blocks about a look file: where in it, what is asked, what is wrong.
 * @example findings.push(lookFault(path, '#rrggbb', 'The tint is none'))
 */
export const lookFault = (where: string, limit: string, message: string): Finding =>
  fileFinding({
    rule: 'look',
    severity: 'blocks',
    title: 'Look',
    where,
    limit,
    message,
    why: 'What a thing shows is looked up there.',
  })

/** Maps that were opened for an item: one texture for a file in one role. */
export type OpenedMaps = Map<string, Texture | null>

/**
 * Dresses a material in what a look says of it: its maps as textures, what the game has itself and what is missing as
 * references. `opened` keeps what several materials show.
 *
 * @example findings.push(...(await dress(document, material, look.materials['oak'], content, rulebook, new Map())))
 */
export async function dress(
  document: Document,
  material: Material,
  line: Look['materials'][string],
  content: ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
  opened: OpenedMaps,
): Promise<Finding[]> {
  const findings: Finding[] = []
  const references: TextureReference[] = []
  for (const [role, path] of Object.entries(line.maps)) {
    const bytes = content.get(path)
    const known = roleNamed(role, rulebook)
    if (!known) {
      findings.push(
        lookFault(
          path,
          rulebook.maps.roles.map((each) => each.role).join(', '),
          `${material.getName()} shows ${path} as “${role}”, which the game does not know`,
        ),
      )
      continue
    }
    const key = keyOf(known, rulebook)
    if (!bytes) {
      const ofStock = rulebook.stock.textures.some((texture) => texture.path === path)
      references.push({ role: key, path, found: null, ...(ofStock ? { stock: path } : {}) })
      continue
    }
    const once = `${role} ${path}`
    const map = opened.has(once) ? null : await openMap(bytes, rulebook)
    const fault = typeof map === 'string' ? map : null
    if (fault !== null)
      findings.push(
        fileFinding({
          rule: 'map-file',
          severity: 'blocks',
          title: 'Map cannot be read',
          where: path,
          limit: `one flat ${rulebook.files.texture.writer.toUpperCase()}`,
          message: `${path}: ${fault}`,
          why: 'The card takes the blocks as they lie.',
        }),
      )
    if (!opened.has(once))
      opened.set(once, map && typeof map !== 'string' ? makeTexture(document, path, map, key, rulebook) : null)
    const texture = opened.get(once)
    if (texture) setMaterialMap(document, material, key, texture)
  }
  if (rulebook.materials.tinted) {
    if (line.tint === undefined || !/^#[0-9a-f]{6}$/i.test(line.tint))
      findings.push(
        lookFault(
          material.getName(),
          '#rrggbb',
          `${material.getName()} has ${line.tint === undefined ? 'no tint' : `the tint “${line.tint}”`}`,
        ),
      )
    else material.setBaseColorFactor(factorOfHex(line.tint))
  }
  if (line.surface)
    setMaterialTag(
      document,
      material,
      { base: material.getName(), surface: line.surface, flags: line.flags ?? [] },
      rulebook,
    )
  setMaterialExtras(material, { ...getMaterialExtras(material), references, shadingModel: line.shading })
  return findings
}

function makeTexture(document: Document, path: string, map: OpenedMap, role: GameMapRole, rulebook: Rulebook): Texture {
  const name = mapNameOf(path, rulebook)
  const texture = document
    .createTexture(name)
    .setMimeType(map.mimeType)
    .setImage(map.bytes as Uint8Array<ArrayBuffer>)
  setTextureExtras(texture, { role, written: path })
  return texture
}
