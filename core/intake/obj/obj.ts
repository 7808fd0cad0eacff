import { identityMatrix } from '../../maths/axes.ts'
import type { MeshReader } from '../reader.ts'
import { buildDocument } from '../scene/build-document.ts'
import {
  emissiveOf,
  linearOf,
  roughnessOfExponent,
  sourceNode,
  type SourceFaces,
  type SourceMaterial,
} from '../scene/source-scene.ts'
import { fileEnding, fileStem, type SourceFile } from '../source-file.ts'
import { findTexture } from '../texture-search.ts'
import { parseMtl, type MtlMaterial } from './mtl.ts'
import { parseObj, type ObjFile, type ObjGroup } from './obj-parse.ts'

/**
 * Reads OBJ with its MTL and the textures it asks for. Neither unit nor axes are declared by the format.
 * @example const { document } = await readObj(main, files, {})
 */
export const readObj: MeshReader = async (main, files, options) => {
  const obj = parseObj(main, (fraction) => options.onProgress?.(fraction * 0.7, 'Reading faces'))
  const used = new Set<string>([main.path])
  const library = readLibraries(obj.libraries, files, used)
  const materials: SourceMaterial[] = []
  const placeOf = new Map<string, number>()
  const materialOf = (name: string | null): number | null => {
    if (name === null) return null
    if (!placeOf.has(name)) placeOf.set(name, materials.push(sourceMaterial(name, library.get(name))) - 1)
    return placeOf.get(name) ?? null
  }
  const roots = obj.objects.map((object) => {
    const node = sourceNode(object.name, identityMatrix())
    node.mesh = {
      name: object.name,
      points: obj.points,
      faces: [...object.groups.values()].map((group) => facesOf(obj, group, materialOf(group.material))),
    }
    return node
  })
  for (const name of library.keys()) materialOf(name)
  return buildDocument(
    {
      name: fileStem(main.path),
      roots,
      materials,
      clips: [],
      units: { metresPerUnit: null, from: 'unknown' },
      axes: { up: '+y', forward: '+z', from: 'customary' },
    },
    main,
    files,
    { ...options, onProgress: (fraction, doing) => options.onProgress?.(0.7 + fraction * 0.3, doing) },
    used,
  )
}

function readLibraries(names: string[], files: readonly SourceFile[], used: Set<string>): Map<string, MtlMaterial> {
  const libraries = files.filter((file) => fileEnding(file.path) === 'mtl')
  const wanted = names.map((name) => findTexture(name, libraries)).filter((file) => file !== null)
  const chosen = wanted.length > 0 || libraries.length !== 1 ? wanted : libraries
  const materials = new Map<string, MtlMaterial>()
  for (const file of chosen) {
    used.add(file.path)
    for (const [name, material] of parseMtl(file)) materials.set(name, material)
  }
  return materials
}

function sourceMaterial(name: string, mtl: MtlMaterial | undefined): SourceMaterial {
  if (!mtl) return { name, colour: [1, 1, 1, 1], metalness: 0, roughness: 0.9, maps: [] }
  const [red, green, blue] = mtl.colour.map(linearOf)
  return {
    name,
    colour: [red, green, blue, Math.min(1, Math.max(0, mtl.opacity))],
    tintsMap: mtl.tinted === true,
    emissive: emissiveOf(mtl.emissive?.map(linearOf), mtl.maps),
    metalness: mtl.metalness ?? 0,
    roughness: mtl.roughness ?? roughnessOfExponent(mtl.shininess),
    physical: mtl.roughness !== undefined || mtl.metalness !== undefined,
    maps: mtl.maps,
  }
}

function facesOf(obj: ObjFile, group: ObjGroup, material: number | null): SourceFaces {
  const corners = group.corners.view()
  const uvs = group.uvs.view()
  for (let at = 1; at < uvs.length; at += 2) uvs[at] = 1 - uvs[at]
  const normals = group.normals.length > 0 ? group.normals.view() : null
  return {
    material,
    polygonSizes: group.polygonSizes.view(),
    corners,
    normals,
    uvs: uvs.length > 0 ? [uvs] : [],
    colours: obj.pointColours && coloursOf(obj.pointColours, corners),
    smoothing: obj.hasSmoothing ? group.smoothing.view() : null,
  }
}

function coloursOf(pointColours: Float32Array, corners: Uint32Array): Float32Array {
  const colours = new Float32Array(corners.length * 4)
  for (let corner = 0; corner < corners.length; corner++) {
    for (let channel = 0; channel < 3; channel++)
      colours[corner * 4 + channel] = linearOf(pointColours[corners[corner] * 3 + channel])
    colours[corner * 4 + 3] = 1
  }
  return colours
}
