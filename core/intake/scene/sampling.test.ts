import { describe, expect, it } from 'vitest'
import { identityMatrix } from '../../maths/axes.ts'
import { rotationMatrix, scalingMatrix, translationMatrix, type Matrix } from '../../maths/matrices.ts'
import { sampleTimes, tracksOf } from './sampling.ts'
import type { SourceNode } from './source-scene.ts'

const keysAt = (perSecond: number, count: number): number[] =>
  Array.from({ length: count }, (_, key) => key / perSecond)

describe('the times at which a source’s motion is read', () => {
  it('are its own where it has thirty keys a second, however they are rounded', () => {
    for (const rounded of [Math.fround, (value: number) => Number(value.toFixed(4)), (value: number) => value]) {
      const keys = keysAt(30, 121).map(rounded)
      expect(sampleTimes([keys])).toEqual(keys)
    }
  })

  it('are those of all tracks, each once and in order', () => {
    expect(sampleTimes([[0, 0.02], [0.01, 0.02], []])).toEqual([0, 0.01, 0.02])
  })

  it('fill long gaps evenly, so that a whole turn is followed', () => {
    const times = sampleTimes([[0, 1]])
    expect(times).toHaveLength(31)
    for (let key = 1; key < times.length; key++) expect(times[key] - times[key - 1]).toBeCloseTo(1 / 30, 6)
  })

  it('leave out what is no time, and end', () => {
    expect(sampleTimes([[0, NaN, Infinity, 0.01]])).toEqual([0, 0.01])
    expect(sampleTimes([[0, 1e9]]).length).toBeLessThanOrEqual(20_001)
  })
})

describe('the tracks of a node whose place is known at each time', () => {
  const node = (matrix: Matrix): SourceNode => ({ name: 'gate', matrix, children: [] })
  const pathsOf = (rest: Matrix, at: (seconds: number) => Matrix): string[] =>
    tracksOf(node(rest), [0, 0.5, 1], at).map(({ path }) => path)

  it('are of what moves, and of nothing else', () => {
    expect(pathsOf(identityMatrix(), (seconds) => translationMatrix(0, seconds, 0))).toEqual(['translation'])
    expect(pathsOf(identityMatrix(), (seconds) => rotationMatrix(0, 1, 0, seconds))).toEqual(['rotation'])
    expect(pathsOf(identityMatrix(), (seconds) => scalingMatrix(1, 1 + seconds, 1))).toEqual(['scale'])
    expect(pathsOf(translationMatrix(0, 2, 0), () => translationMatrix(0, 2, 0))).toEqual([])
  })

  it('hold a node where the clip has it, though it rests elsewhere', () => {
    const [track] = tracksOf(node(identityMatrix()), [0, 1], () => translationMatrix(0, 3, 0))
    expect(track.path).toBe('translation')
    expect([...track.values]).toEqual([0, 3, 0, 0, 3, 0])
    const turned = tracksOf(node(identityMatrix()), [0, 1], () => rotationMatrix(0, 0, 1, Math.PI / 2))
    expect(turned.map(({ path }) => path)).toEqual(['rotation'])
  })

  it('have none for a turn that only has its signs the other way round', () => {
    const turn = rotationMatrix(0, 1, 0, Math.PI * 1.2)
    expect(pathsOf(turn, () => rotationMatrix(0, 1, 0, -Math.PI * 0.8))).toEqual([])
  })

  it('begin at zero, where the motion began before', () => {
    const [track] = tracksOf(node(identityMatrix()), [-1, 0], (seconds) => translationMatrix(seconds, 0, 0))
    expect([...track.times]).toEqual([0, 1])
  })
})
