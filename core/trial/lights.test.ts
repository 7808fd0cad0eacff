import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { setMaterialTag } from '../game/material-tag.ts'
import type { Rulebook } from '../game/schema.ts'
import { itemLights } from '../operations/motion/lights.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { loadPack } from './load-pack.ts'

const leftHanded: Rulebook = {
  ...tarnAndTiller,
  id: 'left-handed',
  space: { ...tarnAndTiller.space, up: '+z', forward: '-x', handedness: 'left' },
}
const games: [string, Rulebook][] = [tarnAndTiller, leftHanded].map((game) => [game.id, game])
const glow = { name: 'Glow', at: [[0.2, 2.5, -0.4]], colour: '#ff8000', candela: 12, range: 7 }

describe.each(games)('lights, in %s', (_, rulebook) => {
  const lit = async (kindId: string, count: number, more: object = {}) => {
    const options = { rulebook, kind: kindOf(rulebook, kindId) }
    let document = documentOf({ stove: ball(1, 8, [0, 1, 0]) })
    for (const material of document.getRoot().listMaterials())
      setMaterialTag(document, material, { base: material.getName(), surface: 'iron', flags: [] }, rulebook)
    const summaries: string[] = []
    for (let number = 0; number < count; number++) {
      const { after, summary } = await runStep('put-light', document, { ...glow, ...more }, options)
      document = after
      summaries.push(summary.details[0])
    }
    for (const step of ['plain-colours', 'even-normals', 'clean-names', 'tag-materials', 'compress-maps'])
      document = (await runStep(step, document, {}, options)).after
    const { bytes } = await packItems([{ name: 'stove', kind: options.kind, document }], rulebook, 'stove')
    return {
      document,
      summaries,
      findings: checkItem({ document, ...options }).findings,
      trial: loadPack(bytes, rulebook),
    }
  }

  it('come out of the pack where they were put, with their colour, strength and range', async () => {
    const { document, trial, findings } = await lit('fitting', 1)
    expect(findings.filter(({ severity }) => severity !== 'note')).toEqual([])
    expect(trial.log.filter(({ level }) => level !== 'told')).toEqual([])
    const [bench] = itemLights(document)
    const [{ name, light, world }] = trial.items[0].lights
    expect(name).toBe(bench.name)
    world.slice(12, 15).forEach((value, axis) => expect(value).toBeCloseTo(glow.at[0][axis], 5))
    expect(light).toMatchObject({ kind: 'point', intensity: 12, range: 7 })
    light?.colour.forEach((value, channel) => expect(value).toBeCloseTo(bench.colour[channel], 5))
    // Orange in sRGB, linear in the file.
    expect(bench.colour[0]).toBeCloseTo(1, 5)
    expect(bench.colour[1]).toBeCloseTo(0.2159, 3)
  })

  it('that shine in a cone shine the same way from the pack, as wide as was said', async () => {
    for (const [towards, way] of [
      ['-y', [0, -1, 0]],
      ['+x', [1, 0, 0]],
      ['-z', [0, 0, -1]],
    ] as const) {
      const { document, trial } = await lit('fitting', 1, { shines: 'cone', towards, coneDegrees: 70 })
      const [bench] = itemLights(document)
      const beam = trial.items[0].lights[0].light?.beam
      way.forEach((value, axis) => {
        expect(bench.beam?.towards[axis]).toBeCloseTo(value, 5)
        expect(beam?.towards[axis]).toBeCloseTo(value, 5)
      })
      expect(beam?.outerDegrees).toBeCloseTo(35, 4)
      expect(beam?.innerDegrees).toBeCloseTo(28, 4)
    }
  })

  it('are no more than the kind may have', async () => {
    const { document, summaries } = await lit('fitting', 3)
    expect(itemLights(document).length).toBe(2)
    expect(summaries[2]).toMatch(/2 lights at most/)
    expect((await lit('prop', 1)).summaries[0]).toMatch(/no lights/)
  })
})
