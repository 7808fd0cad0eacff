import { describe, expect, it } from 'vitest'
import { simpleCurve } from '../../geometry/motion/simple-motion.ts'
import { listSceneNodes } from '../../item/parts.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { kindOf } from '../../game/load.ts'
import { compareCurves } from './compare-curves.ts'
import { putCurve } from './put-curve.ts'
import type { Sampling } from './sample-clips.ts'

const sampling: Sampling = {
  keysPerSecond: 30,
  place: 0.005,
  angleDegrees: 0.5,
  thin: 'all',
  startAtZero: true,
  loops: 'as-fits',
  longestSeconds: 20,
}
function swinging() {
  const document = documentOf({ arm: unitBox() })
  const arm = listSceneNodes(document)[0]
  const rest = { translation: arm.getTranslation(), rotation: arm.getRotation() }
  const motion = { axis: [0, 0, 1] as [number, number, number], distance: 3, angleDegrees: 60, seconds: 4, begins: 0 }
  const clip = document.createAnimation('swings')
  putCurve(document, clip, arm, simpleCurve({ ...motion, way: 'swing', easing: 'soft' }, rest, 120))
  putCurve(document, clip, arm, simpleCurve({ ...motion, way: 'there-and-back', easing: 'even' }, rest, 120))
  return document
}

describe('a curve before and after sampling', () => {
  it('shows what the step then does: its keys, its bytes and its error', async () => {
    const document = swinging()
    const report = await compareCurves(document, sampling, tarnAndTiller)
    const { summary } = await runStep(
      'sample-motion',
      document,
      { ...sampling },
      { kind: kindOf(tarnAndTiller, 'mover') },
    )
    expect(summary.headline).toBe(`${report.keysAfter} keys`)
    expect(summary.details[0]).toContain(`${(report.bytesAfter / 1024).toFixed(1)} KiB`)
    expect(report.keysBefore).toBe(481)
    expect(report.keysAfter).toBeLessThan(60)
  })
  it('stays below what is allowed at any time, and begins at nought', async () => {
    const { curves } = await compareCurves(swinging(), sampling, tarnAndTiller)
    expect(curves.map(({ path }) => path).sort()).toEqual(['rotation', 'translation'])
    for (const { error, allowed, before, after, worst, seconds } of curves) {
      expect(Math.max(...error)).toBeLessThanOrEqual(allowed * 1.01)
      expect(worst.error).toBeLessThanOrEqual(allowed * 1.01)
      expect(before[0]).toBe(0)
      expect(Math.abs(after[0])).toBeLessThan(1e-4)
      expect(seconds[seconds.length - 1]).toBeCloseTo(4, 5)
    }
    const turn = curves.find(({ path }) => path === 'rotation')
    expect(Math.max(...(turn?.before ?? []))).toBeCloseTo(60, 0)
  })
  it('has fewer keys and fewer bytes the more it may be off', async () => {
    const [fine, coarse] = [
      await compareCurves(swinging(), sampling, tarnAndTiller),
      await compareCurves(swinging(), { ...sampling, angleDegrees: 5, place: 0.5 }, tarnAndTiller),
    ]
    expect(coarse.keysAfter).toBeLessThan(fine.keysAfter)
    expect(coarse.bytesAfter).toBeLessThan(fine.bytesAfter)
    expect(coarse.bytesBefore).toBe(fine.bytesBefore)
  })
})
