import type { Document, Node } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { prepareItem } from '../../crate/prepare-item.ts'
import { surveyDocument } from '../../intake/survey.ts'
import { findStrays } from '../../item/strays.ts'
import { kindOf } from '../../game/load.ts'
import { listSceneNodes } from '../../item/parts.ts'
import { questionsAbout } from '../../questions/registry.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { memoryStore } from '../../worklist/result-store.ts'
import { getRootExtras } from '../../item/extras.ts'

const mover = kindOf(tarnAndTiller, 'mover')

/** There and back along one axis, in 2 s. */
function addClip(document: Document, name: string, node: Node, axis: 0 | 1 | 2): void {
  const buffer = document.getRoot().listBuffers()[0]
  const values = new Float32Array(9)
  values[3 + axis] = 2
  const sampler = document
    .createAnimationSampler()
    .setInput(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(Float32Array.from([0, 1, 2]))
        .setBuffer(buffer),
    )
    .setOutput(document.createAccessor().setType('VEC3').setArray(values).setBuffer(buffer))
  const channel = document.createAnimationChannel().setTargetNode(node).setTargetPath('translation').setSampler(sampler)
  document.createAnimation(name).addSampler(sampler).addChannel(channel)
}

/** Two clips lift the lid, one slides it, and one moves the drawer. */
function chest(): Document {
  const document = documentOf({ lid: unitBox(), drawer: unitBox() })
  const [lid, drawer] = ['lid', 'drawer'].map((name) =>
    listSceneNodes(document).find((node) => node.getName() === name),
  ) as [Node, Node]
  drawer.setTranslation([3, 0, 0])
  addClip(document, 'lift', lid, 1)
  addClip(document, 'lift', lid, 1)
  addClip(document, 'slide', lid, 0)
  addClip(document, 'pull', drawer, 2)
  return document
}
const clipNames = (document: Document): string[] =>
  document
    .getRoot()
    .listAnimations()
    .map((clip) => clip.getName())
const ask = (document: Document, answers: Record<string, string> = {}) =>
  questionsAbout({
    document,
    survey: surveyDocument(document, []),
    strays: findStrays(document),
    rulebook: tarnAndTiller,
    kind: mover,
    answers,
    decidedSteps: [],
  }).find(({ id }) => id === 'clips')

describe('clips that move one thing', () => {
  it('are kept by name, and what is left out is told', async () => {
    const { after, summary } = await runStep('choose-clips', chest(), { keep: ['lift (2)', 'pull'] }, { kind: mover })
    expect(clipNames(after)).toEqual(['lift', 'pull'])
    expect(summary.details).toEqual(['lift is left out.', 'slide is left out.'])
    expect(getRootExtras(after.getRoot()).givenUp.map(({ where }) => where)).toEqual(['lift', 'slide'])
  })

  it('become one of each by themselves, and nothing is said of the result', async () => {
    const { result, findings } = await prepareItem(
      { key: 'chest', document: chest() },
      { rulebook: tarnAndTiller, kind: mover, store: memoryStore() },
    )
    expect(clipNames(result.document)).toEqual(['lift', 'pull'])
    expect(findings.filter(({ rule }) => rule === 'clips-fight')).toEqual([])
  })

  it('are asked about, each with what stays beside it', () => {
    expect(ask(chest())?.answers).toHaveLength(3)
    expect(ask(chest())).toMatchObject({
      chosen: 'clip-lift',
      decides: ['clips-fight'],
      answers: [
        { label: 'lift', change: { step: { parameters: { keep: ['lift', 'pull'] } } } },
        { label: 'lift (2)', change: { step: { parameters: { keep: ['lift (2)', 'pull'] } } } },
        {
          label: 'slide',
          note: '2.0 s, moves 1 thing, with 1 other',
          change: { step: { parameters: { keep: ['slide', 'pull'] } } },
        },
      ],
    })
    expect(ask(chest(), { clips: 'clip-slide' })).toMatchObject({ chosen: 'clip-slide', answered: true })
  })

  it('are no question where each moves another thing', () => {
    const document = chest()
    for (const clip of document.getRoot().listAnimations().slice(1, 3)) clip.dispose()
    expect(ask(document)).toBeUndefined()
  })
})
