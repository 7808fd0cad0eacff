import { inMillions, limits } from '../support/limits.ts'
import { PlainError } from '../support/plain-error.ts'
import { formatCount } from '../support/wording.ts'

/** Numbers of each type of accessor (glTF 2.0, section 3.6.2.2). */
const numbersOf: ReadonlyMap<unknown, number> = new Map([
  ['SCALAR', 1],
  ['VEC2', 2],
  ['VEC3', 3],
  ['VEC4', 4],
  ['MAT2', 4],
  ['MAT3', 9],
  ['MAT4', 16],
])

const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : [])
const numberOf = (value: unknown): number => (typeof value === 'number' ? value : 0)
const recordOf = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {}

/**
 * Looks at a glTF's JSON before anything is made of it: what a few bytes can claim must not take memory or time beyond
 * the limits. It does not say whether the file is right.
 * @throws PlainError when it has too many nodes, too deep a tree, names that are none, numbers that are claimed and not there, or places
 * beyond all measure
 *
 * @example assertBoundedGltf(JSON.parse(text), 'gate.gltf')
 */
export function assertBoundedGltf(json: unknown, name: string): void {
  const gltf = recordOf(json)
  const nodes = listOf(gltf['nodes']).map(recordOf)
  if (nodes.length > limits.nodes)
    throw new PlainError(
      `it has ${formatCount(nodes.length)} nodes; up to ${formatCount(limits.nodes)} are read`,
      name,
      'Join parts where it was made.',
    )
  for (const list of ['materials', 'textures', 'images', 'samplers', 'skins', 'animations', 'scenes'])
    if (listOf(gltf[list]).length > limits.looks)
      throw new PlainError(
        `it has ${formatCount(listOf(gltf[list]).length)} ${list}; up to ${formatCount(limits.looks)} are read`,
        name,
        'Export it again without what nothing uses.',
      )
  for (const list of ['nodes', 'meshes', 'materials', 'textures', 'images', 'skins', 'animations', 'scenes'])
    for (const { name: called } of listOf(gltf[list]).map(recordOf))
      if (called !== undefined && typeof called !== 'string')
        throw new PlainError(`a name among its ${list} is no text`, name, 'Export it again.')
  for (const { nodes: named } of listOf(gltf['scenes']).map(recordOf)) assertNamedOnce(named, name)
  for (const { children } of nodes) assertNamedOnce(children, name)
  assertDepth(nodes, name)
  assertDrawn(gltf, nodes, name)
  for (const node of nodes)
    for (const key of ['translation', 'rotation', 'scale', 'matrix'])
      for (const value of listOf(node[key]))
        if (typeof value === 'number' && Math.abs(value) > limits.nodeFactor)
          throw new PlainError(
            `a node is moved or scaled by ${value.toPrecision(3)}; up to ${limits.nodeFactor.toExponential()} is read`,
            name,
            'Export it again in sensible units.',
          )
  let claimed = 0
  for (const accessor of listOf(gltf['accessors']).map(recordOf)) {
    const count = numberOf(accessor['count'])
    const held = accessor['bufferView'] !== undefined || recordOf(accessor['extensions'])['EXT_meshopt_compression']
    if (!held) claimed += count * (numbersOf.get(accessor['type']) ?? 1)
  }
  // Compressed meshes hold their numbers elsewhere: how many come out is known when they are unpacked.
  const isPacked = listOf(gltf['extensionsUsed']).includes('KHR_draco_mesh_compression')
  if (claimed > limits.claimedNumbers * (isPacked ? 20 : 1))
    throw new PlainError(
      `it claims ${formatCount(claimed)} numbers that it does not hold`,
      name,
      'Copy it again, or export it again.',
    )
}

/** @throws PlainError when a list of nodes names one twice: building a tree of it takes a time that grows with the square */
function assertNamedOnce(list: unknown, name: string): void {
  const named = listOf(list)
  if (new Set(named).size < named.length)
    throw new PlainError('a scene or a node names one of its nodes twice', name, 'Export it again.')
}

/** Every copy of a mesh counts: a node for each, or a list of places on one node (EXT_mesh_gpu_instancing). */
function assertDrawn(
  gltf: Readonly<Record<string, unknown>>,
  nodes: readonly Readonly<Record<string, unknown>>[],
  name: string,
): void {
  const counts = listOf(gltf['accessors']).map((accessor) => numberOf(recordOf(accessor)['count']))
  const countOf = (accessor: unknown): number => (typeof accessor === 'number' ? (counts[accessor] ?? 0) : 0)
  const meshes = listOf(gltf['meshes']).map((mesh) =>
    listOf(recordOf(mesh)['primitives'])
      .map(recordOf)
      .reduce((sum, { indices, attributes }) => sum + countOf(indices ?? recordOf(attributes)['POSITION']) / 3, 0),
  )
  let drawn = 0
  for (const node of nodes) {
    const places = recordOf(recordOf(recordOf(node['extensions'])['EXT_mesh_gpu_instancing'])['attributes'])
    const copies = Math.max(1, ...Object.values(places).map(countOf))
    if (typeof node['mesh'] === 'number') drawn += (meshes[node['mesh']] ?? 0) * copies
  }
  if (drawn > limits.triangles)
    throw new PlainError(
      `it draws ${formatCount(drawn)} triangles, each copy counted; up to ${inMillions(limits.triangles)} are read`,
      name,
      'Lower its density, or bring it in pieces.',
    )
}

/** Walks the tree level by level; a node that is met twice is left to the check that says what is wrong with it. */
function assertDepth(nodes: readonly Readonly<Record<string, unknown>>[], name: string): void {
  const children = nodes.map((node) => listOf(node['children']).filter((child) => typeof child === 'number'))
  const below = new Set(children.flat())
  let level = nodes.map((_, number) => number).filter((number) => !below.has(number))
  const met = new Set(level)
  for (let depth = 1; level.length > 0; depth++) {
    if (depth > limits.nodeDepth)
      throw new PlainError(
        `its nodes hang one below the other more than ${formatCount(limits.nodeDepth)} deep`,
        name,
        'Flatten its hierarchy where it was made.',
      )
    level = level.flatMap((number) => children[number] ?? []).filter((child) => !met.has(child))
    for (const child of level) met.add(child)
  }
}
