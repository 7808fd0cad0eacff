import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { tarnAndTiller } from '../prepared-gate.ts'
import { addAccessor, addMesh, NODE, primitiveOf, type RawPack } from './raw-pack.ts'

export const body = (pack: RawPack) => primitiveOf(pack, NODE.body)
export const node = (pack: RawPack, number: number) => pack.gltf.nodes[number]
export const extension = (pack: RawPack, number: number, name: string): void => {
  node(pack, number)['extensions'] = { [name]: {} }
}

export function header(pack: RawPack, offset: number, value: number): void {
  pack.finishMesh.push((glb) => {
    const changed = glb.slice()
    new DataView(changed.buffer).setUint32(offset, value, true)
    return changed
  })
}

export function addPart(pack: RawPack, name: string, soup: Parameters<typeof addMesh>[1]): void {
  pack.gltf.nodes.push({ name, mesh: addMesh(pack, soup, 1), children: [] })
  const number = pack.gltf.nodes.length - 1
  node(pack, NODE.root).children?.push(number)
  for (const level of ['l1', 'l2']) {
    pack.gltf.nodes.push({
      name: `${name}_${level}`,
      mesh: addMesh(pack, boxMesh({ min: [-0.2, 1.8, -0.2], max: [0.2, 2.2, 0.2] }), 1),
    })
    pack.gltf.nodes[number].children?.push(pack.gltf.nodes.length - 1)
  }
}

/** The pack as one of another kind, in its folder. */
export function asKind(pack: RawPack, kind: string): void {
  const category = tarnAndTiller.kinds.find((each) => each.id === kind)?.category ?? kind
  Object.assign(pack.entry, { kind, category })
  pack.finish.push((files) => {
    const entry = files.get('items/props/keg/entry.json') ?? new Uint8Array(0)
    files.delete('items/props/keg/entry.json')
    files.set(`items/${category}/keg/entry.json`, entry)
  })
}

export function addClip(pack: RawPack, times: number[], target: number = NODE.lid): void {
  const sampler = {
    input: addAccessor(pack, Float32Array.from(times), 'SCALAR'),
    output: addAccessor(pack, new Float32Array([0, 0, 0, 1, 0, 0, 0, 1]), 'VEC4'),
  }
  pack.gltf['animations'] = [
    { channels: [{ sampler: 0, target: { node: target, path: 'rotation' } }], samplers: [sampler] },
  ]
}

/** Holds the lid by bones; every corner follows the first four with these weights, and a fifth where one is given. */
export function hold(pack: RawPack, bones: number, weights: number[], fifth?: number): void {
  const first = pack.gltf.nodes.length
  for (let bone = 0; bone < bones; bone++) {
    pack.gltf.nodes.push({ name: `bone_${'abcdefghijklmnopqrstuvwxyz'[bone]}` })
    node(pack, NODE.root).children?.push(first + bone)
  }
  pack.gltf['skins'] = [{ joints: Array.from({ length: bones }, (_, bone) => first + bone) }]
  for (const [number, level] of [NODE.lid, NODE.lidLevel1, NODE.lidLevel2].entries()) {
    const { attributes } = primitiveOf(pack, level)
    const { count } = pack.gltf.accessors[attributes['POSITION']]
    attributes['JOINTS_0'] = addAccessor(
      pack,
      Uint8Array.from({ length: count * 4 }, (_, at) => Math.min(at % 4, bones - 1)),
      'VEC4',
    )
    attributes['WEIGHTS_0'] = addAccessor(
      pack,
      Float32Array.from({ length: count * 4 }, (_, at) => weights[at % 4]),
      'VEC4',
    )
    if (fifth !== undefined && number === 0) {
      attributes['JOINTS_1'] = addAccessor(
        pack,
        Uint8Array.from({ length: count * 4 }, () => 4),
        'VEC4',
      )
      attributes['WEIGHTS_1'] = addAccessor(
        pack,
        Float32Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? fifth : 0)),
        'VEC4',
      )
    }
    pack.gltf.nodes[level]['skin'] = 0
  }
}

export function drop(pack: RawPack, ...pairs: (number | number[])[]): void {
  for (let at = 0; at < pairs.length; at += 2) {
    const parent = node(pack, pairs[at] as number)
    parent.children = parent.children?.filter((child) => !(pairs[at + 1] as number[]).includes(child))
  }
}

export function solid(pack: RawPack, change: Record<string, unknown>): void {
  node(pack, NODE.solid).extras = { ...node(pack, NODE.solid).extras, ...change }
}

/** Two posts and a beam, and one box around it all. */
export function gateway(pack: RawPack): void {
  for (const [name, min, max] of [
    ['post_left', [-6, 0, -0.5], [-5, 6, 0.5]],
    ['post_right', [5, 0, -0.5], [6, 6, 0.5]],
    ['beam', [-6, 6, -0.5], [6, 7, 0.5]],
  ] as const)
    addPart(pack, name, boxMesh({ min: [...min], max: [...max] }))
  pack.gltf.nodes.push({
    name: 'solid_box_02',
    mesh: addMesh(pack, boxMesh({ min: [-6, 0, -0.5], max: [6, 7, 0.5] }), null),
    extras: node(pack, NODE.solid).extras,
  })
  node(
    pack,
    pack.gltf.nodes.findIndex((each) => each.name === 'beam'),
  ).children?.push(pack.gltf.nodes.length - 1)
}
