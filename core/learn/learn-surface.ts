import type { MapRole, Rulebook } from '../game/schema.ts'
import { readDdsHeader } from '../pictures/codecs/dds.ts'
import { ktx2, ktx2AsDds } from '../pictures/formats/ktx2.ts'
import { decodeAnyImage } from '../pictures/open-image.ts'
import type { SeenPack } from './game-files.ts'
import type { SeenItem } from './learn-files.ts'
import { learnMaterialTexts } from './learn-material-texts.ts'
import { seeLooks, type SeenLooks, type SeenMaterial } from './learn-looks.ts'
import { Tally, type LearnedLine } from './learned.ts'

type Codec = MapRole['codecs'][number]

/** A map that a look shows. */
interface SeenMap {
  path: string
  role: string
  writer: Rulebook['files']['texture']['writer']
  width: number
  height: number
  codec: Codec
  levels: number
  srgb: boolean | null
  rows: { topDown: boolean; packed: boolean } | null
  bytes: Uint8Array
}

/**
 * What the maps and materials of items say.
 * @example const lines = await learnSurface(packs, items, rulebook)
 */
export async function learnSurface(
  packs: readonly SeenPack[],
  items: readonly SeenItem[],
  base: Rulebook,
): Promise<LearnedLine[]> {
  const looks = seeLooks(
    items,
    base.materials.surfaces.map(({ name }) => name),
  )
  const materials = looks.materials.map(({ material }) => material)
  const shown = mapsOf(looks)
  const maps = shown.length > 0 ? shown : seenByName(packs, base)
  const path = (...steps: string[]): string[] => ['maps', ...steps]
  const writer = new Tally<string>()
  const powers = new Tally<boolean>()
  const mipmaps = new Tally<string>()
  const topDown = new Tally<boolean>()
  const packed = new Tally<boolean>()
  for (const map of maps) {
    writer.add(map.writer, map.path)
    powers.add(
      [map.width, map.height].every((side) => (side & (side - 1)) === 0),
      map.path,
    )
    const whole = 1 + Math.floor(Math.log2(Math.max(map.width, map.height)))
    mipmaps.add(map.levels >= whole ? 'all' : 'none', map.path)
    if (map.rows) {
      topDown.add(map.rows.topDown, map.path)
      packed.add(map.rows.packed, map.path)
    }
  }
  const sides = maps.flatMap(({ width, height }) => [width, height])
  const aspects = maps.map(({ width, height }) => Math.max(width, height) / Math.min(width, height))
  const limit = (step: string, value: number, why: string): LearnedLine[] =>
    maps.length === 0 ? [] : [{ path: path(step), value, files: maps.length, sureness: 'guess', why, against: [] }]
  const roles = await learnRoles(maps, base)
  return [
    ...[
      writer.line(['files', 'texture', 'writer'], 'what the maps are', true),
      topDown.line(['files', 'texture', 'topDown'], 'which row of a map comes first', true),
      packed.line(['files', 'texture', 'packed'], 'whether rows are packed', true),
      powers.line(path('powersOfTwo'), 'whether all sides are powers of two'),
      mipmaps.line(path('mipmaps'), 'whether maps have all their smaller levels'),
    ].flatMap((line) => line ?? []),
    ...limit('smallestPixels', Math.min(...sides), 'the shortest side seen'),
    ...limit('largestPixels', Math.max(...sides), 'the longest side seen; the game may take more'),
    ...limit('widestAspect', Math.max(...aspects), 'the longest shape seen'),
    ...roles,
    ...looks.lines,
    ...learnMaterials(materials, maps, base),
    ...learnMaterialTexts(looks.materials, base),
  ]
}

/** The maps that looks show, each once. */
function mapsOf(looks: SeenLooks): SeenMap[] {
  const maps = new Map<string, SeenMap>()
  for (const { of, material } of looks.materials)
    for (const [role, path] of Object.entries(material.maps)) {
      const bytes = of.pack.files.get(path)
      const facts = bytes && factsOf(path, bytes)
      if (facts) maps.set(path, { ...facts, path, role, bytes })
    }
  return [...maps.values()]
}

const LEAST_OF_A_ROLE = 2

/** Pictures that no look shows, by the ending of their names: those that several have are roles. */
function seenByName(packs: readonly SeenPack[], base: Rulebook): SeenMap[] {
  const found = packs.flatMap(({ pictures, files }) =>
    pictures.flatMap((path) => {
      const bytes = files.get(path)
      const facts = bytes && factsOf(path, bytes)
      const [, ending] = /([_.-][A-Za-z0-9]+)\.[^.]*$/.exec(path) ?? []
      return facts && ending ? [{ ...facts, path, bytes, ending }] : []
    }),
  )
  const known = (ending: string): string =>
    base.maps.roles.find((role) => role.ending === ending)?.role ?? ending.slice(1).toLowerCase()
  const counts = new Map<string, number>()
  for (const { ending } of found) counts.set(ending, (counts.get(ending) ?? 0) + 1)
  return found
    .filter(({ ending }) => (counts.get(ending) ?? 0) >= LEAST_OF_A_ROLE)
    .map(({ ending, ...map }) => ({ ...map, role: known(ending) }))
    .filter(({ role }) => /^[a-z]/.test(role))
}

/** What a map's header says; null for no picture of a game. */
function factsOf(path: string, bytes: Uint8Array): Omit<SeenMap, 'path' | 'role' | 'bytes'> | null {
  const blocks = ktx2.begins(bytes) ? ktx2AsDds(bytes) : bytes
  const writer = ktx2.begins(bytes) ? ('ktx2' as const) : ('dds' as const)
  if (blocks)
    try {
      const { codec, width, height, mipmaps, srgb } = readDdsHeader(blocks)
      return { writer, width, height, codec, levels: mipmaps, srgb, rows: null }
    } catch {
      // It is no DDS: told by what follows.
    }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const plain = { codec: 'none' as const, levels: 1, srgb: null }
  if (bytes.length > 24 && view.getUint32(0) === 0x89504e47)
    return { ...plain, writer: 'png', width: view.getUint32(16), height: view.getUint32(20), rows: null }
  if (!path.toLowerCase().endsWith('.tga') || bytes.length < 18) return null
  const rows = { topDown: (bytes[17] & 0x20) !== 0, packed: bytes[2] > 8 }
  return { ...plain, writer: 'tga', width: view.getUint16(12, true), height: view.getUint16(14, true), rows }
}

/** The longest ending that all names of a role have, from its mark on. */
function endingOf(maps: readonly SeenMap[]): string {
  const stems = maps.map(({ path }) => (path.split('/').pop() ?? '').replace(/\.[^.]*$/, ''))
  let common = stems[0] ?? ''
  for (const stem of stems) while (!stem.endsWith(common)) common = common.slice(1)
  const mark = common.search(/[_.-][A-Za-z0-9]*$/)
  return mark < 0 ? '' : common.slice(mark)
}

async function learnRoles(maps: readonly SeenMap[], base: Rulebook): Promise<LearnedLine[]> {
  const names = [...new Set(maps.map(({ role }) => role))]
  const made: MapRole[] = []
  const lines: LearnedLine[] = []
  for (const name of names) {
    const of = maps.filter(({ role }) => role === name)
    const known = base.maps.roles.find(({ role }) => role === name)
    const codecs = [...new Set(of.map(({ codec }) => codec))]
    const [preferred] = [...codecs].sort(
      (a, b) => of.filter(({ codec }) => codec === b).length - of.filter(({ codec }) => codec === a).length,
    )
    const isNormal = preferred === 'bc5' || (await looksLikeNormals(of[0]))
    const isColour = !isNormal && (of.some(({ srgb }) => srgb === true) || (made.length === 0 && !known))
    const guess: MapRole['channels'] = isNormal
      ? { r: 'normal-x', g: 'normal-y', b: preferred === 'bc5' ? null : 'normal-z', a: null }
      : isColour
        ? { r: 'red', g: 'green', b: 'blue', a: 'opacity' }
        : { r: 'occlusion', g: 'roughness', b: 'metalness', a: null }
    made.push({
      role: name,
      title: known?.title ?? name,
      ending: endingOf(of),
      // Plain pixels do not say it: then it is as in the game that is nearest.
      colourSpace: of.every(({ srgb }) => srgb === null) && known ? known.colourSpace : isColour ? 'srgb' : 'data',
      codecs,
      preferred,
      whenOpaque: null,
      channels: known?.channels ?? guess,
      normalY: isNormal ? (known?.normalY ?? 'up') : null,
    })
    lines.push({
      path: ['maps', 'roles', name],
      value: made.at(-1),
      files: of.length,
      sureness: known ? 'likely' : of.length > 2 ? 'likely' : 'guess',
      why:
        `${name} maps end in “${endingOf(of)}” and are ${codecs.join(', ')}; ` +
        `${known ? `channels as in ${base.title}` : 'what their channels mean is guessed'}`,
      against: [],
    })
  }
  return lines
}

const NORMAL_STEP = 997

/** Whether the pixels of a picture lie where those of a normal map do: half red, half green, much blue. */
async function looksLikeNormals({ bytes }: SeenMap): Promise<boolean> {
  try {
    const { pixels } = await decodeAnyImage(bytes, true)
    const sums = [0, 0, 0]
    let count = 0
    for (let pixel = 0; pixel < pixels.width * pixels.height; pixel += NORMAL_STEP) {
      for (let channel = 0; channel < 3; channel++) sums[channel] += pixels.data[pixel * 4 + channel]
      count++
    }
    const [red, green, blue] = sums.map((sum) => sum / count)
    return Math.abs(red - 128) < 24 && Math.abs(green - 128) < 24 && blue > 190
  } catch {
    return false
  }
}

/** How materials are called, what their names carry, and which maps each shading has. */
function learnMaterials(materials: readonly SeenMaterial[], maps: readonly SeenMap[], base: Rulebook): LearnedLine[] {
  if (materials.length === 0) return []
  const lines: LearnedLine[] = []
  const line = (path: string[], value: unknown, why: string, sureness: LearnedLine['sureness'] = 'likely'): void => {
    lines.push({ path: ['materials', ...path], value, files: materials.length, sureness, why, against: [] })
  }
  const names = [...new Set(materials.map(({ name }) => name))]
  const byPath = maps.find(({ path }) => names.includes(path.replace(/\.[^./]*$/, '')))
  const marks = marksIn(names)
  const written = names.map((name) => apart(name, marks))
  if (byPath)
    line(
      ['naming'],
      { form: 'path', ofRole: byPath.role, longest: Math.max(...names.map(({ length }) => length)) },
      `materials are called by the path of their ${byPath.role} map`,
      'sure',
    )
  else if (marks)
    line(['naming'], { form: 'marks', ...marks }, `“${marks.surfaceMark}” and “${marks.flagMark}” in materials’ names`)
  else line(['naming'], { form: 'plain' }, 'materials’ names carry nothing more')
  const surfaces = distinct([...written.map(({ surface }) => surface), ...materials.map(({ surface }) => surface)])
  if (surfaces.length > 0)
    line(
      ['surfaces'],
      surfaces.map(
        (name) =>
          base.materials.surfaces.find((known) => known.name === name) ?? {
            name,
            density: 1000,
            friction: 0.5,
            bounce: 0.1,
            hints: [],
          },
      ),
      `what materials are made of: ${surfaces.join(', ')}; how heavy and how slippery is not in the files`,
    )
  const flags = distinct([...written.flatMap((each) => each.flags), ...materials.flatMap((each) => each.flags)])
  if (flags.length > 0)
    line(
      ['flags'],
      flags.map(
        (name) => base.materials.flags.find((known) => known.name === name) ?? { name, meaning: name, means: null },
      ),
      `flags of materials: ${flags.join(', ')}; what they mean is not in the files`,
    )
  const shadings = distinct(materials.map(({ shading }) => shading))
  const roles = [...new Set(maps.map(({ role }) => role))]
  if (shadings.length > 0)
    line(
      ['shadingModels'],
      shadings.map((name) => {
        const of = materials.filter(({ shading }) => shading === name)
        const known = base.materials.shadingModels.find((each) => each.name === name)
        return {
          name,
          title: known?.title ?? name,
          flag: known?.flag ?? null,
          requires: roles.filter((role) => of.every(({ maps: shown }) => Object.hasOwn(shown, role))),
          forbids: roles.filter((role) => of.length > 2 && !of.some(({ maps: shown }) => Object.hasOwn(shown, role))),
        }
      }),
      `shadings: ${shadings.join(', ')}; what every one of a shading has is needed, what none has is forbidden`,
    )
  return lines
}

const distinct = (words: readonly (string | null)[]): string[] => [
  ...new Set(words.flatMap((word) => (word === null || word === '' ? [] : word))),
]

/** Marks behind which names say what they are made of and how they are drawn. */
function marksIn(names: readonly string[]): { surfaceMark: string; flagMark: string } | null {
  for (const surfaceMark of ['@', '#', '%', '$', '~', '+', '!']) {
    if (!names.every((name) => name.split(surfaceMark).length === 2)) continue
    const tags = names.map((name) => name.split(surfaceMark)[1])
    const flagMark = ['.', '+', '-', ',', ';', ':'].find((mark) => tags.some((tag) => tag.includes(mark)))
    return { surfaceMark, flagMark: flagMark ?? (surfaceMark === '.' ? '+' : '.') }
  }
  return null
}

function apart(
  name: string,
  marks: { surfaceMark: string; flagMark: string } | null,
): { surface: string | null; flags: string[] } {
  if (!marks) return { surface: null, flags: [] }
  const [surface, ...flags] = (name.split(marks.surfaceMark)[1] ?? '').split(marks.flagMark)
  return { surface: surface ?? null, flags }
}
