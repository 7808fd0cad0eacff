import { packedChannel } from '../../game/map-roles.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { Material, Primitive } from '@gltf-transform/core'
import {
  glowFactor,
  isUnlit,
  placeOfMap,
  rolesOf,
  surfaceQuantities,
  type MapPlace,
  type MapRole,
  type Quantity,
} from '../../item/material-meaning.ts'
import { accessorToFloats, readPrimitive } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import {
  cornerNormals,
  listTexels,
  pictureDirections,
  toPicture,
  toSpace,
  unit,
  valueAt,
  type SurfaceTexels,
} from '../../geometry/uv/surface-texels.ts'
import { sampleWithEdges } from '../../pictures/sample.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { foldColour, foldGlow, tintPixel } from './folded-pixels.ts'
import { texturePixels } from './texture-pixels.ts'
import { placedUvs } from './unsettled.ts'

/** What a material shows: its maps with where they lie, and all that is multiplied with them (linear, 0 to 1). */
export interface MaterialPictures {
  maps: Partial<Record<MapRole, { pixels: Pixels; place: MapPlace }>>
  colour: readonly number[]
  opacity: 'opaque' | 'cut' | 'blended'
  threshold: number
  glow: readonly [number, number, number]
  relief: number
  roughness: Quantity
  metalness: Quantity
  occlusion: Quantity
  /** Where the game's own packed maps say occlusion, roughness, metalness and glow. */
  packed: readonly ReturnType<typeof packedChannel>[]
}

/**
 * Decodes all that a material shows.
 * @example const pictures = await picturesOf(material, rulebook)
 */
export async function picturesOf(material: Material, rulebook: Rulebook): Promise<MaterialPictures> {
  const maps: MaterialPictures['maps'] = {}
  for (const role of rolesOf(material)) {
    const texture = materialMap(material, role)
    if (texture) maps[role] = { pixels: await texturePixels(texture), place: placeOfMap(material, role) }
  }
  const mode = material.getAlphaMode()
  return {
    maps,
    colour: material.getBaseColorFactor(),
    opacity: mode === 'BLEND' ? 'blended' : mode === 'MASK' ? 'cut' : 'opaque',
    threshold: material.getAlphaCutoff(),
    glow: isUnlit(material) ? [0, 0, 0] : glowFactor(material),
    relief: material.getNormalScale(),
    ...surfaceQuantities(material),
    packed: (['occlusion', 'roughness', 'metalness', 'glow'] as const).map((meaning) =>
      packedChannel(material, meaning, rulebook),
    ),
  }
}

/** The pictures that are painted, RGBA, and which pixels were reached. */
export interface BakeCanvas {
  side: number
  colour: Uint8Array
  normal: Uint8Array
  /** What it says beside: red occlusion, green roughness, blue metalness, alpha glow. */
  shine: Uint8Array
  covered: Uint8Array
  /** Whether anything was painted that a flat normal map, or a rough surface without metal and glow, would not show. */
  differs: { normal: boolean; shine: boolean }
}

/**
 * Square pictures of so many pixels to bake onto: nothing is painted yet.
 * @example const canvas = newCanvas(1024)
 */
export const newCanvas = (side: number): BakeCanvas => ({
  side,
  colour: new Uint8Array(side * side * 4),
  normal: new Uint8Array(side * side * 4),
  shine: new Uint8Array(side * side * 4),
  covered: new Uint8Array(side * side),
  differs: { normal: false, shine: false },
})

/**
 * The name under which a set of UVs is kept while the first is made new.
 * @example surface.setAttribute(oldSet(0), uvs)
 */
export const oldSet = (set: number): string => `_OLD_UV_${set}`

/**
 * Paints one surface. Its new UVs are the first set; the ones its maps lie on are kept as old sets.
 * @example bakeSurface(surface, await picturesOf(material, rulebook), canvas)
 */
export function bakeSurface(surface: Primitive, from: MaterialPictures, canvas: BakeCanvas): void {
  const { positions, indices, uvs, normals: given } = readPrimitive(surface)
  if (!uvs) return
  const texels = listTexels({ uvs, indices }, canvas.side, canvas.side)
  const readers = new Map<MapRole, (number: number) => Float32Array>()
  for (const [role, map] of Object.entries(from.maps) as [MapRole, { pixels: Pixels; place: MapPlace }][]) {
    const old = placedUvs(surface, map.place, oldSet)
    if (old) readers.set(role, texelReader(map, old, texels, indices))
  }
  paintColour(surface, from, canvas, texels, indices, readers)
  paintShine(from, canvas, texels, readers)
  paintNormals(
    surface,
    from,
    canvas,
    texels,
    { positions, indices, uvs, normals: given ?? cornerNormals(positions, indices) },
    readers,
  )
  for (let number = 0; number < texels.count; number++) canvas.covered[texels.pixel[number]] = 1
}

type Readers = ReadonlyMap<MapRole, (number: number) => Float32Array>

/** Reads a map where a texel lies on it: red, green, blue, alpha, 0 to 255, in one array that is used again. */
function texelReader(
  { pixels, place }: { pixels: Pixels; place: MapPlace },
  uvs: Float32Array,
  texels: SurfaceTexels,
  indices: Uint32Array,
): (number: number) => Float32Array {
  const sample = new Float32Array(4)
  return (number) => {
    const [u, v] = valueAt(texels, number, indices, uvs, 2)
    sampleWithEdges(pixels, u, v, place.wrap, sample)
    return sample
  }
}

function paintColour(
  surface: Primitive,
  from: MaterialPictures,
  canvas: BakeCanvas,
  texels: SurfaceTexels,
  indices: Uint32Array,
  readers: Readers,
): void {
  const accessor = surface.getAttribute('COLOR_0')
  const corners = accessor ? { values: accessorToFloats(accessor), size: accessor.getElementSize() as 3 | 4 } : null
  const [colour, opacity] = [readers.get('colour'), readers.get('opacity')]
  const row = new Uint8Array(texels.count * 4)
  for (let number = 0; number < texels.count; number++) {
    const read = colour?.(number)
    for (let channel = 0; channel < 4; channel++) row[number * 4 + channel] = read ? Math.round(read[channel]) : 255
    if (opacity) row[number * 4 + 3] = Math.round(opacity(number)[0])
    if (!corners) continue
    // Corner colours are linear: they are multiplied in linear light, as the tint is.
    tintPixel(row, number * 4, cornerColourAt(corners, texels, number, indices))
  }
  const fold =
    from.opacity === 'opaque'
      ? ({ kind: 'opaque' } as const)
      : from.opacity === 'cut'
        ? ({ kind: 'cut', factor: from.colour[3], threshold: from.threshold } as const)
        : ({ kind: 'blended', factor: from.colour[3] } as const)
  let painted = foldColour(
    { width: texels.count, height: 1, data: row },
    from.colour,
    opacity && fold.kind === 'opaque' ? { kind: 'blended', factor: from.colour[3] } : fold,
  )
  const glowMap = readers.get('glow')
  let mask: Uint8Array | null = null
  if (Math.max(...from.glow) > 0 && texels.count > 0) {
    const emitted = new Uint8Array(texels.count * 4).fill(255)
    if (glowMap)
      for (let number = 0; number < texels.count; number++)
        emitted.set(Array.from(glowMap(number).subarray(0, 3), Math.round), number * 4)
    const glow = foldGlow(painted, { width: texels.count, height: 1, data: emitted }, from.glow)
    painted = glow.colour
    mask = glow.mask.data
    canvas.differs.shine = true
  }
  for (let number = 0; number < texels.count; number++) {
    canvas.colour.set(painted.data.subarray(number * 4, number * 4 + 4), texels.pixel[number] * 4)
    // A picture of glow alone, without a factor, is a mask as it is.
    canvas.shine[texels.pixel[number] * 4 + 3] = mask ? mask[number * 4] : glowMap ? Math.round(glowMap(number)[1]) : 0
  }
  if (glowMap) canvas.differs.shine = true
}

function cornerColourAt(
  { values, size }: { values: Float32Array; size: 3 | 4 },
  texels: SurfaceTexels,
  number: number,
  indices: Uint32Array,
): [number, number, number, number] {
  const colour: [number, number, number, number] = [0, 0, 0, size === 4 ? 0 : 1]
  const triangle = texels.triangle[number] * 3
  for (let channel = 0; channel < size; channel++)
    for (let corner = 0; corner < 3; corner++)
      colour[channel] += values[indices[triangle + corner] * size + channel] * texels.weights[number * 3 + corner]
  return colour
}

function paintShine(from: MaterialPictures, canvas: BakeCanvas, texels: SurfaceTexels, readers: Readers): void {
  const quantities = [from.occlusion, from.roughness, from.metalness]
  for (let number = 0; number < texels.count; number++) {
    const pixel = texels.pixel[number] * 4
    quantities.forEach(({ map, scale, base }, channel) => {
      const read = map ? readers.get(map.role)?.(number)[map.channel] : undefined
      const value = read === undefined ? base : ((map?.inverted ? 255 - read : read) / 255) * scale + base
      canvas.shine[pixel + channel] = Math.round(Math.min(1, Math.max(0, value)) * 255)
    })
    from.packed.forEach((packed, channel) => {
      const read = packed ? readers.get(packed.key)?.(number)[packed.channel] : undefined
      if (read !== undefined) canvas.shine[pixel + channel] = Math.round(packed?.inverted ? 255 - read : read)
    })
  }
  if (
    quantities.some(({ map }) => map !== null) ||
    from.packed.some((packed) => packed !== null) ||
    from.metalness.base > 0.02 ||
    from.roughness.base < 0.95
  )
    canvas.differs.shine = true
}

function paintNormals(
  surface: Primitive,
  from: MaterialPictures,
  canvas: BakeCanvas,
  texels: SurfaceTexels,
  {
    positions,
    indices,
    uvs,
    normals,
  }: { positions: Float32Array; indices: Uint32Array; uvs: Float32Array; normals: Float32Array },
  readers: Readers,
): void {
  const picture = readers.get('normal')
  const old = from.maps.normal ? placedUvs(surface, from.maps.normal.place, oldSet) : null
  const turned =
    picture && old
      ? { before: pictureDirections(positions, old, indices), after: pictureDirections(positions, uvs, indices) }
      : null
  for (let number = 0; number < texels.count; number++) {
    const pixel = texels.pixel[number] * 4
    let normal: readonly number[] = [0, 0, 1]
    if (picture && turned) {
      const read = picture(number)
      const outward = unit(valueAt(texels, number, indices, normals, 3))
      const inSpace = toSpace(
        unit([(read[0] / 127.5 - 1) * from.relief, (read[1] / 127.5 - 1) * from.relief, read[2] / 127.5 - 1]),
        turned.before,
        texels.triangle[number],
        outward,
      )
      normal = toPicture(inSpace, turned.after, texels.triangle[number], outward)
      canvas.differs.normal = true
    }
    for (let axis = 0; axis < 3; axis++) canvas.normal[pixel + axis] = Math.round((normal[axis] + 1) * 127.5)
    canvas.normal[pixel + 3] = 255
  }
}
