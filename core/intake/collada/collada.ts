import { limits } from '../../support/limits.ts'
import type { Axes, Units } from '../../item/extras.ts'
import { PlainError } from '../../support/plain-error.ts'
import type { MeshReader } from '../reader.ts'
import { buildDocument } from '../scene/build-document.ts'
import {
  linearOf,
  sourceNode,
  type SourceLight,
  type SourceMaterial,
  type SourceMesh,
  type SourceNode,
} from '../scene/source-scene.ts'
import { fileName, fileStem, sourceText } from '../source-file.ts'
import { readClips, type AimedNode } from './animation.ts'
import { readGeometry, type ColladaFaces, type ColladaGeometry } from './geometry.ts'
import { ColladaLibrary } from './library.ts'
import { readMaterial } from './materials.ts'
import { placeOf, readMoves } from './places.ts'
import { readSkin } from './skin.ts'
import { allOf, firstOf, numbersOf, parseXml, type XmlElement } from '../../support/xml.ts'

/**
 * Reads COLLADA 1.4 and 1.5. Unit and up axis are declared in it.
 * @example const { document } = await readCollada(main, files, {})
 */
export const readCollada: MeshReader = async (main, files, options) => {
  const file = fileName(main.path)
  const root = parseXml(sourceText(main).replace(/^\ufeff/, ''), file, (fraction) =>
    options.onProgress?.(fraction * 0.4, 'Reading elements'),
  )
  if (root.name !== 'COLLADA') throw new PlainError('it is XML, but no COLLADA', file, 'Check the ending of its name.')
  options.onProgress?.(0.5, 'Reading meshes')
  const library = new ColladaLibrary(root)
  const scene = new SceneReader(library, file).read()
  return buildDocument(
    { name: fileStem(main.path), ...scene, ...readAsset(firstOf(root, 'asset')) },
    main,
    files,
    { ...options, onProgress: (fraction, doing) => options.onProgress?.(0.6 + fraction * 0.4, doing) },
    new Set([main.path]),
  )
}

/** The standard's own defaults are one metre and Y up; a comma in the number is a slip of some exporters. */
function readAsset(asset: XmlElement | undefined): { units: Units; axes: Axes } {
  const metres = Number((firstOf(asset, 'unit')?.attributes['meter'] ?? '').replace(',', '.'))
  const up = (firstOf(asset, 'up_axis')?.text ?? '').trim()
  const axes = {
    X_UP: { up: '+x', forward: '+z' },
    Y_UP: { up: '+y', forward: '+z' },
    Z_UP: { up: '+z', forward: '-y' },
  } as const
  return {
    units:
      metres > 0 && Number.isFinite(metres)
        ? { metresPerUnit: metres, from: 'declared' }
        : { metresPerUnit: 1, from: 'customary' },
    axes: up in axes ? { ...axes[up as keyof typeof axes], from: 'declared' } : { ...axes.Y_UP, from: 'customary' },
  }
}

class SceneReader {
  private readonly materials: SourceMaterial[] = []
  private readonly materialPlaces = new Map<XmlElement, number>()
  private readonly geometries = new Map<XmlElement, ColladaGeometry>()
  private readonly aimed = new Map<string, AimedNode>()
  /** Nodes by short name, id and name: how skins call their bones. */
  private readonly called = new Map<string, SourceNode>()
  private readonly skins: { mesh: SourceMesh; skin: XmlElement }[] = []
  private nodeCount = 0

  constructor(
    private readonly library: ColladaLibrary,
    private readonly file: string,
  ) {}

  read() {
    const shown =
      this.library.find(firstOf(this.library.root, 'scene', 'instance_visual_scene')?.attributes['url']) ??
      this.library.all('visual_scenes', 'visual_scene')[0]
    const roots = allOf(shown, 'node').map((node) => this.readNode(node, 0))
    for (const material of this.library.all('materials', 'material')) this.materialPlace(material, new Map())
    for (const { mesh, skin } of this.skins) {
      const read = readSkin(this.library, skin, mesh.points.length / 3, (name) => this.called.get(name))
      if (read) mesh.skin = read
    }
    return { roots, materials: this.materials, clips: readClips(this.library, this.aimed) }
  }

  private readNode(element: XmlElement, depth: number): SourceNode {
    if (++this.nodeCount > limits.nodes || depth > limits.nodeDepth)
      throw new PlainError(
        `its tree has more than ${limits.nodes} nodes or ${limits.nodeDepth} levels, or a branch holds itself`,
        this.file,
        'Export it again.',
      )
    const { id, sid, name } = element.attributes
    const moves = readMoves(element)
    const node = sourceNode(name || id || 'node', placeOf(moves))
    if (id && !this.aimed.has(id)) this.aimed.set(id, { node, moves })
    for (const call of [sid, id, name]) if (call && !this.called.has(call)) this.called.set(call, node)
    const meshes: SourceMesh[] = []
    for (const child of element.children) {
      const target = this.library.find(child.attributes['url'])
      if (child.name === 'node') node.children.push(this.readNode(child, depth + 1))
      else if (!target) continue
      else if (child.name === 'instance_node') node.children.push(this.readNode(target, depth + 1))
      else if (child.name === 'instance_geometry') meshes.push(this.meshOf(target, child))
      else if (child.name === 'instance_controller') meshes.push(...this.controlledMesh(target, child, 0))
      else if (child.name === 'instance_camera') node.camera = true
      else if (child.name === 'instance_light') node.light = readLight(target)
    }
    // A node of ours has one mesh: further ones stand below it.
    const [first, ...others] = meshes.filter((mesh) => mesh.faces.length > 0)
    if (first) node.mesh = first
    for (const mesh of others) node.children.push({ ...sourceNode(mesh.name, placeOf([])), mesh })
    return node
  }

  private meshOf(element: XmlElement, instance: XmlElement): SourceMesh {
    const geometry = this.geometries.get(element) ?? readGeometry(this.library, element, this.file)
    this.geometries.set(element, geometry)
    const bound = new Map(
      allOf(firstOf(instance, 'bind_material', 'technique_common'), 'instance_material').map((each) => [
        each.attributes['symbol'] ?? '',
        each,
      ]),
    )
    return {
      name: geometry.name,
      points: geometry.points,
      faces: geometry.faces.map((faces) => ({ ...faces, material: this.materialFor(faces, bound) })),
    }
  }

  private controlledMesh(controller: XmlElement, instance: XmlElement, depth: number): SourceMesh[] {
    const skin = firstOf(controller, 'skin')
    const source = this.library.find((skin ?? firstOf(controller, 'morph'))?.attributes['source'])
    if (!source || depth > 8) return []
    if (source.name === 'controller') return this.controlledMesh(source, instance, depth + 1)
    const mesh = this.meshOf(source, instance)
    if (skin) this.skins.push({ mesh, skin })
    return [mesh]
  }

  private materialFor({ symbol, uvSetNumbers }: ColladaFaces, bound: ReadonlyMap<string, XmlElement>): number | null {
    if (symbol === null) return null
    const binding = bound.get(symbol)
    const element = this.library.find(binding?.attributes['target'] ?? symbol)
    if (element?.name !== 'material') return null
    const inputs = allOf(binding, 'bind_vertex_input').map(({ attributes }): [string, number] => [
      attributes['semantic'] ?? '',
      uvSetNumbers.indexOf(Number(attributes['input_set'] ?? 0)),
    ])
    return this.materialPlace(element, new Map(inputs.filter(([, place]) => place > 0)))
  }

  /** One material for all that bind it; the first that does says which UVs its pictures lie on. */
  private materialPlace(element: XmlElement, setOf: ReadonlyMap<string, number>): number {
    let place = this.materialPlaces.get(element)
    if (place === undefined) {
      place = this.materials.push(readMaterial(this.library, element, setOf)) - 1
      this.materialPlaces.set(element, place)
    }
    return place
  }
}

function readLight(element: XmlElement): SourceLight {
  const technique = firstOf(element, 'technique_common')
  const kind = technique?.children[0]
  const type = kind?.name === 'spot' ? 'spot' : kind?.name === 'directional' ? 'directional' : 'point'
  const [red, green, blue] = numbersOf(firstOf(kind, 'color'))
  const falloff = numbersOf(firstOf(kind, 'falloff_angle'))[0] ?? 90
  return {
    type,
    colour: [linearOf(red ?? 1), linearOf(green ?? 1), linearOf(blue ?? 1)],
    intensity: 1,
    outerAngleRadians: (Math.min(180, falloff) * Math.PI) / 360,
  }
}
