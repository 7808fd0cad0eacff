import type { Document, Node } from '@gltf-transform/core'
import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, startOf } from '../crate/bring-in.ts'
import { prepareItem, type Prepared } from '../crate/prepare-item.ts'
import { kindOf } from '../game/load.ts'
import { copyDocument } from '../item/io.ts'
import { itemScene } from '../item/parts.ts'
import { multiplyMatrices } from '../maths/axes.ts'
import { blend, carriedBy, heldCorners, type HeldCorners } from '../maths/bend.ts'
import { itemBendable } from '../operations/motion/bendable.ts'
import { itemMotion, motionFrames } from '../operations/motion/pose.ts'
import { putCurve } from '../operations/motion/put-curve.ts'
import { listHeldParts, meshSoup, readHeldMesh, setBones, writeWeights } from '../operations/motion/skin.ts'
import { emptyTable, SLOTS } from '../geometry/skin/weight-table.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { demoSources } from '../test-support/sources.ts'
import { stepById } from '../steps/registry.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { variousGames } from '../test-support/various-games.ts'
import { loadPack } from './load-pack.ts'
import { heldBonesOf, loadedBones } from './loaded-bones.ts'
import { inverse } from './matrices.ts'
import { secondsOf, standingsOf } from './moving.ts'

const held = (document: Document) => {
  const [part] = listHeldParts(document)
  const mesh = readHeldMesh(part)
  const skin = part.node.getSkin()
  if (!mesh || !skin) throw new Error('nothing is held')
  return { part, mesh, skin, bones: mesh.bones }
}
const above = (node: Node): Node => node.getParentNode() ?? node

interface Spoiler {
  rule: string
  severity: 'blocks' | 'risky'
  /** What the loader says. */
  code: string
  spoil: (document: Document) => void
}

const spoilers: Spoiler[] = [
  {
    rule: 'bones-missing',
    severity: 'risky',
    code: 'mesh.stiff',
    spoil(of) {
      const { part, bones, skin } = held(of)
      part.node.setSkin(null)
      skin.dispose()
      for (const bone of bones) bone.dispose()
      for (const primitive of part.mesh.listPrimitives())
        primitive.setAttribute('JOINTS_0', null).setAttribute('WEIGHTS_0', null)
    },
  },
  {
    rule: 'bone-count',
    severity: 'blocks',
    code: 'mesh.bones',
    spoil(of) {
      const { skin, bones, mesh } = held(of)
      const more = Array.from({ length: 20 }, (_, number) => of.createNode(`bone_more_${number}`))
      for (const bone of more) itemScene(of).addChild(bone)
      setBones(of, skin, [...bones, ...more], [...mesh.binds, ...more.map(() => mesh.binds[0])])
    },
  },
  {
    rule: 'bone-influences',
    severity: 'risky',
    code: 'mesh.influences',
    spoil(of) {
      const { part, mesh } = held(of)
      const table = emptyTable(mesh.table.corners, mesh.bones.length)
      for (let at = 0; at < table.boneOf.length; at++) {
        table.boneOf[at] = (at % SLOTS) % 5
        table.weightOf[at] = at % SLOTS < 5 ? 0.2 : 0
      }
      writeWeights(of, part.mesh, table)
    },
  },
  {
    rule: 'weights-sum',
    severity: 'risky',
    code: 'mesh.weights',
    spoil(of) {
      const { part, mesh } = held(of)
      writeWeights(of, part.mesh, { ...mesh.table, weightOf: mesh.table.weightOf.map((weight) => weight / 2) })
    },
  },
  {
    rule: 'weights-sum',
    severity: 'risky',
    code: 'mesh.weights',
    spoil(of) {
      const { part, mesh } = held(of)
      writeWeights(of, part.mesh, emptyTable(mesh.table.corners, mesh.bones.length))
    },
  },
  {
    rule: 'bone-alone',
    severity: 'risky',
    code: 'bone.alone',
    spoil: (of) => void itemScene(of).addChild(held(of).bones[0]),
  },
  {
    rule: 'bone-shared',
    severity: 'risky',
    code: 'bone.shared',
    spoil(of) {
      const [first, second] = held(of).bones
      above(first).addChild(second)
    },
  },
  {
    rule: 'bent-below-bone',
    severity: 'risky',
    code: 'bone.below',
    spoil(of) {
      const { part, bones } = held(of)
      above(bones[0]).addChild(part.node)
    },
  },
]

/** Where the corners of a held part go, in the scene. */
function bent(
  { rest, surfaces }: { rest: ArrayLike<number>; surfaces: readonly HeldCorners[] },
  ways: readonly number[][],
  positions: Float32Array,
): Float32Array {
  const matrices = ways.flatMap((way, bone) => multiplyMatrices(way, Array.from(rest).slice(bone * 16, bone * 16 + 16)))
  const into = new Float32Array(positions.length)
  const boneOf = Uint16Array.from(surfaces.flatMap((surface) => [...surface.boneOf]))
  const weightOf = Float32Array.from(surfaces.flatMap((surface) => [...surface.weightOf]))
  blend(positions, { boneOf, weightOf }, matrices, true, into)
  return into
}

describe.each(variousGames)('what bends, in %s', (_, rulebook) => {
  const kind = kindOf(rulebook, 'bender')
  let made: Prepared
  beforeAll(async () => {
    const [{ item, files }] = await bringIn(demoSources('canvas_awning'), kind.id, {}, [])
    const start = await startOf(item, async (sha) => files.find((file) => file.sha256 === sha)?.file.bytes ?? null)
    made = await prepareItem(start, { rulebook, kind, store: memoryStore() })
  })
  const judge = async (spoil: (document: Document) => void = () => undefined) => {
    const document = copyDocument(made.result.document)
    spoil(document)
    const { findings } = checkItem({ document, rulebook, kind })
    const { bytes } = await packItems([{ name: 'awning', kind, document }], rulebook, 'bending')
    return { findings, trial: loadPack(bytes, rulebook) }
  }

  it('the awning comes out of Prepare with a bone a rib, and nothing but notes', async () => {
    const { findings, trial } = await judge()
    expect(findings.filter(({ severity }) => severity !== 'note')).toEqual([])
    expect(trial.log.filter(({ level }) => level !== 'told')).toEqual([])
    expect(trial.items[0].view.find(({ bones }) => bones.length > 0)?.bones).toEqual([
      'bone_rib_1',
      'bone_rib_2',
      'bone_rib_3',
      'bone_rib_4',
      'bone_rib_5',
    ])
  })

  it('bends from its packed bytes as it does on the bench, whichever way a bone is moved', async () => {
    const bench = itemBendable(made.result.document)
    const { trial } = await judge()
    const [{ view }] = trial.items
    const loaded = loadedBones(view)
    expect(loaded?.bones.map(({ name }) => name)).toEqual(bench?.bones.map(({ name }) => name))
    expect(loaded?.carried).toEqual(bench?.carried)
    const cloth = view.find(({ bones }) => bones.length > 0)
    const [part] = listHeldParts(made.result.document)
    if (!bench || !loaded || !cloth) throw new Error('nothing bends')
    for (const bone of [0, 2])
      for (const turnDegrees of [[40, 0, 0] as const, [0, 35, 0] as const, [10, 0, -30] as const]) {
        const moves = new Map([[bone, { turnDegrees, moved: [0.3, 0, -0.2] as const }]])
        const onBench = bent(bench.held[0], carriedBy(bench.bones, moves), meshSoup(part.mesh).positions)
        const { surfaces, rest } = loaded.held[0]
        const own = cloth.primitives.map(({ positions }, surface) =>
          bent(
            { rest, surfaces: [heldCorners(surfaces[surface], positions.length / 3, loaded.bones.length)] },
            carriedBy(loaded.bones, moves),
            positions,
          ),
        )
        const all = own.flatMap((positions) => [...positions])
        expect(all.length).toBe(onBench.length)
        const furthest = onBench.reduce((most, value, at) => Math.max(most, Math.abs(value - all[at])), 0)
        expect(furthest).toBeLessThan(1e-3)
      }
  })

  it('bends as its clips go, at every moment, from its packed bytes as on the bench', async () => {
    const swing = (document: Document): void => {
      const rib = above(held(document).bones[0])
      const times = Float32Array.from({ length: 25 }, (_, key) => key / 12)
      const half = [...times].map((seconds) => 0.35 * Math.sin((seconds / 2) * Math.PI))
      putCurve(document, document.createAnimation('swings'), rib, {
        path: 'rotation',
        interpolation: 'LINEAR',
        times,
        values: Float32Array.from(half.flatMap((angle) => [Math.sin(angle), 0, 0, Math.cos(angle)])),
      })
    }
    const document = copyDocument(made.result.document)
    swing(document)
    const bench = itemMotion(document)
    const { trial } = await judge(swing)
    const [{ view, clips }] = trial.items
    const loaded = motionFrames(
      {
        parts: [],
        bones: heldBonesOf(view).map((bone) => ({ name: bone.name, thing: bone, into: inverse(bone.world) })),
      },
      secondsOf(clips),
      standingsOf(clips),
    )
    expect(loaded?.bones.map(({ name }) => name)).toEqual(bench?.bones.map(({ name }) => name))
    const middle = Math.floor((bench?.frames ?? 0) / 2) * 16
    // The rib has turned by 0.7 in the middle, and the one beside it has not.
    expect(bench?.bones[0].matrices[middle + 5]).toBeCloseTo(Math.cos(0.7), 3)
    expect(bench?.bones[2].matrices[middle + 5]).toBeCloseTo(1, 6)
    bench?.bones.forEach(({ matrices }, bone) => {
      const furthest = matrices.reduce(
        (most, value, at) => Math.max(most, Math.abs(value - (loaded?.bones[bone].matrices[at] ?? NaN))),
        0,
      )
      expect(furthest).toBeLessThan(1e-3)
    })
  })

  it('is told where a bone does not stand where it took hold, as with a mesh of another version', async () => {
    const told = async (by: number) => {
      const { findings } = await judge((document) => {
        const rib = above(held(document).bones[2])
        const [x, y, z] = rib.getTranslation()
        rib.setTranslation([x, y + by, z])
      })
      return findings
        .filter(({ rule }) => rule === 'held-elsewhere')
        .map(({ severity, message }) => [severity, message])
    }
    expect(await told(0.001)).toEqual([])
    expect(await told(0.5)).toEqual([
      ['note', expect.stringMatching(/^bone_rib_3 bends cloth by 0\.\d+ spans at rest/)],
    ])
  })

  it.each(spoilers)('agree about $rule, $severity ($code)', async ({ rule, severity, code, spoil }) => {
    const { findings, trial } = await judge(spoil)
    expect(findings.find((finding) => finding.rule === rule)?.severity).toBe(severity)
    expect(trial.log.find((line) => line.code === code)?.level).toBe(severity === 'blocks' ? 'refused' : 'complaint')
    expect(trial.loads).toBe(!findings.some((finding) => finding.severity === 'blocks'))
  })

  it('knows a mend for all that a step can mend, which leaves nothing of it', async () => {
    for (const { rule, spoil } of spoilers) {
      const document = copyDocument(made.result.document)
      spoil(document)
      const mend = checkItem({ document, rulebook, kind }).findings.find((finding) => finding.rule === rule)?.mend
      if (!mend) continue
      const step = stepById(mend.step)
      const context = { document, rulebook, kind }
      const parameters = { ...(step.defaults(context) as object), ...mend.parameters }
      await step.run({ ...context, parameters, progress: async () => undefined })
      expect(checkItem(context).findings.filter((finding) => finding.rule === rule)).toEqual([])
    }
  })
})
