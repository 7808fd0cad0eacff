import type { TextureRole } from '../../item/extras.ts'
import { placeRising, type SourceMap } from '../scene/source-scene.ts'
import { sourceText, type SourceFile } from '../source-file.ts'

/** A material of an MTL file: what of it a game can use. */
export interface MtlMaterial {
  name: string
  /** sRGB as written, 0 to 1. */
  colour: [number, number, number]
  opacity: number
  /** Specular exponent, 0 to 1000. */
  shininess: number
  /** Where the file has the two of the physically based extension. */
  roughness?: number
  metalness?: number
  maps: Pick<SourceMap, 'role' | 'path' | 'offset' | 'scale' | 'wrap'>[]
  /** Whether the file says a colour. */
  tinted?: boolean
  /** Light it gives off, sRGB as written. */
  emissive?: [number, number, number]
}

const mapRoles: Record<string, TextureRole> = {
  map_kd: 'colour',
  map_bump: 'normal',
  bump: 'normal',
  norm: 'normal',
  map_kn: 'normal',
  map_ks: 'specular',
  map_ns: 'other',
  map_d: 'opacity',
  map_ka: 'other',
  map_ke: 'glow',
  map_pr: 'roughness',
  map_pm: 'metalness',
  disp: 'height',
}

/** How many words follow each option of a map line (MTL specification, texture options). */
const optionWords: Record<string, number> = {
  '-blendu': 1,
  '-blendv': 1,
  '-bm': 1,
  '-boost': 1,
  '-cc': 1,
  '-clamp': 1,
  '-imfchan': 1,
  '-mm': 2,
  '-texres': 1,
  '-type': 1,
}
const vectorOptions = new Set(['-o', '-s', '-t'])

/** The path of a map line: what is left after the options, spaces kept. */
export function mapPath(rest: string): string {
  let left = rest.trim()
  for (let guard = 0; guard < 16 && left.startsWith('-'); guard++) {
    const option = /^(-\w+)\s*/.exec(left)
    if (!option) break
    const name = option[1].toLowerCase()
    if (optionWords[name] === undefined && !vectorOptions.has(name)) break
    left = left.slice(option[0].length)
    const words = vectorOptions.has(name) ? 3 : optionWords[name]
    for (let word = 0; word < words; word++) {
      const value = vectorOptions.has(name) ? /^-?[\d.]+(?:e-?\d+)?\s+/i.exec(left) : /^\S+\s+/.exec(left)
      if (!value) break
      left = left.slice(value[0].length)
    }
  }
  return left.replace(/^"(.*)"$/, '$1')
}

/**
 * Where a map line's options put its picture: `-s` scales and `-o` moves the UVs, `-clamp on` ends it at its edges. In
 * the file V rises.
 */
function mapPlace(rest: string): Pick<SourceMap, 'offset' | 'scale' | 'wrap'> {
  const numbers = (option: string): number[] | null => {
    const words = new RegExp(`(?:^|\\s)-${option}\\s+((?:-?[\\d.]+(?:e-?\\d+)?\\s+){1,3})`, 'i').exec(`${rest} `)?.[1]
    const values = words?.trim().split(/\s+/).map(Number)
    return values?.every(Number.isFinite) ? values : null
  }
  const [scales, moves] = [numbers('s'), numbers('o')]
  const wrap = /(?:^|\s)-clamp\s+on\s/i.test(rest) ? { wrap: 'clamp' as const } : {}
  if (!scales && !moves) return wrap
  return { ...wrap, ...placeRising([scales?.[0] ?? 1, scales?.[1] ?? 1], [moves?.[0] ?? 0, moves?.[1] ?? 0]) }
}

const numberOr = (text: string | undefined, fallback: number): number => {
  const value = Number(text)
  return text !== undefined && Number.isFinite(value) ? value : fallback
}

/**
 * Reads an MTL file; lines it does not know are passed over, as the format asks.
 * @example const oak = parseMtl(file).get('oak')
 */
export function parseMtl(file: SourceFile): Map<string, MtlMaterial> {
  const materials = new Map<string, MtlMaterial>()
  let current: MtlMaterial | null = null
  for (const line of sourceText(file).split(/\r\n|\n|\r/)) {
    const match = /^\s*(\S+)\s+(.*?)\s*$/.exec(line)
    if (!match || match[1].startsWith('#')) continue
    const [, keyword, rest] = match
    const word = keyword.toLowerCase()
    if (word === 'newmtl') {
      current = { name: rest, colour: [0.8, 0.8, 0.8], opacity: 1, shininess: 10, maps: [] }
      materials.set(rest, current)
    } else if (current && mapRoles[word]) {
      const path = mapPath(rest)
      if (path && current.maps.length < 64) current.maps.push({ role: mapRoles[word], path, ...mapPlace(rest) })
    } else if (current && word === 'ke') {
      const [red, green, blue] = rest.split(/\s+/)
      current.emissive = [numberOr(red, 0), numberOr(green, numberOr(red, 0)), numberOr(blue, numberOr(red, 0))]
    } else if (current && word === 'kd') {
      current.tinted = true
      const [red, green, blue] = rest.split(/\s+/)
      current.colour = [numberOr(red, 0.8), numberOr(green, numberOr(red, 0.8)), numberOr(blue, numberOr(red, 0.8))]
    } else if (current && word === 'd') current.opacity = numberOr(rest.split(/\s+/).pop(), 1)
    else if (current && word === 'tr') current.opacity = 1 - numberOr(rest, 0)
    else if (current && word === 'ns') current.shininess = numberOr(rest, 10)
    else if (current && word === 'pr') current.roughness = numberOr(rest, 0.9)
    else if (current && word === 'pm') current.metalness = numberOr(rest, 0)
  }
  return materials
}
