import type { Material, Mesh, Primitive } from '@gltf-transform/core'
import { srgbOfLinear } from '../../maths/srgb.ts'
import { accessorToFloats, primitiveIndices } from '../primitive-arrays.ts'
import { numberSource } from './sources.ts'
import { element, numbersText, type Element, type Ids } from './xml-text.ts'

/**
 * The symbol under which triangles ask for a material, which each use of the geometry binds.
 * @example const symbol = symbolOf(ids, material)
 */
export const symbolOf = (ids: Ids, material: Material): string => `${ids.for(material, material.getName())}-symbol`

/** What corners of a primitive have, and how the format calls it. */
interface Layer {
  semantic: string
  set: number | null
  names: readonly string[]
  values: (primitive: Primitive) => Float32Array
}

function layersOf(primitive: Primitive): (Layer & { attribute: string })[] {
  return primitive.listSemantics().flatMap((attribute): (Layer & { attribute: string })[] => {
    const [, kind, number] = /^(NORMAL|TEXCOORD|COLOR)(?:_(\d+))?$/.exec(attribute) ?? []
    const set = number === undefined ? null : Number(number)
    const floats = (of: Primitive): Float32Array => {
      const accessor = of.getAttribute(attribute)
      return accessor ? accessorToFloats(accessor) : new Float32Array(0)
    }
    if (kind === 'NORMAL') return [{ attribute, semantic: 'NORMAL', set, names: ['X', 'Y', 'Z'], values: floats }]
    if (kind === 'TEXCOORD')
      return [
        {
          attribute,
          semantic: 'TEXCOORD',
          set,
          names: ['S', 'T'],
          values: (of) => floats(of).map((value, at) => (at % 2 === 1 ? 1 - value : value)),
        },
      ]
    if (kind !== 'COLOR') return []
    const size = primitive.getAttribute(attribute)?.getElementSize() ?? 4
    return [
      {
        attribute,
        semantic: 'COLOR',
        set,
        names: ['R', 'G', 'B', 'A'].slice(0, size),
        values: (of) => floats(of).map((value, at) => (size === 4 && at % 4 === 3 ? value : srgbOfLinear(value))),
      },
    ]
  })
}

/**
 * A mesh as a geometry: all surfaces share the places of corners, and each has normals, UVs (V upward) and colours of
 * its own. Triangles alone.
 *
 * @example library.push(geometryOf(mesh, ids, part.name))
 */
export function geometryOf(mesh: Mesh, ids: Ids, name: string): Element {
  const id = ids.for(mesh, `${name}-mesh`)
  const surfaces = mesh.listPrimitives().filter((primitive) => primitiveIndices(primitive).length > 0)
  const places: number[] = []
  const sources: Element[] = []
  const triangles = surfaces.map((primitive, number) => {
    const first = places.length / 3
    const position = primitive.getAttribute('POSITION')
    for (const value of position ? accessorToFloats(position) : []) places.push(value)
    const layers = layersOf(primitive)
    for (const { attribute, names, values } of layers)
      sources.push(numberSource(`${id}-${number}-${attribute}`, names, values(primitive)))
    const own = primitiveIndices(primitive)
    const material = primitive.getMaterial()
    // Places are counted through the whole geometry, everything else in the surface: two indices a corner.
    const indices = new Uint32Array(own.length * 2)
    own.forEach((index, corner) => indices.set([index + first, index], corner * 2))
    return element(
      'triangles',
      { count: own.length / 3, ...(material ? { material: symbolOf(ids, material) } : {}) },
      element('input', { semantic: 'VERTEX', source: `#${id}-vertices`, offset: 0 }),
      ...layers.map(({ semantic, attribute, set }) =>
        element('input', {
          semantic,
          source: `#${id}-${number}-${attribute}`,
          offset: 1,
          ...(set === null ? {} : { set }),
        }),
      ),
      element('p', {}, layers.length > 0 ? numbersText(indices) : numbersText(own.map((index) => index + first))),
    )
  })
  return element(
    'geometry',
    { id, name },
    element(
      'mesh',
      {},
      numberSource(`${id}-places`, ['X', 'Y', 'Z'], places),
      ...sources,
      element(
        'vertices',
        { id: `${id}-vertices` },
        element('input', { semantic: 'POSITION', source: `#${id}-places` }),
      ),
      ...triangles,
    ),
  )
}
