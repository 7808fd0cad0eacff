import { identityMatrix } from '../../maths/axes.ts'
import type { Axes, Units } from '../../item/extras.ts'
import type { AxisName } from '../../maths/axes.ts'
import {
  chainMatrices,
  determinantOf,
  transformedNormals,
  transformedPoints,
  type Matrix,
} from '../../maths/matrices.ts'
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
import { turnedOver } from '../scene/turned-over.ts'
import { fileName, fileStem, utf8Bytes } from '../source-file.ts'
import { readClips, type AnimatedModel } from './animation.ts'
import { isBinaryFbx, readBinaryFbx } from './binary.ts'
import { readGeometry, type FbxGeometry } from './geometry.ts'
import { readMaterial } from './materials.ts'
import { FbxObjects, type FbxObject } from './objects.ts'
import { readSkin } from './skin.ts'
import { readTextFbx } from './text.ts'
import { geometricMatrix, placeMatrix, readPlace } from './transform.ts'
import { childOf, FbxProperties, type FbxNode } from './tree.ts'

const OLDEST_VERSION = 7000

/**
 * Reads FBX from version 7 on, binary and text: unit and axes are declared in it.
 * @example const { document } = await readFbx(main, files, {})
 */
export const readFbx: MeshReader = async (main, files, options) => {
  const file = fileName(main.path)
  options.onProgress?.(0, 'Reading records')
  const { version, root } = isBinaryFbx(main.bytes)
    ? readBinaryFbx(main.bytes, file, (fraction) => options.onProgress?.(fraction * 0.4, 'Reading records'))
    : readTextFbx(textBytes(utf8Bytes(main), file), file)
  if (version < OLDEST_VERSION)
    throw new PlainError(
      `it is FBX ${(version / 1000).toFixed(1)}; FBX 7 (2011) and later is read`,
      file,
      'Export it as FBX 2011 or later.',
    )
  options.onProgress?.(0.4, 'Reading meshes')
  const scene = new SceneReader(new FbxObjects(root), file).read()
  return buildDocument(
    { name: fileStem(main.path), ...scene, ...readSettings(childOf(root, 'GlobalSettings')) },
    main,
    files,
    { ...options, onProgress: (fraction, doing) => options.onProgress?.(0.6 + fraction * 0.4, doing) },
    new Set([main.path]),
  )
}

/** Text files begin with a comment that names the format; anything else is not taken for one. */
function textBytes(bytes: Uint8Array, file: string): Uint8Array {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 1000))
  if (start.startsWith('Kaydara FBX Binary'))
    throw new PlainError('its first bytes are damaged, as if it had been copied as text', file, 'Copy it again.')
  if (/^\s*;\s*FBX|FBXHeaderExtension/.test(start)) return bytes
  throw new PlainError('it does not begin like an FBX', file, 'Check the ending of its name, or export it again.')
}

/** Unit in centimetres and axes as numbers with signs, under the settings that hold for the whole file. */
function readSettings(settings: FbxNode | undefined): { units: Units; axes: Axes } {
  const properties = new FbxProperties(settings)
  const centimetres = properties.number('UnitScaleFactor')
  const axis = (name: string): AxisName | null => {
    const index = properties.number(name)
    if (index === null || ![0, 1, 2].includes(index)) return null
    return `${(properties.number(`${name}Sign`) ?? 1) < 0 ? '-' : '+'}${'xyz'[index] as 'x' | 'y' | 'z'}`
  }
  const [up, forward] = [axis('UpAxis'), axis('FrontAxis')]
  return {
    units:
      centimetres !== null && centimetres > 0
        ? { metresPerUnit: centimetres / 100, from: 'declared' }
        : { metresPerUnit: 0.01, from: 'customary' },
    axes:
      up && forward && up[1] !== forward[1]
        ? { up, forward, from: 'declared' }
        : { up: '+y', forward: '+z', from: 'customary' },
  }
}

class SceneReader {
  private readonly materials: SourceMaterial[] = []
  private readonly materialPlaces = new Map<string, number>()
  private readonly geometries = new Map<string, FbxGeometry>()
  private readonly models = new Map<string, AnimatedModel>()
  private readonly nodes = new Map<string, SourceNode>()

  constructor(
    private readonly objects: FbxObjects,
    private readonly file: string,
  ) {}

  read() {
    const models = this.objects.ofType('Model')
    for (const model of models) {
      const place = readPlace(new FbxProperties(model.node))
      const node = sourceNode(model.name, placeMatrix(place))
      this.models.set(model.id, { node, place })
      this.nodes.set(model.id, node)
    }
    const roots = models.flatMap((model) => {
      const node = this.nodes.get(model.id) as SourceNode
      const parent = this.objects.parents(model, 'Model')[0]?.object
      if (!parent) return [node]
      this.nodes.get(parent.id)?.children.push(node)
      return []
    })
    for (const model of models) this.fill(model)
    for (const material of this.objects.ofType('Material')) this.materialPlace(material)
    return { roots, materials: this.materials, clips: readClips(this.objects, this.models) }
  }

  private fill(model: FbxObject): void {
    const node = this.nodes.get(model.id) as SourceNode
    if (model.kind === 'Camera') node.camera = true
    const attribute = this.objects
      .children(model, 'NodeAttribute')
      .find(({ object }) => object.kind === 'Light')?.object
    if (model.kind === 'Light' || attribute) node.light = readLight(attribute)
    const geometry = this.objects.children(model, 'Geometry').find(({ object }) => object.kind === 'Mesh')?.object
    if (geometry) node.mesh = this.meshOf(model, geometry)
  }

  private meshOf(model: FbxObject, geometry: FbxObject): SourceMesh {
    const name = geometry.name || model.name
    const read = this.geometries.get(geometry.id) ?? readGeometry(geometry.node, name, this.file)
    this.geometries.set(geometry.id, read)
    const placed = geometricMatrix(new FbxProperties(model.node))
    const slots = this.objects.children(model, 'Material').map(({ object }) => this.materialPlace(object))
    const mesh: SourceMesh = {
      name,
      points: placed ? transformedPoints(read.points, placed) : read.points,
      faces: read.faces.map(({ slot, ...faces }) => {
        const placedFaces = {
          ...faces,
          material: slots[slot] ?? slots[0] ?? null,
          normals: faces.normals && (placed ? transformedNormals(faces.normals, placed) : faces.normals),
        }
        return placed && determinantOf(placed) < 0 ? turnedOver(placedFaces) : placedFaces
      }),
    }
    const skin = readSkin(this.objects, geometry, read.points.length / 3, this.nodes, this.worldOf(model))
    return skin ? { ...mesh, skin } : mesh
  }

  private materialPlace(material: FbxObject): number {
    let place = this.materialPlaces.get(material.id)
    if (place === undefined) {
      place = this.materials.push(readMaterial(this.objects, material)) - 1
      this.materialPlaces.set(material.id, place)
    }
    return place
  }

  private worldOf(model: FbxObject): Matrix {
    const chain: Matrix[] = []
    for (let each: FbxObject | undefined = model, guard = 0; each && guard < 1000; guard++) {
      chain.unshift(this.nodes.get(each.id)?.matrix ?? identityMatrix())
      each = this.objects.parents(each, 'Model')[0]?.object
    }
    return chainMatrices(...chain)
  }
}

function readLight(attribute: FbxObject | undefined): SourceLight {
  const properties = new FbxProperties(attribute?.node)
  const [red, green, blue] = (properties.vector('Color') ?? [1, 1, 1]).map(linearOf)
  return {
    type: (['point', 'directional', 'spot'] as const)[properties.number('LightType') ?? 0] ?? 'point',
    colour: [red, green, blue],
    intensity: (properties.number('Intensity') ?? 100) / 100,
    outerAngleRadians: ((properties.number('OuterAngle') ?? 45) * Math.PI) / 360,
  }
}
