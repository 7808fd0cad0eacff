import { limits } from '../../support/limits.ts'
import type { Document, Material, Node, Skin } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { createDocument } from '../../item/io.ts'
import { itemScene } from '../../item/parts.ts'
import { PlainError } from '../../support/plain-error.ts'
import { fileName, type SourceFile } from '../source-file.ts'
import type { MeshReading, ReadOptions } from '../reader.ts'
import { addClips } from './add-clips.ts'
import { addMesh } from './add-mesh.ts'
import { MaterialMaker } from './material-maker.ts'
import { pushDownShear } from './shear.ts'
import type { SourceLight, SourceMesh, SourceNode, SourceScene, SourceSkin } from './source-scene.ts'

/**
 * Makes the item document of a scene that a reader filled, with the textures that can be found.
 * @param used paths of the files that went in; textures that are taken are added
 * @throws PlainError for trees too large or circular, points that are no numbers, corners out of range
 *
 * @example return buildDocument(scene, main, files, options, new Set([main.path]))
 */
export async function buildDocument(
  scene: SourceScene,
  main: SourceFile,
  files: readonly SourceFile[],
  options: ReadOptions,
  used: Set<string>,
): Promise<MeshReading> {
  const document = createDocument(scene.name)
  const maker = new SceneMaker(
    document,
    fileName(main.path),
    new MaterialMaker(document, files, options, used),
    scene,
    options,
  )
  await maker.make()
  setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), units: scene.units, axes: scene.axes })
  return { document, usedPaths: used }
}

class SceneMaker {
  private readonly nodes = new Map<SourceNode, Node>()
  private readonly skinned: { node: Node; skin: SourceSkin }[] = []
  private readonly materials: (Material | null)[]
  private readonly parentOf = new Map<SourceNode, SourceNode>()

  constructor(
    private readonly document: Document,
    private readonly file: string,
    private readonly materialMaker: MaterialMaker,
    private readonly scene: SourceScene,
    private readonly options: ReadOptions,
  ) {
    this.materials = scene.materials.map(() => null)
  }

  async make(): Promise<void> {
    const order = this.inOrder()
    const moving = new Set(this.scene.clips.flatMap((clip) => clip.tracks.map((track) => track.node)))
    const bones = new Set(order.flatMap((node) => node.mesh?.skin?.bones ?? []))
    pushDownShear(order, (node) => moving.has(node) || bones.has(node) || node.mesh?.skin !== undefined)
    const share = 1 / Math.max(1, order.length)
    for (const [number, source] of order.entries()) {
      if (number % 16 === 0) this.options.onProgress?.(number * share, 'Building parts')
      await this.makeNode(source)
    }
    for (const { node, skin } of this.skinned) node.setSkin(this.makeSkin(skin))
    addClips(this.document, this.scene.clips, this.nodes)
    // Materials on no face are only named, so that the report can tell of them.
    this.materials.forEach(
      (material, index) => material ?? this.document.createMaterial(this.scene.materials[index].name),
    )
  }

  /** Every node, parents first; each may stand in the tree once. */
  private inOrder(): SourceNode[] {
    const order: SourceNode[] = []
    const seen = new Set<SourceNode>()
    const queue = this.scene.roots.map((node) => ({ node, depth: 0 })).reverse()
    while (queue.length > 0) {
      const { node, depth } = queue.pop() as { node: SourceNode; depth: number }
      if (seen.has(node))
        throw new PlainError(
          `the node “${node.name.slice(0, 60)}” stands in its own branch`,
          this.file,
          'Export the model again.',
        )
      if (order.length >= limits.nodes || depth > limits.nodeDepth)
        throw new PlainError(
          `its tree has more than ${limits.nodes} nodes or ${limits.nodeDepth} levels`,
          this.file,
          'Join parts where it was made.',
        )
      seen.add(node)
      order.push(node)
      for (let index = node.children.length - 1; index >= 0; index--) {
        this.parentOf.set(node.children[index], node)
        queue.push({ node: node.children[index], depth: depth + 1 })
      }
    }
    return order
  }

  private async makeNode(source: SourceNode): Promise<void> {
    if (source.matrix.length !== 16 || !source.matrix.every(Number.isFinite))
      throw new PlainError(
        `the place of “${source.name.slice(0, 60)}” is not made of numbers`,
        this.file,
        'Export the model again.',
      )
    const node = this.document.createNode(source.name).setMatrix(source.matrix as Parameters<Node['setMatrix']>[0])
    this.nodes.set(source, node)
    if (source.camera) node.setCamera(this.document.createCamera(source.name).setType('perspective'))
    if (source.light) this.addLight(node, source.light)
    if (source.mesh) await this.addMeshTo(node, source.mesh)
    const parent = this.parentOf.get(source)
    if (parent) this.nodes.get(parent)?.addChild(node)
    else itemScene(this.document).addChild(node)
  }

  private addLight(node: Node, light: SourceLight): void {
    const extension = this.document.createExtension(KHRLightsPunctual)
    const made = extension
      .createLight(node.getName())
      .setType(light.type)
      .setColor(light.colour)
      .setIntensity(Math.max(0, light.intensity))
    if (light.type === 'spot')
      made.setOuterConeAngle(Math.min(Math.PI / 2, Math.max(0.01, light.outerAngleRadians ?? Math.PI / 4)))
    node.setExtension('KHR_lights_punctual', made)
  }

  private async addMeshTo(node: Node, source: SourceMesh): Promise<void> {
    const mesh = this.document.createMesh(source.name)
    for (const faces of source.faces) {
      const primitive = addMesh(this.document, source, faces, this.file)
      if (!primitive) continue
      if (faces.material !== null) primitive.setMaterial(await this.materialAt(faces.material))
      mesh.addPrimitive(primitive)
    }
    if (mesh.listPrimitives().length === 0) {
      mesh.dispose()
      return
    }
    node.setMesh(mesh)
    if (source.skin) this.skinned.push({ node, skin: source.skin })
  }

  private async materialAt(index: number): Promise<Material> {
    const source = this.scene.materials[index]
    if (!source)
      throw new PlainError(
        `a face asks for material ${index}; there are ${this.scene.materials.length}`,
        this.file,
        'Export the model again.',
      )
    this.materials[index] ??= await this.materialMaker.make(source)
    return this.materials[index]
  }

  private makeSkin(source: SourceSkin): Skin {
    const skin = this.document.createSkin()
    const binds = new Float32Array(source.bones.length * 16)
    source.bones.forEach((bone, index) => {
      const node = this.nodes.get(bone)
      if (!node)
        throw new PlainError(
          `the bone “${bone.name.slice(0, 60)}” is not in the scene`,
          this.file,
          'Export the model with its armature.',
        )
      skin.addJoint(node)
      binds.set(source.inverseBinds[index], index * 16)
    })
    if (!binds.every(Number.isFinite))
      throw new PlainError('a bind pose is not made of numbers', this.file, 'Export the model again.')
    const accessor = this.document
      .createAccessor('inverse binds')
      .setType('MAT4')
      .setArray(binds)
      .setBuffer(this.document.getRoot().listBuffers()[0])
    return skin.setInverseBindMatrices(accessor)
  }
}
