import type { Document, Material } from '@gltf-transform/core'
import { srgbOfLinear } from '../maths/srgb.ts'
import { determinantOf, transformedNormals, transformedPoints } from '../maths/matrices.ts'
import { PicturesBeside, type PictureFile } from './export-pictures.ts'
import { glowFactor, placeOfMap, type MapRole } from './material-meaning.ts'
import { listViewParts, restMatrix } from './parts.ts'
import { accessorToFloats, readPrimitive } from './primitive-arrays.ts'
import { listMaterialMaps, materialMap } from './source-maps.ts'

export interface ObjExport {
  obj: string
  mtl: string
  /** Pictures that the material file names. */
  pictures: PictureFile[]
  /** What the format cannot hold and the item has, in sentences. */
  leftOut: string[]
}

const shown = (value: number): string => String(Number(value.toFixed(6)))

/**
 * The item's parts as Wavefront OBJ and MTL (version 3.0): places and normals in the scene, wound as they are drawn,
 * UVs with V upward, materials with their pictures.
 * @param stem name of the files without ending
 *
 * @example const { obj, mtl } = exportObj(document, 'gate')
 */
export function exportObj(document: Document, stem: string): ObjExport {
  const lines = ['# written by Gentle Crate', `mtllib ${stem}.mtl`]
  const base = { point: 1, uv: 1, normal: 1 }
  const names = namesOf(document.getRoot().listMaterials())
  for (const part of listViewParts(document)) {
    lines.push(`o ${part.name.replace(/\s+/g, '_')}`)
    const matrix = restMatrix(part.node)
    const mirrored = determinantOf(matrix) < 0
    for (const primitive of part.mesh.listPrimitives()) {
      const { positions, indices, normals } = readPrimitive(primitive)
      const material = primitive.getMaterial()
      const place = material ? placeOfMap(material, 'colour') : null
      const accessor = primitive.getAttribute(`TEXCOORD_${place?.set ?? 0}`)
      const uvs = accessor ? accessorToFloats(accessor) : null
      push(lines, 'v', transformedPoints(positions, matrix), 3)
      if (uvs)
        push(
          lines,
          'vt',
          uvs.map((value, at) => (at % 2 === 1 ? 1 - value : value)),
          2,
        )
      if (normals) push(lines, 'vn', transformedNormals(normals, matrix), 3)
      if (material) lines.push(`usemtl ${names.get(material)}`)
      const corner = (index: number): string =>
        `${index + base.point}${uvs || normals ? `/${uvs ? index + base.uv : ''}` : ''}${normals ? `/${index + base.normal}` : ''}`
      for (let at = 0; at < indices.length; at += 3)
        lines.push(`f ${(mirrored ? [0, 2, 1] : [0, 1, 2]).map((each) => corner(indices[at + each])).join(' ')}`)
      base.point += positions.length / 3
      if (uvs) base.uv += uvs.length / 2
      if (normals) base.normal += normals.length / 3
    }
  }
  return { obj: `${lines.join('\n')}\n`, ...materialFile(document, names, stem) }
}

function push(lines: string[], word: string, values: Float32Array, size: number): void {
  for (let at = 0; at < values.length; at += size)
    lines.push(`${word} ${Array.from(values.subarray(at, at + size), shown).join(' ')}`)
}

/** Names without spaces, each once. */
function namesOf(materials: readonly Material[]): Map<Material, string> {
  const taken = new Set<string>()
  return new Map(
    materials.map((material) => {
      const wanted = material.getName().replace(/\s+/g, '_') || 'material'
      let name = wanted
      for (let number = 2; taken.has(name); number++) name = `${wanted}_${number}`
      taken.add(name)
      return [material, name]
    }),
  )
}

/** Words of MTL and of its physically based extension for what maps say. Packed channels have no word. */
const mapWords: Partial<Record<MapRole, string>> = {
  colour: 'map_Kd',
  normal: 'norm',
  roughness: 'map_Pr',
  metalness: 'map_Pm',
  glow: 'map_Ke',
  opacity: 'map_d',
  height: 'disp',
  specular: 'map_Ks',
}

function materialFile(document: Document, names: ReadonlyMap<Material, string>, stem: string): Omit<ObjExport, 'obj'> {
  const lines = ['# written by Gentle Crate']
  const pictures = new PicturesBeside(stem)
  const leftOut = new Set(whatIsLeftOut(document))
  for (const [material, name] of names) {
    const [red, green, blue, opacity] = material.getBaseColorFactor()
    const glow = glowFactor(material)
    lines.push(
      `newmtl ${name}`,
      `Kd ${[red, green, blue].map(srgbOfLinear).map(shown).join(' ')}`,
      `Pr ${shown(material.getRoughnessFactor())}`,
      `Pm ${shown(material.getMetallicFactor())}`,
    )
    if (material.getAlphaMode() === 'BLEND') lines.push(`d ${shown(opacity)}`)
    if (Math.max(...glow) > 0)
      lines.push(`Ke ${glow.map((value) => shown(srgbOfLinear(Math.min(1, value)))).join(' ')}`)
    for (const { role } of listMaterialMaps(material)) {
      const texture = materialMap(material, role)
      const word = mapWords[role]
      if (texture && word) lines.push(`${word} ${placeOptions(material, role, leftOut)}${pictures.nameOf(texture)}`)
      else if (texture) leftOut.add(`${name}: its ${role} map has no place in MTL; only its factors are written.`)
    }
    if (material.getAlphaMode() === 'MASK')
      leftOut.add(
        `${name}: its cut at ${Math.round(material.getAlphaCutoff() * 100)} % has no word in MTL; the picture ` +
          'keeps its opacity.',
      )
  }
  return { mtl: `${lines.join('\n')}\n`, pictures: pictures.list(), leftOut: [...leftOut] }
}

/** Scale and offset of a moved picture; from below, v' = d·v + (1 − d − f). */
function placeOptions(material: Material, role: MapRole, leftOut: Set<string>): string {
  const {
    transform: [a, b, c, d, e, f],
    wrap,
    set,
  } = placeOfMap(material, role)
  if (Math.abs(b) > 1e-6 || Math.abs(c) > 1e-6)
    leftOut.add(`${material.getName()}: its ${role} map is turned, which MTL cannot say.`)
  if (set !== placeOfMap(material, 'colour').set)
    leftOut.add(`${material.getName()}: its ${role} map lies on a second set of UVs; OBJ has one.`)
  const still = Math.abs(a - 1) < 1e-6 && Math.abs(d - 1) < 1e-6 && Math.abs(e) < 1e-6 && Math.abs(f) < 1e-6
  const moved = still ? '' : `-s ${shown(a)} ${shown(d)} 1 -o ${shown(e)} ${shown(1 - d - f)} 0 `
  return `${wrap.includes('clamp') ? '-clamp on ' : ''}${moved}`
}

function* whatIsLeftOut(document: Document): Generator<string> {
  const root = document.getRoot()
  const parts = listViewParts(document)
  const clips = root.listAnimations().length
  if (clips > 0) yield `OBJ holds no motion: ${clips} ${clips === 1 ? 'clip is' : 'clips are'} left out.`
  if (root.listSkins().length > 0) yield 'OBJ holds no bones: what they hold is written at rest.'
  if (root.listNodes().some((node) => node.getExtension('KHR_lights_punctual') ?? node.getCamera()))
    yield 'OBJ holds no lamps and cameras: they are left out.'
  if (parts.some((part) => part.mesh.listPrimitives().some((primitive) => primitive.getAttribute('COLOR_0'))))
    yield 'OBJ has no colours of corners: they are left out.'
}
