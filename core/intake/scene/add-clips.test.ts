import { expect, it } from 'vitest'
import { identityMatrix } from '../../maths/axes.ts'
import { createDocument } from '../../item/io.ts'
import { addClips } from './add-clips.ts'
import { sourceNode } from './source-scene.ts'

it('puts keys in the order of their times, the last of several at one time', () => {
  const document = createDocument('clips')
  const [source, node] = [sourceNode('arm', identityMatrix()), document.createNode('arm')]
  const values = Float32Array.from([0, 0, 0, 2, 2, 2, 1, 1, 1, 3, 3, 3])
  addClips(
    document,
    [
      {
        name: 'swing',
        tracks: [{ node: source, path: 'translation', times: Float32Array.from([0, 2, 1, 2]), values }],
      },
    ],
    new Map([[source, node]]),
  )
  const [sampler] = document.getRoot().listAnimations()[0].listSamplers()
  expect([...(sampler.getInput()?.getArray() ?? [])]).toEqual([0, 1, 2])
  expect([...(sampler.getOutput()?.getArray() ?? [])]).toEqual([0, 0, 0, 1, 1, 1, 3, 3, 3])
})
