import { readsBlocks } from '../../game/formats.ts'
import type { Document, Texture } from '@gltf-transform/core'
import { getMaterialExtras } from '../../item/extras.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import type { MapRole, Rulebook } from '../../game/schema.ts'
import { listShownMaps } from '../../operations/maps/shown-maps.ts'
import { roleOfKey } from '../../game/map-roles.ts'
import { textureFacts, textureMemory } from '../../operations/maps/texture-pixels.ts'
import { isDiskPath } from '../../support/paths.ts'
import { fullMipmapCount } from '../../pictures/codecs/dds.ts'
import { isPowerOfTwo } from '../../pictures/resize.ts'
import { placeOfTexture } from '../places.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`

/** Formats, sizes, mipmaps and memory of textures, and those that were not found. */
export const mapRules: RuleFamily = {
  id: 'maps',
  check({ document, rulebook, kind }) {
    const findings: Finding[] = []
    for (const { texture, role } of listShownMaps(document, rulebook))
      findings.push(...checkTexture(texture, role, rulebook))
    const memory = memoryOf(document, rulebook)
    if (memory > kind.textureMemoryBytes) {
      findings.push({
        rule: 'texture-memory',
        severity: 'blocks',
        stage: 'surface',
        title: 'Texture memory',
        where: 'item',
        place: nowhere,
        value: megabytes(memory),
        limit: megabytes(kind.textureMemoryBytes),
        message: `The textures take ${megabytes(memory)}; ${megabytes(kind.textureMemoryBytes)} an item are set aside`,
        why: 'Textures that do not fit are thrown out while one plays.',
        mend: { step: 'compress-maps', label: 'Compress', parameters: {} },
      })
    }
    for (const material of listUsedMaterials(document)) {
      for (const reference of getMaterialExtras(material).references) {
        if (reference.stock !== undefined) {
          if (!rulebook.stock.textures.some((texture) => texture.path === reference.stock))
            findings.push(unknownStock(material.getName(), reference.stock))
        } else if (reference.problem !== undefined) {
          findings.push({
            rule: 'texture-unreadable',
            severity: 'note',
            stage: 'intake',
            title: 'Texture not readable',
            where: reference.path,
            place: nowhere,
            value: 'not readable',
            limit: 'a picture',
            message: `${material.getName()}: ${reference.problem.replace(/\.?$/, '')}`,
            why: 'It was left out of the item; without its map the material is plain.',
            mend: null,
          })
        } else if (reference.found === null && roleOfKey(reference.role, rulebook)) {
          findings.push({
            rule: 'texture-missing',
            severity: 'blocks',
            stage: 'intake',
            title: 'Texture not found',
            where: reference.path,
            place: nowhere,
            value: reference.path,
            limit: 'a file',
            message: `${material.getName()} asks for “${reference.path}”, which was not brought`,
            why: 'The loader stops at a file that is not there.',
            mend: { step: 'stand-in-colours', label: 'Use plain colours until it is there', parameters: {} },
          })
        } else if (isDiskPath(reference.path)) {
          findings.push({
            rule: 'texture-path',
            severity: 'note',
            stage: 'intake',
            title: 'Path of your own disk',
            where: reference.path,
            place: nowhere,
            value: reference.path,
            limit: 'a path in the pack',
            message: `“${reference.path}” points to a disk of yours; it is packed under the game’s path`,
            why: 'Nobody else has that folder.',
            mend: null,
          })
        }
      }
    }
    return findings
  },
  gauges: ({ document, rulebook, kind }) =>
    rulebook.maps.roles.length === 0
      ? []
      : [
          {
            id: 'texture-memory',
            label: 'Texture memory',
            stage: 'surface',
            value: memoryOf(document, rulebook),
            limit: kind.textureMemoryBytes,
            least: 0,
            unit: 'bytes',
          },
        ],
}

function unknownStock(material: string, path: string): Finding {
  return {
    rule: 'stock-texture',
    severity: 'blocks',
    stage: 'surface',
    title: 'No such stock texture',
    where: path,
    place: nowhere,
    value: path,
    limit: 'a texture of the game',
    message: `${material} shows “${path}” as the game’s own; the game has no such texture`,
    why: 'The loader looks for it in the game and stops.',
    mend: null,
  }
}

function memoryOf(document: Document, rulebook: Rulebook): number {
  return listShownMaps(document, rulebook).reduce((sum, { texture }) => sum + textureMemory(textureFacts(texture)), 0)
}

function checkTexture(texture: Texture, role: MapRole, { maps, files }: Pick<Rulebook, 'maps' | 'files'>): Finding[] {
  const facts = textureFacts(texture)
  const name = texture.getName()
  const size = `${facts.width} × ${facts.height}`
  const common = { severity: 'blocks' as const, stage: 'surface' as const, where: name, place: placeOfTexture(texture) }
  const sizeMend = { step: 'size-maps', label: 'Size maps', parameters: {} }
  const compressMend = { step: 'compress-maps', label: 'Compress', parameters: {} }
  const findings: Finding[] = []
  const longer = Math.max(facts.width, facts.height)
  const shorter = Math.min(facts.width, facts.height)
  if (maps.powersOfTwo && !(isPowerOfTwo(facts.width) && isPowerOfTwo(facts.height))) {
    findings.push({
      ...common,
      rule: 'texture-power-of-two',
      title: 'Size of a texture',
      value: size,
      limit: 'powers of two',
      message: `${name} is ${size}; the game takes powers of two`,
      why: 'Mipmaps halve each side down to one.',
      mend: sizeMend,
    })
  }
  if (longer > maps.largestPixels || shorter < maps.smallestPixels) {
    findings.push({
      ...common,
      rule: 'texture-size',
      title: 'Size of a texture',
      value: size,
      limit: `${maps.smallestPixels} to ${maps.largestPixels}`,
      message: `${name} is ${size}; the game takes sides from ${maps.smallestPixels} to ${maps.largestPixels}`,
      why: 'Larger textures do not fit the memory set aside for them.',
      mend: sizeMend,
    })
  }
  if (longer / shorter > maps.widestAspect) {
    findings.push({
      ...common,
      rule: 'texture-aspect',
      title: 'Aspect of a texture',
      value: `${(longer / shorter).toFixed(1)} : 1`,
      limit: `${maps.widestAspect} : 1`,
      message: `${name} is ${size}, wider than ${maps.widestAspect} to 1`,
      why: 'Very long textures waste the card’s tiles.',
      mend: sizeMend,
    })
  }
  // What holds plain pixels is written from any picture; blocks have to be made, and looked at, before.
  if (!readsBlocks({ files })) return findings
  if (facts.format !== 'dds') {
    findings.push({
      ...common,
      rule: 'texture-format',
      title: 'Format of a texture',
      value: facts.format.toUpperCase(),
      limit: files.texture.writer.toUpperCase(),
      message: `${name} is ${facts.format.toUpperCase()}; the game reads ${files.texture.writer.toUpperCase()}`,
      why: 'The card reads blocks, not PNG or JPEG.',
      mend: compressMend,
    })
    return findings
  }
  if (facts.codec !== null && !role.codecs.some((codec) => codec === facts.codec)) {
    findings.push({
      ...common,
      rule: 'texture-codec',
      title: 'Compression of a texture',
      value: facts.codec.toUpperCase(),
      limit: role.codecs.join(', ').toUpperCase(),
      message:
        `${name} is ${facts.codec.toUpperCase()}; a ${role.title.toLowerCase()} map has to be ` +
        `${role.codecs.join(' or ').toUpperCase()}`,
      why: 'Each kind of map is read by its own decoder.',
      mend: compressMend,
    })
  }
  if (facts.srgb !== null && facts.srgb !== (role.colourSpace === 'srgb')) {
    findings.push({
      ...common,
      rule: 'texture-space',
      severity: 'risky',
      title: 'Colour space of a texture',
      value: facts.srgb ? 'sRGB' : 'numbers',
      limit: role.colourSpace === 'srgb' ? 'sRGB' : 'numbers',
      message:
        `${name} is stored as ${facts.srgb ? 'sRGB' : 'plain numbers'}; a ${role.title.toLowerCase()} map is ` +
        `${role.colourSpace === 'srgb' ? 'sRGB' : 'plain numbers'}`,
      why: 'The card bends the numbers of one and not of the other: colours wash out, gloss and relief go wrong.',
      mend: compressMend,
    })
  }
  const full = fullMipmapCount(facts.width, facts.height)
  if (maps.mipmaps === 'all' && facts.mipmaps < full) {
    findings.push({
      ...common,
      rule: 'texture-mipmaps',
      title: 'Mipmaps missing',
      value: String(facts.mipmaps),
      limit: String(full),
      message: `${name} has ${facts.mipmaps} of ${full} mipmap levels`,
      why: 'Without them the texture flickers from far off.',
      mend: compressMend,
    })
  }
  return findings
}
