import type { Material, Mesh, Primitive } from '@gltf-transform/core'
import { srgbOfLinear } from '../../maths/srgb.ts'
import { accessorToFloats, primitiveIndices } from '../primitive-arrays.ts'
import { line, reals, record, text, whole, wholes, type FbxRecord } from './binary-tree.ts'

/**
 * The surfaces of a mesh that have triangles.
 * @example const isDrawn = drawnSurfaces(mesh).length > 0
 */
export const drawnSurfaces = (mesh: Mesh): Primitive[] =>
  mesh.listPrimitives().filter((primitive) => primitiveIndices(primitive).length > 0)

/**
 * The materials of a mesh, in the order in which its surfaces show them: slots of its geometry.
 * @example const slot = materialsOf(mesh).indexOf(material)
 */
export const materialsOf = (mesh: Mesh): Material[] => [
  ...new Set(drawnSurfaces(mesh).flatMap((primitive) => primitive.getMaterial() ?? [])),
]

interface Layer {
  attribute: string
  size: number
  record: (values: number[], indices: number[], number: number) => FbxRecord
}

const layer = (kind: string, number: number, ...children: FbxRecord[]): FbxRecord =>
  record(`LayerElement${kind}`, [whole(number)], line('Version', whole(101)), line('Name', text('')), ...children)

const byCorner = (reference: 'Direct' | 'IndexToDirect'): FbxRecord[] => [
  line('MappingInformationType', text('ByPolygonVertex')),
  line('ReferenceInformationType', text(reference)),
]

function layersOf(mesh: Mesh): Layer[] {
  const semantics = new Set(drawnSurfaces(mesh).flatMap((primitive) => primitive.listSemantics()))
  const of = (pattern: RegExp): string[] => [...semantics].filter((semantic) => pattern.test(semantic)).sort()
  return [
    ...of(/^NORMAL$/).map((attribute): Layer => ({
      attribute,
      size: 3,
      record: (values, indices, number) =>
        layer('Normal', number, ...byCorner('Direct'), line('Normals', reals(spread(values, indices, 3)))),
    })),
    ...of(/^TEXCOORD_\d+$/).map((attribute): Layer => ({
      attribute,
      size: 2,
      record: (values, indices, number) =>
        layer(
          'UV',
          number,
          ...byCorner('IndexToDirect'),
          line('UV', reals(values.map((value, at) => (at % 2 === 1 ? 1 - value : value)))),
          line('UVIndex', wholes(indices)),
        ),
    })),
    ...of(/^COLOR_0$/).map((attribute): Layer => ({
      attribute,
      size: 4,
      record: (values, indices, number) =>
        layer(
          'Color',
          number,
          ...byCorner('IndexToDirect'),
          line('Colors', reals(values.map((value, at) => (at % 4 === 3 ? value : srgbOfLinear(value))))),
          line('ColorIndex', wholes(indices)),
        ),
    })),
  ]
}

const spread = (values: readonly number[], indices: readonly number[], size: number): number[] =>
  indices.flatMap((index) => values.slice(index * size, index * size + size))

/** An attribute of all surfaces one behind the other; corners of those without it have zeros. */
function valuesOf(mesh: Mesh, attribute: string, size: number): number[] {
  return drawnSurfaces(mesh).flatMap((primitive) => {
    const accessor = primitive.getAttribute(attribute)
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    if (!accessor) return new Array<number>(corners * size).fill(0)
    const floats = accessorToFloats(accessor)
    const own = accessor.getElementSize()
    return Array.from({ length: corners * size }, (_, at) =>
      at % size < own ? floats[Math.floor(at / size) * own + (at % size)] : 1,
    )
  })
}

/**
 * What a geometry's record holds: places, triangles (the last index of each is turned over), a layer for normals, each
 * set of UVs and colours, and which slot of material each triangle has.
 *
 * @example record('Geometry', [long(id)], ...geometryRecords(mesh))
 */
export function geometryRecords(mesh: Mesh): FbxRecord[] {
  const surfaces = drawnSurfaces(mesh)
  const materials = materialsOf(mesh)
  const indices: number[] = []
  const slots: number[] = []
  let first = 0
  for (const primitive of surfaces) {
    const own = primitiveIndices(primitive)
    const material = primitive.getMaterial()
    for (const index of own) indices.push(index + first)
    for (let triangle = 0; triangle < own.length / 3; triangle++) slots.push(material ? materials.indexOf(material) : 0)
    first += primitive.getAttribute('POSITION')?.getCount() ?? 0
  }
  const layers = layersOf(mesh)
  const numbers = new Map<string, number>()
  const used: { type: string; number: number }[] = []
  const records = layers.map(({ attribute, size, record: make }) => {
    const kind = attribute.replace(/_\d+$/, '')
    const number = numbers.get(kind) ?? 0
    numbers.set(kind, number + 1)
    const made = make(valuesOf(mesh, attribute, size), indices, number)
    used.push({ type: made.name, number })
    return made
  })
  used.push({ type: 'LayerElementMaterial', number: 0 })
  const most = Math.max(...used.map(({ number }) => number))
  return [
    line('GeometryVersion', whole(124)),
    line('Vertices', reals(valuesOf(mesh, 'POSITION', 3))),
    line('PolygonVertexIndex', wholes(indices.map((index, corner) => (corner % 3 === 2 ? -1 - index : index)))),
    ...records,
    layer(
      'Material',
      0,
      line('MappingInformationType', text('ByPolygon')),
      line('ReferenceInformationType', text('IndexToDirect')),
      line('Materials', wholes(slots)),
    ),
    ...Array.from({ length: most + 1 }, (_, level) =>
      record(
        'Layer',
        [whole(level)],
        line('Version', whole(100)),
        ...used
          .filter(({ number }) => number === level)
          .map(({ type }) => record('LayerElement', [], line('Type', text(type)), line('TypedIndex', whole(level)))),
      ),
    ),
  ]
}
