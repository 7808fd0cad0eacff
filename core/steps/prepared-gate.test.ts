import { writtenNames } from '../test-support/written-names.ts'
import { beforeAll, describe, expect, it } from 'vitest'
import { boundsSize, mergedTriangles, partsBounds } from '../item/measure.ts'
import { countTriangles, listViewParts } from '../item/parts.ts'
import { listLevelParts } from '../item/annotations/level/list.ts'
import { listShadowParts } from '../item/annotations/shadow/list.ts'
import { listSolids } from '../item/annotations/solid/list.ts'
import { createRayCaster, spreadDirections } from '../geometry/surface/ray-caster.ts'
import { packItems } from '../pack/pack-crate.ts'
import { kindOf } from '../game/load.ts'
import { checkItem } from '../rules/registry.ts'
import { prepareDemo, tarnAndTiller, type PreparedItem } from '../test-support/prepared-gate.ts'
import { loadPack } from '../trial/load-pack.ts'
import { walkFigure } from '../trial/walk.ts'

let gate: PreparedItem
beforeAll(async () => {
  gate = await prepareDemo('boathouse_gate', 'prop')
})
const prop = kindOf(tarnAndTiller, 'prop')

describe('the prepared Boathouse gate', () => {
  it('has every step that its faults ask for, each with a reason', () => {
    const proposed = gate.item.worklist.map((entry) => entry.step)
    expect(proposed.filter((step) => step !== 'add-solid')).toEqual([
      'drop-strays',
      'turn-axes',
      'scale-to-game',
      'triangulate',
      'weld',
      'turn-outward',
      'reduce-triangles',
      'even-normals',
      'turn-normal-maps',
      'fold-materials',
      'levels-and-shadow',
      'clean-names',
      'tag-materials',
      'size-maps',
      'pad-islands',
      'compress-maps',
    ])
    expect(proposed.filter((step) => step === 'add-solid').length).toBeGreaterThanOrEqual(3)
    for (const entry of gate.item.worklist) expect(entry.reason).toMatch(/\w.*\.$/)
    expect(gate.result.outcomes.every((outcome) => outcome.state === 'done')).toBe(true)
  })

  it('stays within the budgets of a prop', () => {
    const view = countTriangles(listViewParts(gate.result.document))
    const solids = countTriangles(listSolids(gate.result.document))
    expect(view).toBeLessThanOrEqual(12_000)
    expect(view).toBeGreaterThan(8_000)
    expect(view + solids).toBeLessThanOrEqual(15_000)
    expect(countTriangles(listLevelParts(gate.result.document, 1))).toBeLessThanOrEqual(view * 0.5)
    expect(countTriangles(listLevelParts(gate.result.document, 2))).toBeLessThanOrEqual(view * 0.2)
    expect(countTriangles(listShadowParts(gate.result.document))).toBeLessThanOrEqual(view * 0.25)
  })

  it('has the right size to a tenth of a percent', () => {
    // The source in centimetres, Z up, without its ground shade; one span is 50 cm.
    const modelled = listViewParts(gate.start.document).filter((part) => part.name !== 'Ground shade')
    const [width, depth, height] = boundsSize(partsBounds(modelled))
    const [x, y, z] = boundsSize(partsBounds(listViewParts(gate.result.document)))
    expect(x / (width / 50)).toBeCloseTo(1, 2.7)
    expect(y / (height / 50)).toBeCloseTo(1, 2.7)
    expect(z / (depth / 50)).toBeCloseTo(1, 2.7)
  })

  it('stands upright with its front towards +Z', () => {
    const leaf = listViewParts(gate.result.document).find((part) => part.name === 'left_leaf')
    const arch = listViewParts(gate.result.document).find((part) => part.name === 'arch_stone')
    if (!leaf || !arch) throw new Error('parts are missing')
    // The leaves swing back, away from the front.
    expect(partsBounds([leaf]).min[2]).toBeLessThan(partsBounds([arch]).min[2])
    expect(partsBounds([arch]).max[1]).toBeGreaterThan(7)
  })

  it('shows only outward faces: rays from outside meet fronts', () => {
    const { positions, indices } = mergedTriangles(listViewParts(gate.result.document))
    const caster = createRayCaster(positions, indices)
    const bounds = partsBounds(listViewParts(gate.result.document))
    const centre = bounds.min.map((low, axis) => (low + bounds.max[axis]) / 2)
    let hits = 0
    let backs = 0
    for (const direction of spreadDirections(60)) {
      for (let shift = -1.5; shift <= 1.5; shift += 0.25) {
        const origin = centre.map((value, axis) => value - direction[axis] * 40 + (axis === 1 ? shift : shift * 0.7))
        const hit = caster.first(origin, direction)
        if (!hit) continue
        hits++
        if (!hit.front) backs++
      }
    }
    expect(hits).toBeGreaterThan(300)
    expect(backs / hits).toBeLessThan(0.01)
  })

  it('gives every surface unit normals, and tangents where a normal map lies', () => {
    for (const part of listViewParts(gate.result.document)) {
      for (const primitive of part.mesh.listPrimitives()) {
        const normals = primitive.getAttribute('NORMAL')?.getArray() ?? []
        for (let at = 0; at < normals.length; at += 3)
          expect(Math.abs(Math.hypot(normals[at], normals[at + 1], normals[at + 2]) - 1)).toBeLessThan(1e-4)
        expect(primitive.getAttribute('TANGENT') !== null).toBe(primitive.getMaterial()?.getNormalTexture() !== null)
      }
    }
  })

  it('names, tags and compresses as the game reads', () => {
    expect(writtenNames(gate.result.document).sort()).toEqual([
      'gate_stone@stone',
      'iron_strap@iron',
      'leaf_timber@timber',
    ])
    const textures = gate.result.document.getRoot().listTextures()
    expect(textures.map((texture) => texture.getName()).sort()).toEqual([
      'gate_stone_col',
      'gate_stone_nrm',
      'iron_strap_col',
      'timber_leaf_col',
    ])
    expect(new Set(textures.map((texture) => texture.getMimeType()))).toEqual(new Set(['image/vnd-ms.dds']))
  })

  it('has nothing left that blocks or is risky', () => {
    const { findings } = checkItem({ document: gate.result.document, rulebook: tarnAndTiller, kind: prop })
    expect(findings.filter((finding) => finding.severity !== 'note')).toEqual([])
  })

  it('loads, and its doorway is still open to the figure while its piers are not', async () => {
    const pack = await packItems(
      [{ name: 'boathouse_gate', kind: prop, document: gate.result.document }],
      tarnAndTiller,
      'test',
    )
    const trial = loadPack(pack.bytes, tarnAndTiller)
    expect(trial.log.filter((line) => line.level !== 'told')).toEqual([])
    expect(trial.loads).toBe(true)
    const [{ solids }] = trial.items
    const through = await walkFigure(solids, tarnAndTiller, [0, 0, 4], [0, 0, -5])
    expect(through.arrived).toBe(true)
    const intoPier = await walkFigure(solids, tarnAndTiller, [2.8, 0, 4], [2.8, 0, -5])
    expect(intoPier.arrived).toBe(false)
  })
})

describe('the prepared Mooring bell', () => {
  it('keeps its motion, bakes its still post and leaves the swinging arm alone', async () => {
    const bell = await prepareDemo('mooring_bell', 'mover')
    const root = bell.result.document.getRoot()
    expect(root.listAnimations()).toHaveLength(1)
    expect(root.listCameras()).toHaveLength(0)
    const parts = listViewParts(bell.result.document)
    const post = parts.find((part) => part.name === 'post')
    const arm = parts.find((part) => part.name === 'swing_arm')
    expect(post?.node.getScale()).toEqual([1, 1, 1])
    // Metres to spans: twice the number, also for where the moving arm hangs.
    expect(arm?.node.getTranslation()[1]).toBeCloseTo(3.6)
    const [, height] = boundsSize(partsBounds(parts))
    expect(height).toBeCloseTo(3.8, 3)
    const target = root.listAnimations()[0].listChannels()[0].getTargetNode()
    expect(target?.getName()).toBe('swing_arm')
  })
})
