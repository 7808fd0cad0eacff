import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { surveyDocument } from '../intake/survey.ts'
import { getRootExtras, setRootExtras } from '../item/extras.ts'
import { findStrays } from '../item/strays.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { questionSchema, type AskedAbout, type Question } from './question.ts'
import { questionsAbout } from './registry.ts'

interface Asked {
  kind?: string
  answers?: Record<string, string>
  decidedSteps?: string[]
}

function asked(document: Document, { kind = 'prop', answers = {}, decidedSteps = [] }: Asked = {}): Question[] {
  const about: AskedAbout = {
    document,
    survey: surveyDocument(document),
    strays: findStrays(document),
    rulebook: tarnAndTiller,
    kind: kindOf(tarnAndTiller, kind),
    answers,
    decidedSteps,
  }
  return questionsAbout(about)
}

const question = (document: Document, id: string, options?: Asked): Question | undefined =>
  asked(document, options).find((each) => each.id === id)

/** A crate of half a metre, of which the file says everything. */
const crate = (more: Parameters<typeof documentOf>[0] = {}): Document =>
  documentOf({ crate: boxMesh({ min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] }), ...more })

function saying(document: Document, said: Partial<ReturnType<typeof getRootExtras>>): Document {
  const root = document.getRoot()
  setRootExtras(root, { ...getRootExtras(root), ...said })
  return document
}

/** So many pebbles beside a crate, each a fiftieth of it. */
const pebbles = (count: number): Document =>
  crate(
    Object.fromEntries(Array.from({ length: count }, (_, at) => [`pebble_${at}`, ball(0.01, 3, [0.6, 0.02, at / 10])])),
  )

/** Clips that each move one node along, by name: the node and how long. */
function withClips(document: Document, clips: Record<string, { moves: string; seconds: number }>): Document {
  const [buffer] = document.getRoot().listBuffers()
  for (const [name, { moves, seconds }] of Object.entries(clips)) {
    const node = document
      .getRoot()
      .listNodes()
      .find((each) => each.getName() === moves)
    if (!node) throw new Error(`no node ${moves}`)
    const accessor = (type: 'SCALAR' | 'VEC3', values: number[]) =>
      document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
    const sampler = document
      .createAnimationSampler()
      .setInput(accessor('SCALAR', [0, seconds]))
      .setOutput(accessor('VEC3', [0, 0, 0, 0, 1, 0]))
    const channel = document
      .createAnimationChannel()
      .setSampler(sampler)
      .setTargetNode(node)
      .setTargetPath('translation')
    document.createAnimation(name).addSampler(sampler).addChannel(channel)
  }
  return document
}

describe('questions about a source', () => {
  it('have two to four answers, of which one is chosen, whatever came', () => {
    const documents = [
      crate(),
      pebbles(30),
      saying(crate(), { axes: { up: '+z', forward: '-y', from: 'customary' } }),
      withClips(crate({ lid: ball(0.3, 6, [0, 2, 0]) }), {
        open: { moves: 'lid', seconds: 1 },
        shut: { moves: 'lid', seconds: 2 },
      }),
    ]
    for (const document of documents)
      for (const each of asked(document)) {
        expect(questionSchema.safeParse(each).error).toBeUndefined()
        expect(each.answers.map(({ id }) => id)).toContain(each.chosen)
        expect(new Set(each.answers.map(({ id }) => id)).size).toBe(each.answers.length)
        expect(each.answered).toBe(false)
      }
  })

  it('show what was answered, and pass over an answer that is none of theirs', () => {
    expect(question(pebbles(8), 'pieces', { answers: { pieces: 'join' } })).toMatchObject({
      chosen: 'join',
      answered: true,
    })
    expect(question(pebbles(8), 'pieces', { answers: { pieces: 'melt' } })).toMatchObject({
      chosen: 'keep',
      answered: false,
    })
  })
})

describe('what it becomes', () => {
  it('is asked with the kind that was taken first, and what each allows', () => {
    const kinds = question(crate(), 'kind')
    expect(kinds?.chosen).toBe('prop')
    expect(kinds?.answers[0].id).toBe('prop')
    for (const { id, note, change, picture } of kinds?.answers ?? []) {
      expect(change).toEqual({ kind: id })
      expect(picture).toEqual({ of: 'kind', kind: id })
      expect(note).toMatch(/at most [\d ,]+ triangles|no mesh/)
    }
  })

  it('is not asked again of who said it', () => {
    expect(question(crate(), 'kind', { answers: { kind: 'prop' } })).toBeUndefined()
  })
})

describe('which way is up', () => {
  it('is asked where only the format’s custom tells, with that custom first', () => {
    const up = question(saying(crate(), { axes: { up: '+z', forward: '-y', from: 'customary' } }), 'up')
    expect(up?.answers[0]).toMatchObject({
      id: '+z -y',
      label: '+Z up, −Y forward',
      note: 'usual for this format',
      change: { reading: { up: '+z', forward: '-y' } },
    })
    expect(up?.answers).toHaveLength(4)
    expect(up?.chosen).toBe('+z -y')
  })

  it('is not asked where the file or a person says it', () => {
    for (const from of ['declared', 'chosen'] as const)
      expect(question(saying(crate(), { axes: { up: '+z', forward: '-y', from } }), 'up')).toBeUndefined()
  })
})

describe('how large it is', () => {
  it('is asked where the file does not say its unit, each answer beside the figure', () => {
    const unit = question(saying(crate(), { units: { metresPerUnit: 1, from: 'unknown' } }), 'unit')
    expect(unit?.why).toBe('The file does not say its unit; the likeliest is taken.')
    expect(unit?.chosen).toBe(unit?.answers[0].id)
    const centimetres = unit?.answers.find(({ id }) => id === 'cm')
    expect(centimetres?.change).toEqual({ reading: { metresPerUnit: 0.01 } })
    expect(centimetres?.note).toMatch(/high, 1\/\d+ of the figure$/)
    expect(centimetres?.picture).toEqual({ of: 'size', metres: [0.01, 0.01, 0.01] })
  })

  it('is not asked where the file says it and the thing fits the game', () => {
    expect(question(saying(crate(), { units: { metresPerUnit: 1, from: 'declared' } }), 'unit')).toBeUndefined()
  })

  it('is asked for all that where what the file says makes it too large to be meant', () => {
    const unit = question(saying(crate(), { units: { metresPerUnit: 1000, from: 'declared' } }), 'unit')
    expect(unit?.why).toContain('so the thing would hardly fit the game')
  })

  it('is what a person said', () => {
    expect(question(saying(crate(), { units: { metresPerUnit: 1000, from: 'chosen' } }), 'unit')).toBeUndefined()
  })
})

describe('many small parts', () => {
  it('are kept unless somebody says otherwise, told with what each way would come to', () => {
    const pieces = question(pebbles(8), 'pieces')
    expect(pieces).toMatchObject({ title: '8 small parts: keep, join or leave out?', chosen: 'keep' })
    // A ball of three rings has 24 triangles.
    expect(pieces?.answers.map(({ id, note }) => [id, note])).toEqual([
      ['keep', '9 parts in all'],
      ['join', 'one part; what moves stays apart'],
      ['leave-out', 'saves 192 triangles'],
    ])
    expect(pieces?.answers[1].change.step?.parameters['parts']).toHaveLength(9)
    expect(pieces?.answers[2].change.step?.parameters['parts']).toEqual(
      Array.from({ length: 8 }, (_, at) => `pebble_${at}`),
    )
  })

  it('are not asked about where there are few, or where all are small alike', () => {
    expect(question(pebbles(3), 'pieces')).toBeUndefined()
    const alike = documentOf(
      Object.fromEntries(Array.from({ length: 60 }, (_, at) => [`stone_${at}`, ball(0.01, 3, [at, 0, 0])])),
    )
    expect(question(alike, 'pieces')).toBeUndefined()
  })

  it.each(['join-parts', 'drop-strays'])('are decided by who set %s', (step) => {
    expect(question(pebbles(8), 'pieces', { decidedSteps: [step] })).toBeUndefined()
  })
})

describe('what may only have come along', () => {
  const far = (): Document => crate({ gull: ball(0.1, 4, [400, 0, 0]) })

  it('is kept where it may belong to the model: a part far from the rest', () => {
    const strays = question(far(), 'stray-farParts')
    expect(strays).toMatchObject({ title: 'Leave out the part far from the rest?', chosen: 'keep' })
    expect(strays?.answers.map(({ id }) => id)).toEqual(['keep', 'leave-out'])
    expect(strays?.answers[1].change.step).toEqual({ id: 'drop-strays', parameters: { farParts: true } })
  })

  it('is left out where it hardly does: a part that stands twice', () => {
    const box = boxMesh({ min: [2, 0, 0], max: [3, 1, 1] })
    const strays = question(crate({ box, copy: box }), 'stray-doubles')
    expect(strays).toMatchObject({ title: 'Leave out the part that stands twice?', chosen: 'leave-out' })
  })

  it('is decided by who set the step', () => {
    expect(question(far(), 'stray-farParts', { decidedSteps: ['drop-strays'] })).toBeUndefined()
  })
})

describe('which motion is played', () => {
  const two = (): Document =>
    withClips(crate({ lid: ball(0.3, 6, [0, 2, 0]), sign: ball(0.2, 5, [2, 1, 0]) }), {
      open: { moves: 'lid', seconds: 1.5 },
      shut: { moves: 'lid', seconds: 0.5 },
      turn: { moves: 'sign', seconds: 4 },
    })

  it('is asked where several clips move one thing, with what stays beside each', () => {
    const clips = question(two(), 'clips', { kind: 'mover' })
    expect(clips?.answers.map(({ label, note }) => [label, note])).toEqual([
      ['open', '1.5 s, moves 1 thing, with 1 other'],
      ['shut', '0.5 s, moves 1 thing, with 1 other'],
    ])
    expect(clips?.answers[1].change.step).toEqual({ id: 'choose-clips', parameters: { keep: ['shut', 'turn'] } })
    expect(clips?.chosen).toBe('clip-open')
  })

  it('is not asked where nothing is moved twice, where the kind does not move, or where it was set', () => {
    const apart = withClips(crate({ lid: ball(0.3, 6, [0, 2, 0]) }), { open: { moves: 'lid', seconds: 1 } })
    expect(question(apart, 'clips', { kind: 'mover' })).toBeUndefined()
    expect(question(two(), 'clips', { kind: 'prop' })).toBeUndefined()
    expect(question(two(), 'clips', { kind: 'mover', decidedSteps: ['choose-clips'] })).toBeUndefined()
  })
})
