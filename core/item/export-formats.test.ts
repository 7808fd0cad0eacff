import type { Document, Node as ItemNode } from '@gltf-transform/core'
import { createRequire } from 'node:module'
import { AnimationMixer, type Bone, Mesh, type Object3D, SkinnedMesh, Vector3 } from 'three'
import { beforeAll, describe, expect, it } from 'vitest'
import { readItem } from '../intake/read-item.ts'
import { textFile } from '../test-support/sources.ts'
import { richItem } from '../test-support/rich-item.ts'
import { getRootExtras } from './extras.ts'
import { motionsOf } from './motion-at.ts'
import { listSceneNodes, listViewParts, restMatrix } from './parts.ts'
import { accessorToFloats, primitiveIndices, readPrimitive } from './primitive-arrays.ts'
import { transformedPoints } from '../maths/matrices.ts'
import { colladaOptions, writtenFormats } from '../test-support/written-formats.ts'
import { exportCollada } from './export-collada/index.ts'

let source: Document
beforeAll(() => {
  source = richItem()
})

/** What each corner of each triangle of a part has, one after another, whatever corners are shared. */
function cornersOf(document: Document, semantic: string, size: number): Map<string, number[]> {
  return new Map(
    listViewParts(document).map(({ name, mesh }) => [
      name,
      mesh.listPrimitives().flatMap((primitive) => {
        const accessor = primitive.getAttribute(semantic)
        if (!accessor) return []
        const values = accessorToFloats(accessor)
        return [...primitiveIndices(primitive)].flatMap((corner) =>
          Array.from({ length: size }, (_, axis) => values[corner * accessor.getElementSize() + axis] ?? 1),
        )
      }),
    ]),
  )
}

/** Every triangle corner of the item in the scene at rest, sorted: the same whatever the order of triangles. */
function placesOf(document: Document): string[] {
  return listViewParts(document)
    .flatMap(({ node, mesh }) =>
      mesh.listPrimitives().flatMap((primitive) => {
        const { positions, indices } = readPrimitive(primitive)
        const points = transformedPoints(positions, restMatrix(node))
        return [...indices].map((corner) => placeWord([...points.subarray(corner * 3, corner * 3 + 3)]))
      }),
    )
    .sort()
}

const placeWord = (place: readonly number[]): string =>
  place.map((value) => (Math.round(value * 1e4) / 1e4 + 0).toFixed(4)).join(' ')

describe.each(writtenFormats)('$name as it is written, read by us', ({ file, write }) => {
  let again: Document
  beforeAll(async () => {
    again = (await readItem(file, [{ path: file, bytes: write(source).bytes }])).document
  })

  it('has the same tree, names, unit and axes', () => {
    const tree = (document: Document): string[] =>
      listSceneNodes(document).map((node) => `${node.getParentNode()?.getName() ?? ''}/${node.getName()}`)
    expect(tree(again).sort()).toEqual(tree(source).sort())
    const { units, axes } = getRootExtras(again.getRoot())
    expect(units).toEqual({ metresPerUnit: 0.0254, from: 'declared' })
    expect(axes).toMatchObject({ up: '+z', from: 'declared' })
  })

  it('has the same places, normals, both sets of UVs and colours at each corner', () => {
    for (const [semantic, size] of [
      ['POSITION', 3],
      ['NORMAL', 3],
      ['TEXCOORD_0', 2],
      ['TEXCOORD_1', 2],
      ['COLOR_0', 4],
    ] as const) {
      const [before, after] = [cornersOf(source, semantic, size), cornersOf(again, semantic, size)]
      const numbers = before.get('block') ?? []
      expect(after.get('block')).toHaveLength(numbers.length)
      after.get('block')?.forEach((value, at) => expect(value).toBeCloseTo(numbers[at], 4))
    }
    expect(placesOf(again)).toEqual(placesOf(source))
  })

  it('has the same materials on the same triangles', () => {
    const shown = (document: Document): [string, number, number[]][] =>
      listViewParts(document).flatMap(({ mesh }) =>
        mesh
          .listPrimitives()
          .map((primitive): [string, number, number[]] => [
            primitive.getMaterial()?.getName() ?? '',
            primitiveIndices(primitive).length,
            (primitive.getMaterial()?.getBaseColorFactor() ?? []).map((value) => Math.round(value * 1000) / 1000),
          ]),
      )
    expect(shown(again)).toEqual(shown(source))
  })

  it('has the same bones and weights', () => {
    const [skin] = again.getRoot().listSkins()
    expect(skin.listJoints().map((bone) => bone.getName())).toEqual(['lower', 'upper'])
    const weights = (document: Document): Map<string, number> => {
      const part = listViewParts(document).find(({ name }) => name === 'tube')
      const found = new Map<string, number>()
      for (const primitive of part?.mesh.listPrimitives() ?? []) {
        const { positions } = readPrimitive(primitive)
        const [joints, shares] = [primitive.getAttribute('JOINTS_0'), primitive.getAttribute('WEIGHTS_0')]
        for (let corner = 0; corner < positions.length / 3; corner++)
          joints?.getElement(corner, []).forEach((bone, at) => {
            const weight = shares?.getElement(corner, [])[at] ?? 0
            if (weight > 0)
              found.set(`${placeWord([...positions.subarray(corner * 3, corner * 3 + 3)])} ${bone}`, weight)
          })
      }
      return found
    }
    const [before, after] = [weights(source), weights(again)]
    expect([...after.keys()].sort()).toEqual([...before.keys()].sort())
    for (const [key, weight] of before) expect(after.get(key)).toBeCloseTo(weight, 5)
  })

  it('has both clips, which move the same nodes to the same places at any time', () => {
    const clips = (document: Document) =>
      new Map(
        document
          .getRoot()
          .listAnimations()
          .map((clip) => [clip.getName(), motionsOf(clip)]),
      )
    const [before, after] = [clips(source), clips(again)]
    expect([...after.keys()]).toEqual(['sway', 'lift'])
    for (const [name, motions] of before)
      for (const { node, at } of motions) {
        const same = after.get(name)?.find((each) => each.node.getName() === node.getName())
        for (const seconds of [0, 0.21, 0.5, 0.77, 1]) {
          const [meant, made] = [at(seconds), same?.at(seconds)]
          made?.translation.forEach((value, axis) => expect(value).toBeCloseTo(meant.translation[axis], 3))
          const turn = made?.rotation.reduce((sum, value, axis) => sum + value * meant.rotation[axis], 0) ?? 0
          expect(Math.abs(turn)).toBeCloseTo(1, 5)
        }
      }
  })
})

describe.each(writtenFormats)('$name as it is written, read by the drawing library', ({ write, draw, drawn }) => {
  let scene: Object3D
  let animations: Object3D['animations']
  beforeAll(async () => {
    scene = await draw(write(source).bytes)
    animations = scene.animations
    scene.updateMatrixWorld(true)
  })

  it('stands where it stood, in the unit and with the up that it declares', () => {
    const found: string[] = []
    scene.traverse((each) => {
      if (!(each instanceof Mesh)) return
      const { position } = each.geometry.attributes
      const index = each.geometry.index
      for (let corner = 0; corner < (index?.count ?? position.count); corner++) {
        const place = new Vector3().fromBufferAttribute(position, index ? index.getX(corner) : corner)
        if (each instanceof SkinnedMesh) each.applyBoneTransform(index ? index.getX(corner) : corner, place)
        found.push(placeWord(place.applyMatrix4(each.matrixWorld).toArray()))
      }
    })
    const meant = listViewParts(source).flatMap(({ node, mesh }) =>
      mesh.listPrimitives().flatMap((primitive) => {
        const { positions, indices } = readPrimitive(primitive)
        const points = transformedPoints(positions, restMatrix(node))
        return [...indices].map((corner) => placeWord(drawn([...points.subarray(corner * 3, corner * 3 + 3)])))
      }),
    )
    expect(found.sort()).toEqual(meant.sort())
  })

  it('has its materials, two sets of UVs, colours and bones', () => {
    const block = scene.getObjectByName('block')
    const meshes: Mesh[] = []
    block?.traverse((each) => each instanceof Mesh && meshes.push(each))
    const names = meshes.flatMap(({ material }) => [material].flat().map(({ name }) => name))
    expect(names.sort()).toEqual(['green glass', 'stone'])
    for (const { geometry } of meshes)
      expect(Object.keys(geometry.attributes)).toEqual(expect.arrayContaining(['normal', 'uv', 'uv1', 'color']))
    const bones: string[] = []
    scene.traverse((each) => (each as Bone).isBone && bones.push(each.name))
    expect(bones).toEqual(expect.arrayContaining(['lower', 'upper']))
  })

  it('moves as it moved', () => {
    expect(animations.map(({ name }) => name).sort()).toEqual(['lift', 'sway'])
    const mixer = new AnimationMixer(scene)
    const lift = animations.find(({ name }) => name === 'lift')
    if (!lift) throw new Error('no clip')
    mixer.clipAction(lift).play()
    mixer.setTime(0.5)
    expect(
      scene
        .getObjectByName('holder')
        ?.position.toArray()
        .map((value) => Math.round(value * 100) / 100),
    ).toEqual([3, 2.5, -2])
  })
})

describe.each(writtenFormats)('$name as it is written, read by a third reader', ({ file, write }) => {
  interface OtherNode {
    name: string
    transformation: number[]
    meshes?: number[]
    children?: OtherNode[]
  }
  interface OtherScene {
    rootnode: OtherNode
    meshes: {
      faces: number[][]
      texturecoords?: number[][]
      colors?: number[][]
      normals?: number[]
      bones?: { name: string }[]
      materialindex: number
    }[]
    materials: { properties: { key: string; value: unknown }[] }[]
    animations?: { name: string; channels: { name: string }[] }[]
  }
  let scene: OtherScene
  beforeAll(async () => {
    const library = await createRequire(import.meta.url)('assimpjs')()
    const list = new library.FileList()
    list.AddFile(file, write(source).bytes)
    const result = library.ConvertFileList(list, 'assjson')
    expect(result.IsSuccess()).toBe(true)
    scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()))
  })

  it('has the same tree, triangles, layers and bones', () => {
    const names: string[] = []
    const walk = (node: OtherNode): void => {
      names.push(node.name)
      node.children?.forEach(walk)
    }
    walk(scene.rootnode)
    expect(names).toEqual(expect.arrayContaining(listSceneNodes(source).map((node: ItemNode) => node.getName())))
    const triangles = listViewParts(source).reduce(
      (sum, { mesh }) =>
        sum + mesh.listPrimitives().reduce((each, primitive) => each + primitiveIndices(primitive).length / 3, 0),
      0,
    )
    expect(scene.meshes.reduce((sum, { faces }) => sum + faces.length, 0)).toBe(triangles)
    const rich = scene.meshes.filter(({ colors }) => colors !== undefined)
    expect(rich).toHaveLength(2)
    for (const mesh of rich) {
      expect(mesh.texturecoords).toHaveLength(2)
      expect(mesh.normals?.length).toBeGreaterThan(0)
    }
    expect(scene.meshes.flatMap(({ bones = [] }) => bones.map(({ name }) => name)).sort()).toEqual(['lower', 'upper'])
    const materials = scene.materials.map(({ properties }) => properties.find(({ key }) => key === '?mat.name')?.value)
    expect(materials).toEqual(expect.arrayContaining(['stone', 'green glass', 'cloth']))
  })

  it('has clips that move the same nodes', () => {
    const moved = (scene.animations ?? []).flatMap(({ channels }) =>
      channels.map(({ name }) => name.replace(/_\$AssimpFbx\$.*/, '')),
    )
    expect([...new Set(moved)].sort()).toEqual(['holder', 'upper'])
  })
})

describe('what is written', () => {
  it('gives nodes of COLLADA ids of their own where names are alike or no XML names, and keeps the names', async () => {
    const document = richItem()
    for (const node of listSceneNodes(document)) if (node.getMesh()) node.setName('3 <planks> & "nails"')
    const { dae: text } = exportCollada(document, colladaOptions)
    const ids = [...text.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id)
    expect(new Set(ids).size).toBe(ids.length)
    for (const id of ids) expect(id).toMatch(/^[A-Za-z_][A-Za-z0-9_.-]*$/)
    const { document: again } = await readItem('a.dae', [textFile('a.dae', text)])
    expect(listViewParts(again)[0].name).toBe('3 <planks> & "nails"')
  })

  it('tells what is left out of it', () => {
    const document = richItem()
    listSceneNodes(document)[0].setCamera(document.createCamera())
    for (const { write } of writtenFormats) {
      expect(write(document).leftOut).toEqual(['Cameras are left out.'])
      expect(write(source).leftOut).toEqual([])
    }
  })

  it('is the same bytes for the same item', () => {
    for (const { write } of writtenFormats) expect(write(richItem()).bytes).toEqual(write(source).bytes)
  })
})
