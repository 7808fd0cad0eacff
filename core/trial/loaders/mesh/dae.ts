import { z } from 'zod'
import { apart, multiply, turnsOrScales } from '../../matrices.ts'
import { markMoving, type LoadedChannel, type LoadedMesh, type LoadedNode, type MeshLoader } from './loaded-mesh.ts'
import { checkTimes } from './read-clips.ts'
import { heldBy, readSkin, type DaeSkin } from './dae-skin.ts'
import type { LoadedPrimitive } from './read-primitive.ts'
import { every, numbersIn, readXml, within, type XmlNode } from './xml-tree.ts'

const besideSchema = z.object({ said: z.record(z.string(), z.record(z.string(), z.unknown())).optional() })

/** The words by which the format declares which way is up. */
const ups: Record<string, string> = { '+x': 'X_UP', '+y': 'Y_UP', '+z': 'Z_UP' }

/**
 * COLLADA 1.4.1: triangles on nodes that a matrix places, and clips of such matrices. The unit and the up that it
 * declares have to be the game's own.
 *
 * @example const { nodes, clips } = loadDae({ ...files, rulebook })
 */
export const loadDae: MeshLoader = ({ bytes, beside, rulebook: { space } }) => {
  const parsed = besideSchema.safeParse(beside ?? {})
  if (!parsed.success) throw new Error('its entry says of nodes what is not read')
  const root = readXml(bytes)
  if (root.name !== 'COLLADA') throw new Error('it is XML, and no COLLADA')
  const metres = Number(within(root, 'asset', 'unit')?.attributes['meter'] ?? '1')
  if (Math.abs(metres / space.unit.metres - 1) > 1e-6) throw new Error(`its unit is ${metres} m`)
  const up = within(root, 'asset', 'up_axis')?.text.trim() ?? 'Y_UP'
  if (up !== ups[space.up]) throw new Error(`it declares ${up}`)
  const file = new DaeFile(root, parsed.data.said ?? {})
  return file.load()
}

class DaeFile {
  private readonly byId = new Map<string, XmlNode>()
  private readonly nodes: LoadedNode[] = []
  private readonly nodeById = new Map<string, LoadedNode>()
  private readonly shapes = new Map<string, LoadedPrimitive[]>()
  /** Which place of its geometry each corner of a surface is. */
  private readonly placesOf = new Map<Float32Array, number[]>()
  private readonly bonesBySid = new Map<string, LoadedNode>()
  private readonly skins = new Map<LoadedNode, DaeSkin>()
  private placesNumber = 0

  constructor(
    private readonly root: XmlNode,
    private readonly said: Record<string, Record<string, unknown>>,
  ) {
    const waiting = [root]
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { id } = next.attributes
      if (id !== undefined) {
        if (this.byId.has(id)) throw new Error(`two things called ${id.slice(0, 60)}`)
        this.byId.set(id, next)
      }
      waiting.push(...next.children)
    }
  }

  load(): LoadedMesh {
    const scene = this.find(within(this.root, 'scene', 'instance_visual_scene')?.attributes['url'])
    if (!scene) throw new Error('its scene is not there')
    const waiting = every(scene, 'node')
      .reverse()
      .map((node): [XmlNode, LoadedNode | null] => [node, null])
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const loaded = this.nodeOf(...next)
      for (const child of every(next[0], 'node').reverse()) waiting.push([child, loaded])
    }
    const clips = this.clips()
    for (const [node, skin] of this.skins) this.hang(node, skin)
    markMoving(this.nodes, [
      ...clips.flatMap(({ channels }) => channels.map(({ node }) => node)),
      ...this.nodes.flatMap(({ skeleton }) => skeleton.map(({ bone }) => bone)),
    ])
    const images = every(within(this.root, 'library_images'), 'image').length
    return { nodes: this.nodes, images, clips }
  }

  private find(url: string | undefined): XmlNode | undefined {
    return url === undefined ? undefined : this.byId.get(url.replace(/^#/, ''))
  }

  private nodeOf(element: XmlNode, parent: LoadedNode | null): LoadedNode {
    const { id, sid, name = '' } = element.attributes
    const places = element.children.filter((child) => /^(matrix|translate|rotate|scale|lookat|skew)$/.test(child.name))
    if (places.some((place) => place.name !== 'matrix') || places.length > 1)
      throw new Error(`${name} is placed by more than a matrix`)
    const local = places.length === 1 ? columnsOf(numbersIn(places[0])) : columnsOf(STILL)
    const shown = element.children.filter((child) => child.name.startsWith('instance_'))
    const strange = shown.find((child) => !/^instance_(geometry|controller)$/.test(child.name))
    if (strange) throw new Error(`${name} holds an ${strange.name.replace('_', ' ')}, which is not read`)
    const node: LoadedNode = {
      name,
      world: parent ? multiply(parent.world, local) : local,
      translation: local.slice(12, 15),
      turned: turnsOrScales(local),
      primitives: [],
      parent,
      // An item's root often has the name of its only part.
      extras: parent && Object.hasOwn(this.said, name) ? this.said[name] : {},
      extensions: [],
      bones: [],
      skeleton: [],
      light: null,
      moves: false,
    }
    for (const instance of shown) {
      const skin = instance.name === 'instance_controller' ? this.skinOf(instance) : null
      if (skin) this.skins.set(node, skin)
      node.primitives.push(...this.shapeOf(instance, skin))
    }
    this.nodes.push(node)
    if (sid !== undefined && !this.bonesBySid.has(sid)) this.bonesBySid.set(sid, node)
    if (id !== undefined) this.nodeById.set(id, node)
    return node
  }

  private skinOf(instance: XmlNode): DaeSkin {
    const skin = within(this.find(instance.attributes['url']), 'skin')
    if (!skin) throw new Error('bones that are not there')
    return readSkin(skin, (url) => this.find(url), columnsOf)
  }

  /** What bones hold stands where they hold it. */
  private hang(node: LoadedNode, { bones, binds }: DaeSkin): void {
    node.skeleton = bones.map((name, at) => {
      const bone = this.bonesBySid.get(name)
      if (!bone) throw new Error(`a bone ${name.slice(0, 60)} that is not there`)
      return { bone, bind: binds[at] }
    })
    node.bones = node.skeleton.map(({ bone }) => bone.name)
    const [first] = node.skeleton
    if (first) node.world = multiply(first.bone.world, first.bind)
  }

  /** The triangles of a geometry, with the materials that this use of it binds, and what holds their corners. */
  private shapeOf(instance: XmlNode, skin: DaeSkin | null): LoadedPrimitive[] {
    const geometry = this.find(skin?.source ?? instance.attributes['url'])
    const mesh = within(geometry, 'mesh')
    if (!mesh) throw new Error('a geometry that is not there')
    const bound = new Map(
      every(within(instance, 'bind_material', 'technique_common'), 'instance_material').map(({ attributes }) => [
        attributes['symbol'] ?? '',
        this.find(attributes['target'])?.attributes['name'],
      ]),
    )
    const key = geometry?.attributes['id'] ?? ''
    const known = this.shapes.get(key) ?? this.trianglesOf(mesh)
    this.shapes.set(key, known)
    return known.map((plain) => {
      const primitive = skin ? heldBy(plain, this.placesOf.get(plain.positions) ?? [], skin) : plain
      if (primitive.material === null) return primitive
      const material = bound.get(primitive.material)
      if (material === undefined) throw new Error(`a material ${primitive.material} that nothing binds`)
      return { ...primitive, material }
    })
  }

  private trianglesOf(mesh: XmlNode): LoadedPrimitive[] {
    const other = mesh.children.find((child) => /^(polylist|polygons|tristrips|trifans)$/.test(child.name))
    if (other) throw new Error(`it has ${other.name}; only triangles are drawn`)
    const vertices = within(mesh, 'vertices')
    const places = this.source(
      every(vertices, 'input').find(({ attributes }) => attributes['semantic'] === 'POSITION')?.attributes['source'],
    )
    return every(mesh, 'triangles').map((triangles) => this.primitiveOf(triangles, places))
  }

  private primitiveOf(triangles: XmlNode, places: Source | null): LoadedPrimitive {
    const inputs = every(triangles, 'input').map(({ attributes }) => ({
      semantic: attributes['semantic'],
      offset: Number(attributes['offset']),
      set: Number(attributes['set'] ?? 0),
      source: attributes['semantic'] === 'VERTEX' ? places : this.source(attributes['source']),
    }))
    const asked = (semantic: string) =>
      inputs.filter((input) => input.semantic === semantic).sort((a, b) => a.set - b.set)[0]
    const [place, normal, uv] = [asked('VERTEX'), asked('NORMAL'), asked('TEXCOORD')]
    if (!place?.source) throw new Error('triangles without places')
    const stride = Math.max(...inputs.map(({ offset }) => offset)) + 1
    const indices = within(triangles, 'p') ? numbersIn(within(triangles, 'p')) : []
    if (indices.length % (stride * 3) !== 0) throw new Error('a triangle that is not whole')
    const corners = new Map<string, number>()
    const values = { places: [] as number[], normals: [] as number[], uvs: [] as number[] }
    const order: number[] = []
    const placeOf: number[] = []
    for (let at = 0; at < indices.length; at += stride) {
      const own = [place, normal, uv].map((input) => (input ? indices[at + input.offset] : -1))
      const word = own.join(' ')
      const number = corners.get(word) ?? corners.size
      if (number === corners.size) {
        corners.set(word, number)
        placeOf.push(own[0])
        values.places.push(...elementOf(place.source, own[0], 3))
        if (normal?.source) values.normals.push(...elementOf(normal.source, own[1], 3))
        if (uv?.source) values.uvs.push(...elementOf(uv.source, own[2], 2))
      }
      order.push(number)
    }
    const positions = Float32Array.from(values.places)
    this.placesOf.set(positions, placeOf)
    return {
      positions,
      places: this.placesNumber++,
      indices: Uint32Array.from(order),
      normals: normal ? Float32Array.from(values.normals) : null,
      tangents: null,
      uvs: uv ? Float32Array.from(values.uvs, (value, at) => (at % 2 === 1 ? 1 - value : value)) : null,
      influences: [],
      morphs: 0,
      material: triangles.attributes['material'] ?? null,
    }
  }

  private source(url: string | undefined): Source | null {
    const element = this.find(url)
    if (!element) throw new Error('numbers that are not there')
    const accessor = within(element, 'technique_common', 'accessor')
    const stride = Number(accessor?.attributes['stride'] ?? 1)
    const array = this.find(accessor?.attributes['source'])
    if (array?.name !== 'float_array' || !(stride >= 1)) return null
    return { stride, numbers: numbersIn(array) }
  }

  private clips(): LoadedMesh['clips'] {
    const told = every(within(this.root, 'library_animation_clips'), 'animation_clip')
    return told.map((clip) => ({
      name: clip.attributes['name'] ?? clip.attributes['id'] ?? '',
      channels: every(clip, 'instance_animation').flatMap(({ attributes }) => {
        const animation = this.find(attributes['url'])
        if (!animation) throw new Error('a clip that moves what is not there')
        return this.channelsOf(animation)
      }),
    }))
  }

  private channelsOf(animation: XmlNode): LoadedChannel[] {
    return every(animation, 'channel').flatMap(({ attributes }) => {
      const node = this.nodeById.get(attributes['target']?.split('/')[0] ?? '')
      const inputs = every(this.find(attributes['source']), 'input')
      const [seconds, matrices] = ['INPUT', 'OUTPUT'].map((semantic) =>
        this.source(inputs.find((input) => input.attributes['semantic'] === semantic)?.attributes['source']),
      )
      if (!node || !seconds || matrices?.stride !== 16) throw new Error('a clip that moves what is not there')
      const times = Float32Array.from(seconds.numbers)
      if (matrices.numbers.length !== times.length * 16) throw new Error('a clip with more or fewer values than keys')
      checkTimes(times)
      const places = Array.from(times, (_, key) => apart(columnsOf(matrices.numbers.slice(key * 16, key * 16 + 16))))
      return (['translation', 'rotation', 'scale'] as const).map((path) => ({
        node,
        path,
        interpolation: 'LINEAR',
        times,
        values: Float32Array.from(places.flatMap((place) => place[path])),
      }))
    })
  }
}

interface Source {
  stride: number
  numbers: number[]
}

const STILL = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** The format writes matrices row by row. */
function columnsOf(rows: readonly number[]): number[] {
  if (rows.length !== 16) throw new Error('a matrix that is not 16 numbers')
  return rows.map((_, at) => rows[(at % 4) * 4 + Math.floor(at / 4)])
}

function elementOf({ stride, numbers }: Source, index: number, size: number): number[] {
  if (!Number.isInteger(index) || index < 0 || (index + 1) * stride > numbers.length || stride < size)
    throw new Error('a corner number out of range')
  return numbers.slice(index * stride, index * stride + size)
}
