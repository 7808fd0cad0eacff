import { boxMesh } from '../../geometry/box-mesh.ts'
import { ball, turnedOver } from '../meshes.ts'
import { tarnAndTiller } from '../prepared-gate.ts'
import type { Spoiler } from './file-spoilers.ts'
import { addAccessor, addMesh, floatsOf, NODE, primitiveOf, wholeOf, type RawPack } from './raw-pack.ts'

const body = (pack: RawPack) => primitiveOf(pack, NODE.body)
const node = (pack: RawPack, number: number) => pack.gltf.nodes[number]
const extension = (pack: RawPack, number: number, name: string): void => { node(pack, number)['extensions'] = { [name]: {} } }

/** The file as it lies: header, chunks, accessors, tree of nodes. */
export const containerSpoilers: readonly Spoiler[] = [
  ['a mesh file longer than it says', 'refused', (pack) => { pack.finishMesh.push((glb) => Uint8Array.from([...glb, 0, 0, 0, 0])) }],
  ['a mesh file that is cut off', 'refused', (pack) => { pack.finishMesh.push((glb) => glb.subarray(0, glb.length - 40)) }],
  ['an empty mesh file', 'refused', (pack) => { pack.finishMesh.push(() => new Uint8Array(0)) }],
  ['a mesh file of version 1', 'refused', (pack) => header(pack, 4, 1)],
  ['a text chunk that is called otherwise', 'refused', (pack) => header(pack, 16, 0x12345678)],
  ['a text chunk longer than the file', 'refused', (pack) => header(pack, 12, 0x7fffffff)],
  ['glTF 1', 'refused', (pack) => { pack.gltf['asset'] = { version: '1.0' } }],
  ['no word of its version', 'refused', (pack) => { delete pack.gltf['asset'] }],
  ['an extension that is needed', 'refused', (pack) => { pack.gltf['extensionsRequired'] = ['KHR_draco_mesh_compression'] }],
  ['an extension that is used alone', 'silent', (pack) => { pack.gltf['extensionsUsed'] = ['KHR_materials_unlit'] }],
  ['instances left in', 'complaint', (pack) => extension(pack, NODE.body, 'EXT_mesh_gpu_instancing')],
  ['lamps', 'complaint', (pack) => extension(pack, NODE.body, 'KHR_lights_punctual')],
  ['squeezed triangles', 'complaint', (pack) => { body(pack)['extensions'] = { KHR_draco_mesh_compression: {} } }],
  ['pictures', 'refused', (pack) => { pack.gltf['images'] = [{ uri: 'keg.png' }] }],
  ['a buffer in another file', 'refused', (pack) => { pack.gltf.buffers = [{ byteLength: 4, uri: 'keg.bin' }] }],
  ['a buffer longer than its chunk', 'refused', (pack) => { pack.gltf.buffers = [{ byteLength: pack.binary.length + 4 }] }],
  ['two buffers', 'refused', (pack) => { pack.gltf.buffers = [{ byteLength: pack.binary.length }, { byteLength: 4 }] }],
  ['a view past the end', 'refused', (pack) => { pack.gltf.bufferViews[0].byteLength = pack.binary.length + 64 }],
  ['an accessor past the end', 'refused', (pack) => { pack.gltf.accessors[0].count += 1 }],
  ['an accessor of a billion', 'refused', (pack) => { pack.gltf.accessors[0].count = 1e9 }],
  ['an accessor of none', 'refused', (pack) => { pack.gltf.accessors[0].count = 0 }],
  ['an accessor off the grid', 'refused', (pack) => { pack.gltf.accessors[0].byteOffset = 2; pack.gltf.accessors[0].count -= 1 }],
  ['an accessor without a view', 'refused', (pack) => { delete (pack.gltf.accessors[0] as { bufferView?: number }).bufferView }],
  ['a sparse accessor', 'refused', (pack) => { Object.assign(pack.gltf.accessors[0], { sparse: { count: 1 } }) }],
  ['places of two numbers', 'refused', (pack) => { pack.gltf.accessors[0].type = 'VEC2' }],
  ['places in whole numbers', 'refused', (pack) => { pack.gltf.accessors[0].componentType = 5123 }],
  ['a view that is stepped too closely', 'refused', (pack) => { pack.gltf.bufferViews[0].byteStride = 4 }],
  ['no places', 'refused', (pack) => { delete body(pack).attributes['POSITION'] }],
  ['normals for fewer corners', 'refused', (pack) => { pack.gltf.accessors[body(pack).attributes['NORMAL']].count -= 1 }],
  ['corners that are not there', 'refused', (pack) => { wholeOf(pack, body(pack).indices ?? 0)[0] = 60_000 }],
  ['a triangle that is not whole', 'refused', (pack) => { pack.gltf.accessors[body(pack).indices ?? 0].count -= 1 }],
  ['corner numbers that are floats', 'refused', (pack) => { body(pack).indices = addAccessor(pack, new Float32Array([0, 1, 2]), 'SCALAR') }],
  ['lines', 'refused', (pack) => { body(pack).mode = 1 }],
  ['a strip', 'refused', (pack) => { body(pack).mode = 5 }],
  ['a mesh without surfaces', 'refused', (pack) => { pack.gltf.meshes[0].primitives = [] }],
  ['a mesh that is not there', 'refused', (pack) => { node(pack, NODE.lid).mesh = 99 }],
  ['a material that is not there', 'refused', (pack) => { body(pack).material = 9 }],
  ['a node that is not there', 'refused', (pack) => { node(pack, NODE.root).children?.push(99) }],
  ['a node below itself', 'refused', (pack) => { node(pack, NODE.lidLevel1).children = [NODE.lid] }],
  ['a node below two', 'refused', (pack) => { node(pack, NODE.lid).children?.push(NODE.bodyLevel1) }],
  ['a scene that is not there', 'refused', (pack) => { pack.gltf.scene = 4 }],
  ['a node placed twice', 'refused', (pack) => { Object.assign(node(pack, NODE.lid), { matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], translation: [0, 0, 0] }) }],
  ['a place beyond all numbers', 'refused', (pack) => { node(pack, NODE.lid)['translation'] = ['<huge>', 0, 0] }],
  ['a scale that is no number', 'refused', (pack) => { node(pack, NODE.lid)['scale'] = [null, 1, 1] }],
  ['a turn that is none', 'refused', (pack) => { node(pack, NODE.lid)['rotation'] = [0, 0, 0, 0] }],
  ['names that are numbers', 'refused', (pack) => { Object.assign(node(pack, NODE.lid), { name: 7 }) }],
]

function header(pack: RawPack, offset: number, value: number): void {
  pack.finishMesh.push((glb) => {
    const changed = glb.slice()
    new DataView(changed.buffer).setUint32(offset, value, true)
    return changed
  })
}

/** Names, places, sizes and numbers of what is drawn. */
export const drawnSpoilers: readonly Spoiler[] = [
  ['two roots', 'refused', (pack) => { pack.gltf.nodes.push({ name: 'other' }); pack.gltf.scenes[0].nodes.push(pack.gltf.nodes.length - 1) }],
  ['no root', 'refused', (pack) => { pack.gltf.scenes[0].nodes = [] }],
  ['a root that is moved', 'refused', (pack) => { node(pack, NODE.root)['translation'] = [0, 1, 0] }],
  ['a root that is turned', 'refused', (pack) => { node(pack, NODE.root)['rotation'] = [0, 1, 0, 0] }],
  ['a root with a mesh', 'refused', (pack) => { node(pack, NODE.root).mesh = node(pack, NODE.lid).mesh }],
  ['a root of another name', 'silent', (pack) => { node(pack, NODE.root).name = 'barrel' }],
  ['a root whose name is not accepted', 'refused', (pack) => { node(pack, NODE.root).name = 'Keg' }],
  ['a part whose name is not accepted', 'refused', (pack) => { node(pack, NODE.lid).name = 'lid.001' }],
  ['a part with a reserved name', 'refused', (pack) => { node(pack, NODE.lid).name = 'con' }],
  ['an empty without a name', 'refused', (pack) => { pack.gltf.nodes.push({ name: '' }); node(pack, NODE.root).children?.push(pack.gltf.nodes.length - 1) }],
  ['two parts of one name', 'refused', (pack) => { node(pack, NODE.lid).name = 'body' }],
  ['nothing that is drawn', 'refused', (pack) => { node(pack, NODE.root).children = [] }],
  ['too many triangles', 'refused', (pack) => { const { indices } = body(pack); const many = wholeOf(pack, indices ?? 0); body(pack).indices = addAccessor(pack, Uint16Array.from({ length: many.length * 40 }, (_, at) => many[at % many.length]), 'SCALAR') }],
  ['a part that is turned', 'complaint', (pack) => { node(pack, NODE.lid)['rotation'] = [0, 0.7071068, 0, 0.7071068] }],
  ['a part that is scaled', 'complaint', (pack) => { node(pack, NODE.lid)['scale'] = [1, 1.5, 1] }],
  ['a part that is turned by a matrix', 'complaint', (pack) => { node(pack, NODE.lid)['matrix'] = [0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1] }],
  ['a part that is mirrored', 'complaint', (pack) => { node(pack, NODE.lid)['scale'] = [-1, 1, 1] }],
  ['a part that is moved', 'silent', (pack) => { node(pack, NODE.lid)['translation'] = [0, 0.2, 0] }],
  ['a part without normals', 'complaint', (pack) => { delete body(pack).attributes['NORMAL'] }],
  ['a part without tangents', 'complaint', (pack) => { delete body(pack).attributes['TANGENT'] }],
  ['a part without UVs', 'refused', (pack) => { delete body(pack).attributes['TEXCOORD_0'] }],
  ['a level without UVs', 'refused', (pack) => { delete primitiveOf(pack, NODE.bodyLevel1).attributes['TEXCOORD_0'] }],
  ['a level without normals', 'silent', (pack) => { delete primitiveOf(pack, NODE.bodyLevel1).attributes['NORMAL'] }],
  ['a part without a material', 'refused', (pack) => { delete primitiveOf(pack, NODE.lid).material }],
  ['a level without a material', 'refused', (pack) => { delete primitiveOf(pack, NODE.lidLevel1).material }],
  ['a shadow in a material of its own', 'refused', (pack) => { pack.gltf.materials.push({ name: 'shade@cloth' }); primitiveOf(pack, NODE.bodyShadow).material = 2 }],
  ['a place that is no number', 'refused', (pack) => { floatsOf(pack, body(pack).attributes['POSITION'])[7] = NaN }],
  ['a normal that is no number', 'refused', (pack) => { floatsOf(pack, body(pack).attributes['NORMAL'])[7] = Infinity }],
  ['a UV that is no number', 'refused', (pack) => { floatsOf(pack, body(pack).attributes['TEXCOORD_0'])[3] = NaN }],
  ['a normal without length', 'complaint', (pack) => { floatsOf(pack, body(pack).attributes['NORMAL']).fill(0, 30, 33) }],
  ['a normal twice as long', 'complaint', (pack) => { floatsOf(pack, body(pack).attributes['NORMAL']).set([0, 2, 0], 30) }],
  ['a level’s normal without length', 'complaint', (pack) => { floatsOf(pack, primitiveOf(pack, NODE.bodyLevel2).attributes['NORMAL']).fill(0, 0, 3) }],
  ['a tangent without hand', 'complaint', (pack) => { floatsOf(pack, body(pack).attributes['TANGENT'])[3] = 0 }],
  ['a tangent without length', 'complaint', (pack) => { floatsOf(pack, body(pack).attributes['TANGENT']).fill(0, 4, 7) }],
  ['a surface of lines', 'complaint', (pack) => { pack.gltf.meshes[node(pack, NODE.lid).mesh ?? 0].primitives.push(pack.gltf.meshes[addMesh(pack, { positions: new Float32Array([0, 4, 0, 0.5, 4, 0, 1, 4, 0]), indices: new Uint32Array([0, 1, 2]) }, 1)].primitives[0]) }],
  ['a surface of one point', 'complaint', (pack) => { pack.gltf.meshes[node(pack, NODE.lid).mesh ?? 0].primitives.push(pack.gltf.meshes[addMesh(pack, { positions: new Float32Array(9).fill(0.5), indices: new Uint32Array([0, 0, 0]) }, 1)].primitives[0]) }],
  ['a thin part', 'complaint', (pack) => addPart(pack, 'wire', boxMesh({ min: [0, 0, 0], max: [0.001, 0.001, 3] }))],
  ['a giant', 'complaint', (pack) => { for (const mesh of pack.gltf.meshes) for (const { attributes } of mesh.primitives) floatsOf(pack, attributes['POSITION']).forEach((value, at, all) => { all[at] = value * 50 }) }],
  ['a thing far from its origin', 'complaint', (pack) => { for (const mesh of pack.gltf.meshes) for (const { attributes } of mesh.primitives) floatsOf(pack, attributes['POSITION']).forEach((value, at, all) => { all[at] = value + (at % 3 === 0 ? 10_000 : 0) }) }],
  ['a ball inside out', 'complaint', (pack) => { wholeOf(pack, body(pack).indices ?? 0).reverse() }],
  ['a ball mirrored by its node', 'complaint', (pack) => { node(pack, NODE.body)['scale'] = [1, 1, -1] }],
  ['an open bowl', 'complaint', (pack) => { const indices = wholeOf(pack, body(pack).indices ?? 0); body(pack).indices = addAccessor(pack, indices.slice(0, indices.length / 2), 'SCALAR'); node(pack, NODE.lid)['translation'] = [0, 3, 0] }],
  ['a ball in a ball', 'silent', (pack) => { addPart(pack, 'core', ball(1, 12, [0, 2, 0])) }],
  ['a ball turned over in a ball', 'silent', (pack) => { addPart(pack, 'core', turnedOver(ball(1, 12, [0, 2, 0]))) }],
  ['shapes to morph to', 'complaint', (pack) => { body(pack)['targets'] = [{ POSITION: body(pack).attributes['POSITION'] }] }],
  ['a clip', 'complaint', (pack) => addClip(pack, [0, 1])],
  ['a clip whose keys go back', 'refused', (pack) => addClip(pack, [1, 0])],
  ['a clip for a mover', 'silent', (pack) => { asKind(pack, 'mover'); addClip(pack, [0, 1]) }],
  ['a clip of what is not there', 'refused', (pack) => addClip(pack, [0, 1], 99)],
  ['bones of a thing that has none', 'complaint', (pack) => hold(pack, 2, [1, 0, 0, 0])],
  ['bones of a bender', 'silent', (pack) => { asKind(pack, 'bender'); hold(pack, 2, [0.5, 0.5, 0, 0]) }],
  ['too many bones', 'refused', (pack) => { asKind(pack, 'bender'); hold(pack, 25, [1, 0, 0, 0]) }],
  ['weights that do not make 1', 'complaint', (pack) => { asKind(pack, 'bender'); hold(pack, 2, [0.5, 0.2, 0, 0]) }],
  ['weights of none', 'complaint', (pack) => { asKind(pack, 'bender'); hold(pack, 2, [0, 0, 0, 0]) }],
  ['a weight that is no number', 'refused', (pack) => { asKind(pack, 'bender'); hold(pack, 2, [NaN, 1, 0, 0]) }],
  ['a bone that is not there', 'refused', (pack) => { asKind(pack, 'bender'); hold(pack, 2, [1, 0, 0, 0]); (pack.gltf['skins'] as { joints: number[] }[])[0].joints = [NODE.lid] }],
  ['five bones a corner', 'complaint', (pack) => { asKind(pack, 'bender'); hold(pack, 8, [0.2, 0.2, 0.2, 0.2], 0.2) }],
]

function addPart(pack: RawPack, name: string, soup: Parameters<typeof addMesh>[1]): void {
  pack.gltf.nodes.push({ name, mesh: addMesh(pack, soup, 1), children: [] })
  const number = pack.gltf.nodes.length - 1
  node(pack, NODE.root).children?.push(number)
  for (const level of ['l1', 'l2']) {
    pack.gltf.nodes.push({ name: `${name}_${level}`, mesh: addMesh(pack, boxMesh({ min: [-0.2, 1.8, -0.2], max: [0.2, 2.2, 0.2] }), 1) })
    pack.gltf.nodes[number].children?.push(pack.gltf.nodes.length - 1)
  }
}

/** The pack as one of another kind, in its folder. */
function asKind(pack: RawPack, kind: string): void {
  const category = tarnAndTiller.kinds.find((each) => each.id === kind)?.category ?? kind
  Object.assign(pack.entry, { kind, category })
  pack.finish.push((files) => {
    const entry = files.get('items/props/keg/entry.json') ?? new Uint8Array(0)
    files.delete('items/props/keg/entry.json')
    files.set(`items/${category}/keg/entry.json`, entry)
  })
}

function addClip(pack: RawPack, times: number[], target: number = NODE.lid): void {
  const sampler = { input: addAccessor(pack, Float32Array.from(times), 'SCALAR'), output: addAccessor(pack, new Float32Array([0, 0, 0, 1, 0, 1, 0, 0]), 'VEC4') }
  pack.gltf['animations'] = [{ channels: [{ sampler: 0, target: { node: target, path: 'rotation' } }], samplers: [sampler] }]
}

/** Holds the lid by bones; every corner follows the first four with these weights, and a fifth where one is given. */
function hold(pack: RawPack, bones: number, weights: number[], fifth?: number): void {
  const first = pack.gltf.nodes.length
  for (let bone = 0; bone < bones; bone++) {
    pack.gltf.nodes.push({ name: `bone_${'abcdefghijklmnopqrstuvwxyz'[bone]}` })
    node(pack, NODE.root).children?.push(first + bone)
  }
  pack.gltf['skins'] = [{ joints: Array.from({ length: bones }, (_, bone) => first + bone) }]
  for (const [number, level] of [NODE.lid, NODE.lidLevel1, NODE.lidLevel2].entries()) {
    const { attributes } = primitiveOf(pack, level)
    const { count } = pack.gltf.accessors[attributes['POSITION']]
    attributes['JOINTS_0'] = addAccessor(pack, Uint8Array.from({ length: count * 4 }, (_, at) => Math.min(at % 4, bones - 1)), 'VEC4')
    attributes['WEIGHTS_0'] = addAccessor(pack, Float32Array.from({ length: count * 4 }, (_, at) => weights[at % 4]), 'VEC4')
    if (fifth !== undefined && number === 0) {
      attributes['JOINTS_1'] = addAccessor(pack, Uint8Array.from({ length: count * 4 }, () => 4), 'VEC4')
      attributes['WEIGHTS_1'] = addAccessor(pack, Float32Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? fifth : 0)), 'VEC4')
    }
    pack.gltf.nodes[level]['skin'] = 0
  }
}

/** Levels, shadow meshes and solids. */
export const standInSpoilers: readonly Spoiler[] = [
  ['no first level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1], NODE.lid, [NODE.lidLevel1])],
  ['no second level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel2], NODE.lid, [NODE.lidLevel2])],
  ['a part without its level', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyLevel1])],
  ['a small part without its level', 'complaint', (pack) => drop(pack, NODE.lid, [NODE.lidLevel1])],
  ['a level in another material', 'complaint', (pack) => { primitiveOf(pack, NODE.bodyLevel1).material = 1 }],
  ['all levels in one material', 'complaint', (pack) => { primitiveOf(pack, NODE.lidLevel1).material = 0 }],
  ['a level as dense as the first', 'complaint', (pack) => { node(pack, NODE.bodyLevel1).mesh = node(pack, NODE.body).mesh }],
  ['a level of another thing', 'complaint', (pack) => { node(pack, NODE.bodyLevel2).mesh = addMesh(pack, ball(0.5, 6, [0, 0.5, 0]), 0) }],
  ['a level that stands elsewhere', 'complaint', (pack) => { node(pack, NODE.bodyLevel2)['translation'] = [3, 0, 0] }],
  ['a level held by bones', 'complaint', (pack) => { hold(pack, 2, [1, 0, 0, 0]); delete pack.gltf.nodes[NODE.lid]['skin']; asKind(pack, 'bender') }],
  ['a level beside its part', 'refused', (pack) => { drop(pack, NODE.body, [NODE.bodyLevel1]); node(pack, NODE.root).children?.push(NODE.bodyLevel1); node(pack, NODE.bodyLevel1).name = 'body_l1'; pack.entry['kind'] = 'loose' }],
  ['a seventh level', 'silent', (pack) => { pack.gltf.nodes.push({ name: 'body_l7', mesh: node(pack, NODE.bodyLevel2).mesh }); node(pack, NODE.body).children?.push(pack.gltf.nodes.length - 1) }],
  ['no shadow mesh', 'complaint', (pack) => drop(pack, NODE.body, [NODE.bodyShadow], NODE.lid, [NODE.lidShadow])],
  ['a shadow mesh that is too dense', 'complaint', (pack) => { node(pack, NODE.bodyShadow).mesh = addMesh(pack, ball(2, 20, [0, 2, 0]), null) }],
  ['a solid without surface', 'complaint', (pack) => solid(pack, { surface: null })],
  ['a solid whose surface is a number', 'complaint', (pack) => solid(pack, { surface: 3 })],
  ['a solid without facts', 'complaint', (pack) => { delete node(pack, NODE.solid).extras }],
  ['a solid of a surface that is not there', 'refused', (pack) => solid(pack, { surface: 'cheese' })],
  ['a solid on a layer that is not there', 'complaint', (pack) => solid(pack, { layers: ['ground', 'celing'] })],
  ['a solid whose layers are one word', 'silent', (pack) => solid(pack, { layers: 'ground' })],
  ['a solid of a shape that is not there', 'refused', (pack) => { node(pack, NODE.solid).name = 'solid_cylinder_01' }],
  ['a solid with a letter too few, drawn without a material', 'refused', (pack) => { node(pack, NODE.solid).name = 'solid_hul_01' }],
  ['a solid with one digit, drawn in the body’s material', 'complaint', (pack) => { node(pack, NODE.solid).name = 'solid_hull_1'; primitiveOf(pack, NODE.solid).material = 0 }],
  ['a hull with too many points', 'refused', (pack) => { node(pack, NODE.solid).mesh = addMesh(pack, ball(1.9, 9, [0, 2, 0]), null) }],
  ['a solid beside the parts', 'refused', (pack) => { drop(pack, NODE.body, [NODE.solid]); node(pack, NODE.root).children?.push(NODE.solid) }],
  ['a solid far from its part', 'complaint', (pack) => { node(pack, NODE.solid)['translation'] = [0, 0, 60] }],
  ['forty-nine solids', 'refused', (pack) => { for (let number = 2; number < 50; number++) { pack.gltf.nodes.push({ name: `solid_hull_${String(number).padStart(2, '0')}`, mesh: node(pack, NODE.solid).mesh, extras: node(pack, NODE.solid).extras }); node(pack, NODE.body).children?.push(pack.gltf.nodes.length - 1) } }],
  ['a wall across a way through', 'complaint', (pack) => gateway(pack)],
  ['a loose thing without mass', 'refused', (pack) => { asKind(pack, 'loose') }],
  ['a loose thing with a mass', 'silent', (pack) => { asKind(pack, 'loose'); solid(pack, { mass: 20 }) }],
  ['a loose thing that is too heavy', 'refused', (pack) => { asKind(pack, 'loose'); solid(pack, { mass: 2000 }) }],
  ['a loose thing of less than no mass', 'refused', (pack) => { asKind(pack, 'loose'); solid(pack, { mass: -5 }) }],
  ['solids of a kind without them', 'refused', (pack) => { asKind(pack, 'ground') }],
]

function drop(pack: RawPack, ...pairs: (number | number[])[]): void {
  for (let at = 0; at < pairs.length; at += 2) {
    const parent = node(pack, pairs[at] as number)
    parent.children = parent.children?.filter((child) => !(pairs[at + 1] as number[]).includes(child))
  }
}

function solid(pack: RawPack, change: Record<string, unknown>): void {
  node(pack, NODE.solid).extras = { ...node(pack, NODE.solid).extras, ...change }
}

/** Two posts and a beam, and one box around it all. */
function gateway(pack: RawPack): void {
  for (const [name, min, max] of [['post_left', [-6, 0, -0.5], [-5, 6, 0.5]], ['post_right', [5, 0, -0.5], [6, 6, 0.5]], ['beam', [-6, 6, -0.5], [6, 7, 0.5]]] as const) addPart(pack, name, boxMesh({ min: [...min], max: [...max] }))
  pack.gltf.nodes.push({ name: 'solid_box_02', mesh: addMesh(pack, boxMesh({ min: [-6, 0, -0.5], max: [6, 7, 0.5] }), null), extras: node(pack, NODE.solid).extras })
  node(pack, pack.gltf.nodes.findIndex((each) => each.name === 'beam')).children?.push(pack.gltf.nodes.length - 1)
}

