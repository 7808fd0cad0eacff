import { describe, expect, it } from 'vitest'
import { guessKind } from '../game/guess-kind.ts'
import { readItem } from '../intake/read-item.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { anyFileSummary, anyFileTable, secondsAllowed, shareThatLoads, type TriedFile } from './any-file-table.ts'
import { bringIn } from './bring-in.ts'
import { tryAlone, type TriedItem } from './try-alone.ts'

const game = { rulebook: tarnAndTiller, stock: null }
const text = (path: string, ...lines: string[]) => ({ path, bytes: new TextEncoder().encode(lines.join('\n')) })
const tried = (over: Partial<TriedItem> = {}): TriedItem => ({
  kind: 'prop',
  triangles: 20_000,
  parts: 3,
  materials: 2,
  largestMapPixels: 1024,
  worklist: [],
  seconds: 4.9,
  loads: true,
  reason: null,
  failures: [],
  blocking: [],
  refusals: [],
  risky: [],
  ...over,
})

/** A box as a stranger wrote it: centimetres, a lost texture on one side, no UVs, no normals. */
const strangersBox = [
  text(
    'crate.obj',
    'mtllib crate.mtl',
    'o crate',
    ...[0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => `v ${x * 80} ${y * 80} ${z * 80}`))),
    'usemtl side',
    'f 1 2 4 3',
    'f 5 7 8 6',
    'f 1 5 6 2',
    'usemtl lid',
    'f 3 4 8 7',
    'f 1 3 7 5',
    'f 2 6 8 4',
  ),
  text('crate.mtl', 'newmtl side', 'Kd 0.6 0.4 0.2', 'map_Kd D:\\art\\side.png', 'newmtl lid', 'Kd 0.2 0.4 0.6'),
]

describe('a file that nobody has seen before', () => {
  it('is prepared alone into a pack that loads', async () => {
    const [brought] = await bringIn(strangersBox, 'prop', {}, [])
    const result = await tryAlone(brought, game)
    expect(result).toMatchObject({ loads: true, reason: null, kind: 'prop', triangles: 12, materials: 2, failures: [] })
    expect(result.blocking).toEqual([])
    expect(result.worklist.map(({ step }) => step)).toContain('stand-in-colours')
  })

  it('says the one reason where it cannot load', async () => {
    const [brought] = await bringIn(strangersBox, 'prop', {}, [])
    const kinds = tarnAndTiller.kinds.map((kind) => ({ ...kind, textureMemoryBytes: 1 }))
    const { loads, reason } = await tryAlone(brought, { rulebook: { ...tarnAndTiller, kinds }, stock: null })
    expect(loads).toBe(false)
    expect(reason).toMatch(/bytes|MB/)
  })
})

describe('what a thing becomes, guessed', () => {
  it('is the first kind with a mesh where nothing moves', () => {
    expect(guessKind(documentOf({ box: unitBox() }), tarnAndTiller)).toMatchObject({ kind: { id: 'prop' } })
  })

  it('is a kind whose parts may move where a clip moves one', () => {
    const document = documentOf({ box: unitBox() })
    const node = document.getRoot().listNodes()[0]
    const times = document
      .createAccessor()
      .setType('SCALAR')
      .setArray(Float32Array.from([0, 1]))
    const places = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.from([0, 0, 0, 0, 1, 0]))
    const sampler = document.createAnimationSampler().setInput(times).setOutput(places)
    document
      .createAnimation('up')
      .addSampler(sampler)
      .addChannel(
        document.createAnimationChannel().setTargetNode(node).setTargetPath('translation').setSampler(sampler),
      )
    const guessed = guessKind(document, tarnAndTiller)
    expect(guessed.kind.motionAsked).toBe(true)
    expect(guessed.reason).toBe('It brings motion of its parts.')
  })

  it('is a kind that bends where it has bones as that kind wants them', () => {
    const document = documentOf({ box: unitBox(), cloth: unitBox() })
    const root = document.getRoot()
    const [box, cloth] = root.listNodes()
    const bone = document.createNode('bone')
    root.listScenes()[0].addChild(bone)
    cloth.setSkin(document.createSkin('hung').addJoint(bone))
    const bending = (rigidPartPerBone: boolean) => ({
      ...tarnAndTiller,
      kinds: tarnAndTiller.kinds.map((kind) =>
        kind.bones ? { ...kind, bones: { ...kind.bones, rigidPartPerBone } } : kind,
      ),
    })
    const free = guessKind(document, bending(false))
    expect(free.kind.bones).not.toBeNull()
    expect(free.reason).toBe('Its mesh hangs on bones.')
    // The bones of a character follow no stiff part: such a game would draw it stiff.
    expect(guessKind(document, bending(true)).kind.id).toBe('prop')
    box.addChild(bone)
    expect(guessKind(document, bending(true)).kind.bones).not.toBeNull()
    const stiff = { ...tarnAndTiller, kinds: tarnAndTiller.kinds.filter(({ bones }) => bones === null) }
    expect(guessKind(document, stiff).kind.id).toBe('prop')
  })

  it('needs a kind with a mesh', () => {
    const rulebook = { ...tarnAndTiller, kinds: tarnAndTiller.kinds.filter(({ mesh }) => mesh === null) }
    expect(() => guessKind(documentOf({ box: unitBox() }), rulebook)).toThrow(RangeError)
  })
})

describe('the table of tried files', () => {
  const files: TriedFile[] = [
    { file: 'a|b.obj', tried: tried() },
    { file: 'late.obj', tried: tried({ seconds: 5.1 }) },
    { file: 'fine.obj', tried: tried({ seconds: 5.1, largestMapPixels: 2048 }) },
    { file: 'no.obj', tried: tried({ loads: false, reason: 'It has\nno solid.' }) },
    { file: 'cut.fbx', refused: 'cut.fbx: it is cut off.' },
  ]
  it(
    'has one line a file, whatever it is called, and marks what took too long for maps that are not larger than ' +
      'is timed',
    () => {
      const lines = anyFileTable(files)
      expect(lines).toHaveLength(7)
      expect(lines[2]).toBe('| a b.obj | prop | 20,000 | 3 | 2 | 1024² | 0 | 4.9 | loads |  |')
      expect(lines[3]).toContain('| 5.1 (late) | loads |')
      expect(lines[4]).toContain('| 2048² | 0 | 5.1 | loads |')
      expect(lines[5]).toContain('| refused | It has no solid. |')
      expect(lines[6]).toContain('| not read | cut.fbx: it is cut off. |')
    },
  )

  it('counts what loads among what can be read', () => {
    expect(shareThatLoads(files)).toBeCloseTo(3 / 4)
    expect(shareThatLoads([])).toBe(1)
    expect(secondsAllowed(20_000)).toBe(5)
    expect(anyFileSummary(files)).toMatch(
      /^5 files: 3 of the 4 that can be read load \(75\.0 %\), 1 cannot be read; 1 of the 3 with maps /,
    )
  })
})

describe('a PLY of points alone', () => {
  it('is told to be one', async () => {
    const points = text(
      'scan.ply',
      'ply',
      'format ascii 1.0',
      'element vertex 1',
      'property float x',
      'end_header',
      '1',
    )
    await expect(readItem('scan.ply', [points], {})).rejects.toThrow('it holds points and no faces')
  })
})
