import { takeApart, type FlagsOf } from './flags.ts'
import { z } from 'zod'
import type { Kind, Rulebook } from '../game/schema.ts'
import { nameInPath, nameIsAccepted, type SortedNodes } from './sorted-nodes.ts'
import type { TrialLog } from './log.ts'
import { loadRecord } from './loaders/record/index.ts'
import { mapLoaders } from './loaders/texture/index.ts'
import type { LoadedMap } from './loaders/texture/loaded-map.ts'
import { tgaOrder } from './loaders/texture/tga.ts'

/** A material as the game shows it. */
export interface ShownMaterial {
  name: string
  surface: string
  flags: string[]
  /** sRGB, `#rrggbb`; null where the game does not tint. */
  tint: string | null
  /** By role; null where the game shows a texture of its own. */
  maps: Map<string, Uint8Array | null>
}

const lookSchema = z.object({
  look: z.string(),
  materials: z.record(
    z.string(),
    z.object({
      shading: z.string(),
      surface: z.string().nullable().optional(),
      flags: z.array(z.string()).max(64).optional(),
      tint: z.string().optional(),
      maps: z.record(z.string(), z.string()),
    }),
  ),
})

/**
 * The flags by which each material of a look is drawn, before anything of it is judged.
 * @example const flagsOf = flagsInLook(path, archive, rulebook)
 */
export function flagsInLook(path: string, archive: Map<string, Uint8Array>, rulebook: Rulebook): FlagsOf {
  let materials: z.infer<typeof lookSchema>['materials'] = {}
  try {
    materials = lookSchema.parse(loadRecord('look', archive.get(path), rulebook)).materials
  } catch {
    // Said when the look itself is read.
  }
  return (name) => materials[name]?.flags ?? takeApart(name, rulebook).flags
}

/**
 * What a look calls itself; null where it cannot be read.
 * @example const name = lookName(path, archive, rulebook)
 */
export function lookName(path: string, archive: Map<string, Uint8Array>, rulebook: Rulebook): string | null {
  try {
    return lookSchema.parse(loadRecord('look', archive.get(path), rulebook)).look
  } catch {
    return null
  }
}

/**
 * Reads a look: every material of the mesh, its tag, shading model and maps, which are added to `maps`.
 * @example checkLook(path, sorted, shown, maps, archive, rulebook, kind, log)
 */
export function checkLook(
  path: string,
  sorted: SortedNodes,
  shown: Map<string, ShownMaterial>,
  maps: Map<string, Uint8Array>,
  archive: Map<string, Uint8Array>,
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  const bytes = archive.get(path)
  if (!bytes) {
    log.refuse('look.missing', path, 'The entry names this look; it is not in the pack.')
    return
  }
  let look: z.infer<typeof lookSchema>
  try {
    look = lookSchema.parse(loadRecord('look', bytes, rulebook))
  } catch {
    log.refuse('look.unreadable', path, 'The look cannot be read.')
    return
  }
  log.tell('look.read', path, `${look.look}: ${Object.keys(look.materials).length} materials.`)
  const drawn = [...sorted.view, ...[...sorted.levels.values()].flat()].flatMap((node) =>
    node.primitives.map((primitive) => ({ node, primitive })),
  )
  const used = new Set<string>()
  for (const { node, primitive } of drawn) {
    if (primitive.material === null) log.refuse('material.missing', path, `${node.name} has faces without a material.`)
    else used.add(primitive.material)
  }
  // A shadow needs no material; one that it names is looked up all the same.
  for (const { material } of sorted.shadow.flatMap((node) => node.primitives)) if (material !== null) used.add(material)
  // A look without a mesh is all there is of the item: every material of it counts.
  if (!kind.mesh) for (const name of Object.keys(look.materials)) used.add(name)
  if (!kind.mesh && used.size === 0) log.refuse('look.empty', path, 'The look shows nothing.')
  if (used.size > rulebook.materials.largestCount)
    log.refuse('material.count', path, `${used.size} materials; ${rulebook.materials.largestCount} are read.`)
  for (const name of used) {
    const entry = look.materials[name]
    if (!entry) log.refuse('look.material', path, `The look says nothing of ${name}.`)
    else {
      // What is shown in the yard is the first look; the others are only checked.
      const material = showMaterial(path, name, entry, archive, maps, rulebook, log)
      if (!shown.has(name)) shown.set(name, material)
    }
  }
  // A format that holds no tangents leaves them to the game.
  const asksTangents = rulebook.files.mesh.writer === 'glb' || rulebook.files.mesh.writer === 'gltf'
  const relief = rulebook.maps.roles.find(({ channels }) => Object.values(channels).includes('normal-x'))
  for (const { node, primitive } of drawn) {
    const material = shown.get(primitive.material ?? '')
    if (!material) continue
    // Where UVs are not read, pictures lie by their place in the world.
    const asksUvs = kind.mesh?.losesUVs === false && material.maps.size > 0
    if (asksUvs && !primitive.uvs) log.refuse('mesh.uvs', path, `${node.name} has textures and no UVs.`)
    if (relief && material.maps.has(relief.role) && asksTangents && !primitive.tangents && sorted.view.includes(node))
      log.complain('mesh.tangents', path, `${node.name} has a normal map and no tangents.`)
  }
}

function showMaterial(
  path: string,
  name: string,
  entry: z.infer<typeof lookSchema>['materials'][string],
  archive: Map<string, Uint8Array>,
  maps: Map<string, Uint8Array>,
  rulebook: Rulebook,
  log: TrialLog,
): ShownMaterial {
  const written = takeApart(name, rulebook)
  const { base } = written
  const surface = written.surface ?? entry.surface ?? null
  const flags = entry.flags ?? written.flags
  checkMaterialName(path, base, entry.maps, rulebook, log)
  if (!rulebook.materials.surfaces.some((known) => known.name === surface))
    log.refuse('material.surface', path, `${name} has no surface that is known.`)
  for (const flag of flags)
    if (!rulebook.materials.flags.some((known) => known.name === flag))
      log.refuse('material.flag', path, `${name}: there is no flag ${flag}.`)
  const model = rulebook.materials.shadingModels.find((each) => each.name === entry.shading)
  if (!model) log.refuse('look.shading', path, `There is no shading ${entry.shading}.`)
  const roles = Object.keys(entry.maps)
  for (const role of model?.requires ?? [])
    if (!roles.includes(role)) log.refuse('look.map', path, `${name}: ${entry.shading} needs a ${role} map.`)
  for (const role of model?.forbids ?? [])
    if (roles.includes(role)) log.refuse('look.forbidden', path, `${name}: ${entry.shading} takes no ${role} map.`)
  const tint = rulebook.materials.tinted ? (entry.tint ?? '') : null
  if (tint !== null && !/^#[0-9a-f]{6}$/i.test(tint))
    log.refuse('look.tint', path, `${name} has ${tint === '' ? 'no tint' : `a tint that is none, “${tint}”`}.`)
  const material: ShownMaterial = { name, surface: surface ?? '', flags, tint, maps: new Map() }
  for (const [role, file] of Object.entries(entry.maps)) {
    const bytes = archive.get(file)
    // What the game has itself need not be in the pack.
    if (!bytes && rulebook.stock.textures.some((texture) => texture.path === file)) {
      material.maps.set(role, null)
      continue
    }
    if (!bytes) log.refuse('map.missing', file, `${name} shows this map; it is not in the pack.`)
    else {
      checkMap(file, role, bytes, rulebook, log)
      maps.set(file, bytes)
      material.maps.set(role, bytes)
    }
  }
  return material
}

/** A material’s name, or, where it is the path of what it shows, that path. */
function checkMaterialName(
  path: string,
  name: string,
  maps: Record<string, string>,
  rulebook: Rulebook,
  log: TrialLog,
): void {
  const { naming } = rulebook.materials
  if (naming.form !== 'path') {
    if (!nameIsAccepted(name, rulebook)) log.refuse('name.form', path, `The material name “${name}” is not accepted.`)
    return
  }
  if (name.length > naming.longest)
    log.refuse('name.long', path, `The material name “${name}” has ${name.length} signs; ${naming.longest} are read.`)
  if (maps[naming.ofRole]?.replace(/\.[^./]*$/, '') !== name)
    log.refuse('name.path', path, `The material “${name}” is not the path of what it shows.`)
}

function checkMap(file: string, role: string, bytes: Uint8Array, rulebook: Rulebook, log: TrialLog): void {
  const rule = rulebook.maps.roles.find((each) => each.role === role)
  if (!rule) return log.refuse('map.role', file, `There is no map role ${role}.`)
  const base = nameInPath(file, rulebook)
  if (!nameIsAccepted(base, rulebook)) log.refuse('name.form', file, `The map name “${base}” is not accepted.`)
  if (!base.endsWith(rule.ending)) log.refuse('map.ending', file, `A ${role} map has to end in ${rule.ending}.`)
  const { writer, topDown, packed } = rulebook.files.texture
  let map: LoadedMap
  try {
    map = mapLoaders[writer](bytes)
  } catch (error) {
    return log.refuse(
      'map.unreadable',
      file,
      `The map cannot be read: ${error instanceof Error ? error.message : String(error)}.`,
    )
  }
  if (writer === 'tga') {
    const order = tgaOrder(bytes)
    if (order.topDown !== topDown || (order.packed && !packed))
      log.refuse('map.rows', file, 'Its rows are packed, or begin at the other end.')
  }
  const { smallestPixels, largestPixels, widestAspect } = rulebook.maps
  const sides = [map.width, map.height]
  if (rulebook.maps.powersOfTwo && sides.some((side) => (side & (side - 1)) !== 0))
    log.refuse('map.powers', file, `${map.width} × ${map.height} are not powers of two.`)
  if (sides.some((side) => side < smallestPixels || side > largestPixels))
    log.refuse(
      'map.size',
      file,
      `${map.width} × ${map.height}; sides from ${smallestPixels} to ${largestPixels} are read.`,
    )
  if (Math.max(...sides) > Math.min(...sides) * widestAspect)
    log.refuse('map.aspect', file, `${map.width} × ${map.height} is too long.`)
  if (rule.colourSpace === 'srgb' && map.srgb === false)
    log.complain('map.space', file, 'The map is stored as numbers, not as sRGB: it looks washed out.')
  if (rule.colourSpace !== 'srgb' && map.srgb)
    log.complain('map.space', file, 'The map is stored as sRGB: its numbers are bent.')
  if (!rule.codecs.some((codec) => codec === map.codec))
    log.refuse('map.codec', file, `${map.codec} is not read for ${role}.`)
  const wanted = 1 + Math.floor(Math.log2(Math.max(...sides)))
  if (rulebook.maps.mipmaps === 'all' && map.levels < wanted)
    log.refuse('map.levels', file, `${map.levels} of ${wanted} mipmap levels.`)
}

/**
 * All looks of an item lie in memory together.
 * @example checkMemory(path, maps, rulebook, kind, log)
 */
export function checkMemory(
  path: string,
  maps: Map<string, Uint8Array>,
  rulebook: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  let memory = 0
  for (const bytes of maps.values()) {
    try {
      memory += mapLoaders[rulebook.files.texture.writer](bytes).bytesOnCard
    } catch {
      // Refused above already.
    }
  }
  if (memory > kind.textureMemoryBytes)
    log.refuse(
      'map.memory',
      path,
      `The maps take ${(memory / 1024 / 1024).toFixed(1)} MB; ` +
        `${(kind.textureMemoryBytes / 1024 / 1024).toFixed(1)} MB are set aside in ${rulebook.title}.`,
    )
}
