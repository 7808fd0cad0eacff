import { readdirSync, readFileSync } from 'node:fs'
import type { Document, Primitive, Texture } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { identityMatrix } from '../document/axes.ts'
import { getMaterialExtras, getNodeExtras, setMaterialExtras, setNodeExtras } from '../document/extras.ts'
import { copyDocument } from '../document/io.ts'
import { itemScene, listAllParts, listLevelParts, listShadowParts, listSolids, listUsedMaterials, type Part } from '../document/parts.ts'
import { readPrimitive } from '../document/primitive-arrays.ts'
import { changeBasis } from '../geometry/change-basis.ts'
import { boxMesh } from '../geometry/box-mesh.ts'
import { partBounds } from '../document/measure.ts'
import { soupMesh } from '../steps/derived-meshes.ts'
import { faceNormals } from '../geometry/pieces.ts'
import { packItems } from '../pack/pack-crate.ts'
import { rulebookSchema, type Kind, type Rulebook } from '../rulebook/schema.ts'
import { checkItem } from '../rules/registry.ts'
import type { Severity } from '../rules/rule.ts'
import { prepareDemo, tarnAndTiller, type PreparedItem } from '../test-support/prepared-gate.ts'
import { compressMap } from '../texture/compress.ts'
import { encodePng } from '../texture/image-codecs.ts'
import { loadPack } from './load-pack.ts'

let gate: PreparedItem
beforeAll(async () => {
  gate = await prepareDemo('boathouse_gate', 'prop')
})

interface Spoiled {
  document: Document
  rulebook: Rulebook
  kind: Kind
}

const part = (document: Document, name: string): Part => {
  const found = listAllParts(document).find((each) => each.name === name)
  if (!found) throw new Error(`no part ${name}`)
  return found
}
const surface = (document: Document, name: string): Primitive => part(document, name).mesh.listPrimitives()[0]
const stone = (document: Document) => {
  const material = listUsedMaterials(document).find((each) => each.getName().startsWith('gate_stone'))
  if (!material) throw new Error('no stone')
  return material
}
const solid = (document: Document, shape: string): Part => listSolids(document).filter((each) => each.extras.solid?.shape === shape)[0]
const plainPixels = (width: number, height: number) => ({ width, height, data: new Uint8Array(width * height * 4).fill(200) })
const withDds = async (texture: Texture | null, width: number, height: number, mipmaps: boolean): Promise<void> => {
  texture?.setImage((await compressMap(plainPixels(width, height), { codec: 'bc7', meaning: 'colour', withMipmaps: mipmaps })).dds as Uint8Array<ArrayBuffer>)
}

/** One way to spoil the prepared gate for each rule that blocks or is risky. */
const spoilers: { rule: string; severity: Severity; spoil: (spoiled: Spoiled) => void | Promise<void> }[] = [
  { rule: 'triangle-budget', severity: 'blocks', spoil: ({ kind }) => { if (kind.mesh) kind.mesh.triangles = 5000 } },
  { rule: 'view-and-solids-budget', severity: 'blocks', spoil: ({ kind }) => { if (kind.mesh) kind.mesh.withSolids = 10_500 } },
  { rule: 'corner-limit', severity: 'blocks', spoil: ({ kind }) => { if (kind.mesh) kind.mesh.cornersPerPart = 1000 } },
  { rule: 'item-too-large', severity: 'risky', spoil: ({ document }) => changeBasis(document, identityMatrix(), 20) },
  { rule: 'transform-not-baked', severity: 'risky', spoil: ({ document }) => { part(document, 'hinge_pins').node.setScale([2, 2, 2]) } },
  { rule: 'too-thin', severity: 'risky', spoil: ({ rulebook }) => { rulebook.space.smallestDrawn = 2 } },
  { rule: 'inward-faces', severity: 'risky', spoil: ({ document }) => reverse(surface(document, 'arch_stone')) },
  { rule: 'inside-seen', severity: 'risky', spoil: ({ document }) => openFront(surface(document, 'arch_stone')) },
  { rule: 'normals-missing', severity: 'risky', spoil: ({ document }) => { surface(document, 'right_leaf').setAttribute('NORMAL', null) } },
  { rule: 'tangents-missing', severity: 'risky', spoil: ({ document }) => { surface(document, 'arch_stone').setAttribute('TANGENT', null) } },
  { rule: 'uvs-missing', severity: 'blocks', spoil: ({ document }) => { surface(document, 'arch_stone').setAttribute('TEXCOORD_0', null) } },
  { rule: 'level-missing', severity: 'risky', spoil: ({ document }) => { for (const level of listLevelParts(document, 2)) level.node.dispose() } },
  { rule: 'level-too-dense', severity: 'risky', spoil: ({ rulebook }) => { rulebook.levels.chain[0].mostShare = 0.1 } },
  { rule: 'level-materials', severity: 'risky', spoil: ({ document }) => { for (const level of listLevelParts(document, 1)) for (const each of level.mesh.listPrimitives()) each.setMaterial(stone(document)) } },
  { rule: 'level-geometry', severity: 'risky', spoil: ({ document }) => { for (const level of listLevelParts(document, 2)) level.node.setTranslation([0, 3, 0]) } },
  { rule: 'level-bones', severity: 'risky', spoil: ({ document }) => { for (const level of listLevelParts(document, 1)) hold(document, level, 1, [1, 0, 0, 0]) } },
  { rule: 'level-part-missing', severity: 'risky', spoil: ({ document }) => { listLevelParts(document, 1)[0].node.dispose() } },
  { rule: 'level-part-material', severity: 'risky', spoil: ({ document }) => { for (const each of listLevelParts(document, 1)[0].mesh.listPrimitives()) each.setMaterial(otherMaterial(document, each)) } },
  { rule: 'normal-length', severity: 'risky', spoil: ({ document }) => { alterValues(document, surface(document, 'arch_stone'), 'NORMAL', (values) => values.fill(0, 0, 3)) } },
  { rule: 'tangent-hand', severity: 'risky', spoil: ({ document }) => { alterValues(document, surface(document, 'arch_stone'), 'TANGENT', (values) => values.fill(0, 3, 4)) } },
  { rule: 'weights-sum', severity: 'risky', spoil: ({ document, kind }) => { kind.bones = { most: 24, influences: 4, rigidPartPerBone: false }; hold(document, part(document, 'hinge_pins'), 2, [0.5, 0.2, 0, 0]) } },
  { rule: 'bones-not-read', severity: 'risky', spoil: ({ document }) => { hold(document, part(document, 'hinge_pins'), 1, [1, 0, 0, 0]) } },
  { rule: 'bone-count', severity: 'blocks', spoil: ({ document, kind }) => { kind.bones = { most: 4, influences: 4, rigidPartPerBone: false }; hold(document, part(document, 'hinge_pins'), 5, [1, 0, 0, 0]) } },
  { rule: 'bone-influences', severity: 'risky', spoil: ({ document, kind }) => { kind.bones = { most: 24, influences: 2, rigidPartPerBone: false }; hold(document, part(document, 'hinge_pins'), 3, [0.4, 0.3, 0.3, 0]) } },
  { rule: 'motion-not-played', severity: 'risky', spoil: ({ document }) => { turn(document, part(document, 'hinge_pins')) } },
  { rule: 'surface-flat', severity: 'risky', spoil: ({ document }) => { alterValues(document, surface(document, 'hinge_pins'), 'POSITION', (values) => values.forEach((_, at) => { if (at % 3 > 0) values[at] = 4 })) } },
  { rule: 'nothing-drawn', severity: 'blocks', spoil: ({ document }) => { for (const each of listAllParts(document)) each.node.dispose() } },
  { rule: 'far-from-origin', severity: 'risky', spoil: ({ document }) => { for (const node of itemScene(document).listChildren()) node.setTranslation([10_000, 0, 0]) } },
  { rule: 'solid-apart', severity: 'risky', spoil: ({ document }) => { solid(document, 'hull').node.setTranslation([0, 0, 400]) } },
  { rule: 'shading-unknown', severity: 'blocks', spoil: ({ document }) => { setMaterialExtras(stone(document), { ...getMaterialExtras(stone(document)), shadingModel: 'velvet' }) } },
  { rule: 'shadow-missing', severity: 'risky', spoil: ({ document }) => { for (const shadow of listShadowParts(document)) shadow.node.dispose() } },
  { rule: 'shadow-too-dense', severity: 'risky', spoil: ({ rulebook }) => { rulebook.levels.shadow.mostShare = 0.05 } },
  { rule: 'name-form', severity: 'blocks', spoil: ({ document }) => { stone(document).setName('Gate Stone@stone') } },
  { rule: 'name-repeats', severity: 'blocks', spoil: ({ document }) => { part(document, 'hinge_pins').node.setName('arch_stone') } },
  { rule: 'texture-ending', severity: 'blocks', spoil: ({ document }) => { stone(document).getBaseColorTexture()?.setName('gate_stone_colour') } },
  { rule: 'material-count', severity: 'blocks', spoil: ({ rulebook }) => { rulebook.materials.largestCount = 2 } },
  { rule: 'material-missing', severity: 'blocks', spoil: ({ document }) => { surface(document, 'hinge_pins').setMaterial(null) } },
  { rule: 'material-tag', severity: 'blocks', spoil: ({ document }) => { stone(document).setName('gate_stone') } },
  { rule: 'material-surface', severity: 'blocks', spoil: ({ document }) => { stone(document).setName('gate_stone@cheese') } },
  { rule: 'material-flag', severity: 'blocks', spoil: ({ document }) => { stone(document).setName('gate_stone@stone.bothh') } },
  { rule: 'map-missing', severity: 'blocks', spoil: ({ document }) => { stone(document).setBaseColorTexture(null) } },
  { rule: 'map-forbidden', severity: 'blocks', spoil: ({ document }) => { setMaterialExtras(stone(document), { ...getMaterialExtras(stone(document)), shadingModel: 'flat' }) } },
  {
    rule: 'texture-missing', severity: 'blocks',
    spoil: ({ document }) => { setMaterialExtras(stone(document).setBaseColorTexture(null), { references: [{ role: 'colour', path: 'lost.png', found: null }] }) },
  },
  {
    rule: 'stock-texture', severity: 'blocks',
    spoil: ({ document }) => { setMaterialExtras(stone(document).setBaseColorTexture(null), { references: [{ role: 'colour', path: 'x.png', found: null, stock: 'stock/not_there_col.dds' }] }) },
  },
  { rule: 'texture-memory', severity: 'blocks', spoil: ({ kind }) => { kind.textureMemoryBytes = 100_000 } },
  { rule: 'texture-power-of-two', severity: 'blocks', spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 96, 64, true) },
  { rule: 'texture-size', severity: 'blocks', spoil: ({ rulebook }) => { rulebook.maps.largestPixels = 512 } },
  { rule: 'texture-aspect', severity: 'blocks', spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 64, 8, true) },
  { rule: 'texture-format', severity: 'blocks', spoil: ({ document }) => { stone(document).getBaseColorTexture()?.setImage(encodePng(plainPixels(64, 64), false) as Uint8Array<ArrayBuffer>).setMimeType('image/png') } },
  { rule: 'texture-codec', severity: 'blocks', spoil: ({ rulebook }) => { rulebook.maps.roles[0].codecs = ['bc3'] } },
  {
    rule: 'texture-space', severity: 'risky',
    spoil: ({ document }) => {
      const texture = stone(document).getBaseColorTexture()
      const image = (texture?.getImage() ?? new Uint8Array(0)).slice()
      // BC7 in numbers, where it was BC7 in sRGB.
      new DataView(image.buffer).setUint32(128, 98, true)
      texture?.setImage(image)
    },
  },
  { rule: 'texture-mipmaps', severity: 'blocks', spoil: ({ document }) => withDds(stone(document).getBaseColorTexture(), 64, 64, false) },
  { rule: 'solid-missing', severity: 'blocks', spoil: ({ document }) => { for (const each of listSolids(document)) each.node.dispose() } },
  { rule: 'solid-count', severity: 'blocks', spoil: ({ rulebook }) => { rulebook.solids.mostPerItem = 2 } },
  { rule: 'solid-name', severity: 'blocks', spoil: ({ document }) => { solid(document, 'mesh').node.setName('solid_mesch_01') } },
  { rule: 'solid-place', severity: 'blocks', spoil: ({ document }) => { itemScene(document).addChild(moveOut(solid(document, 'mesh'))) } },
  { rule: 'solid-shape', severity: 'blocks', spoil: ({ kind }) => { if (kind.solids) kind.solids.shapes = ['box', 'hull'] } },
  { rule: 'hull-points', severity: 'blocks', spoil: ({ rulebook }) => { rulebook.solids.hullPoints = 8 } },
  { rule: 'solid-not-read', severity: 'risky', spoil: ({ document }) => alterSolid(solid(document, 'hull'), { surface: null }) },
  { rule: 'solid-surface', severity: 'blocks', spoil: ({ document }) => alterSolid(solid(document, 'hull'), { surface: 'cheese' }) },
  { rule: 'solid-layer', severity: 'risky', spoil: ({ document }) => alterSolid(solid(document, 'hull'), { layers: ['ground', 'celing'] }) },
  { rule: 'solid-near-name', severity: 'risky', spoil: ({ document }) => renameAll(part(document, 'hinge_pins'), 'solid_bx_01') },
  { rule: 'opening-closed', severity: 'risky', spoil: ({ document }) => { const arch = solid(document, 'mesh'); arch.node.setMesh(soupMesh(document, arch.name, boxMesh(partBounds(arch)))).setTranslation([0, 0, 0]) } },
  { rule: 'solid-mass', severity: 'blocks', spoil: ({ document, kind }) => { if (kind.solids) kind.solids.massKilograms = { least: 1, most: 5 }; alterSolid(solid(document, 'hull'), { massKilograms: 50 }) } },
]

function alterValues(document: Document, primitive: Primitive, semantic: string, alter: (values: Float32Array) => void): void {
  const accessor = primitive.getAttribute(semantic)
  const values = Float32Array.from(accessor?.getArray() ?? [])
  alter(values)
  primitive.setAttribute(semantic, document.createAccessor().setType(accessor?.getType() ?? 'VEC3').setArray(values).setBuffer(document.getRoot().listBuffers()[0]))
}

const otherMaterial = (document: Document, primitive: Primitive) => listUsedMaterials(document).find((each) => each !== primitive.getMaterial()) ?? null

/** Hangs a part on bones; each of its corners follows the first four with the given weights. */
function hold(document: Document, { node, mesh }: Part, bones: number, weights: number[]): void {
  const skin = document.createSkin('bones')
  for (let number = 0; number < bones; number++) {
    const bone = document.createNode(`${node.getName()}_bone_${number}`)
    itemScene(document).addChild(bone)
    skin.addJoint(bone)
  }
  const [buffer] = document.getRoot().listBuffers()
  for (const primitive of mesh.listPrimitives()) {
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    primitive.setAttribute('JOINTS_0', document.createAccessor().setType('VEC4').setBuffer(buffer).setArray(Uint8Array.from({ length: corners * 4 }, (_, at) => Math.min(at % 4, bones - 1))))
    primitive.setAttribute('WEIGHTS_0', document.createAccessor().setType('VEC4').setBuffer(buffer).setArray(Float32Array.from({ length: corners * 4 }, (_, at) => weights[at % 4])))
  }
  node.setSkin(skin)
}

/** A clip of one second that turns a part. */
function turn(document: Document, { node }: Part): void {
  const [buffer] = document.getRoot().listBuffers()
  const sampler = document.createAnimationSampler().setInput(document.createAccessor().setType('SCALAR').setBuffer(buffer).setArray(new Float32Array([0, 1]))).setOutput(document.createAccessor().setType('VEC4').setBuffer(buffer).setArray(new Float32Array([0, 0, 0, 1, 0, 1, 0, 0])))
  document.createAnimation('swing').addSampler(sampler).addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler))
}

function reverse(primitive: Primitive): void {
  const indices = primitive.getIndices()
  const array = indices?.getArray()
  if (indices && array) primitive.setIndices(indices.clone().setArray(array.slice().reverse()))
}

/** Takes away what faces forward, so that one looks into the rest. */
function openFront(primitive: Primitive): void {
  const { positions, indices } = readPrimitive(primitive)
  const normals = faceNormals(positions, indices)
  const array = indices.filter((_, index) => normals[Math.floor(index / 3) * 3 + 2] < 0.5)
  primitive.setIndices(primitive.getIndices()?.clone().setArray(array) ?? null)
}

/** A part and what hangs below it under the same name. */
function renameAll(each: Part, name: string): void {
  for (const child of each.node.listChildren()) child.setName(child.getName().replace(each.name, name))
  each.node.setName(name)
}

function moveOut(each: Part) {
  each.node.getParentNode()?.removeChild(each.node)
  return each.node
}

function alterSolid({ node }: Part, change: object): void {
  const extras = getNodeExtras(node)
  if (extras.solid) setNodeExtras(node, { ...extras, solid: { ...extras.solid, ...change } })
}

async function judge(spoil: (spoiled: Spoiled) => void | Promise<void>) {
  const rulebook = rulebookSchema.parse(structuredClone(tarnAndTiller))
  const kind = rulebook.kinds.find((each) => each.id === 'prop') as Kind
  const document = copyDocument(gate.result.document)
  await spoil({ document, rulebook, kind })
  const { findings } = checkItem({ document, rulebook, kind })
  const pack = await packItems([{ name: 'boathouse_gate', kind, document }], rulebook, 'spoiled')
  return { findings, trial: loadPack(pack.bytes, rulebook) }
}

describe('the loader as a second opinion', () => {
  it('is silent about an item that only has notes', async () => {
    const { findings, trial } = await judge(() => undefined)
    expect(findings.length).toBeGreaterThan(0)
    expect(findings.every((finding) => finding.severity === 'note')).toBe(true)
    expect(trial.log.map((line) => line.level)).toEqual(['told'])
  })

  it.each(spoilers)('agrees about $rule, which $severity', async ({ rule, severity, spoil }) => {
    const { findings, trial } = await judge(spoil)
    expect(findings.find((finding) => finding.rule === rule)?.severity).toBe(severity)
    expect(trial.loads).toBe(!findings.some((finding) => finding.severity === 'blocks'))
    // What is refused may draw further complaints after it; what loads complains exactly when something is risky.
    if (trial.loads) expect(trial.log.some((line) => line.level === 'complaint')).toBe(findings.some((finding) => finding.severity === 'risky'))
  })

  it('has a spoiled pack for every rule there is, but for the notes', () => {
    const folder = new URL('../rules/', import.meta.url)
    const written = readdirSync(folder)
      .filter((file) => !file.endsWith('.test.ts'))
      .flatMap((file) => [...readFileSync(new URL(file, folder), 'utf8').matchAll(/rule: '([a-z-]+)'/g)].map((match) => match[1]))
    const notes = ['polygons-left', 'axes-not-turned', 'unit-not-scaled', 'texture-path', 'texture-unreadable', 'stray', 'no-outside', 'double-triangles', 'slivers', 'crowded-edges', 'holes', 'one-node', 'thin-pieces', 'shadow-open', 'shadow-outside', 'flag-and-image', 'older-map-under', 'look-part-missing', 'models-unlike', 'solid-drawn', 'solid-unlike', 'solid-stands-out', 'level-seen', 'not-carried', 'given-up']
    expect([...new Set(written)].sort()).toEqual([...spoilers.map((each) => each.rule), ...notes].sort())
  })
})
