import { describe, expect, it } from 'vitest'
import { assertBoundedGltf } from './gltf-bounds.ts'
import { createDocument, documentFromGlb, documentToGlb } from './io.ts'
import { nameApart } from './name-apart.ts'
import { itemScene, listSceneNodes } from './parts.ts'

const check = (json: unknown) => (): void => assertBoundedGltf(json, 'hall.glb')
const chain = (length: number): object[] =>
  Array.from({ length }, (_, number) => (number + 1 < length ? { children: [number + 1] } : {}))

describe('what a glTF may claim', () => {
  it('lets what people make through', () => {
    const nodes = [{ children: [1, 2] }, { translation: [1e6, 0, 0] }, ...chain(900)]
    expect(check({ nodes, accessors: [{ count: 3, type: 'VEC3', bufferView: 0 }] })).not.toThrow()
  })

  it.each([
    [
      'more nodes than are read',
      { nodes: Array.from({ length: 100_001 }, () => ({})) },
      /100,001 nodes; up to 100,000/,
    ],
    ['a chain that is too deep', { nodes: chain(20_000) }, /more than 1,000 deep/],
    ['noughts that fill the memory', { accessors: [{ count: 1e9, type: 'VEC3' }] }, /claims 3,000,000,000 numbers/],
    [
      'the same in many small portions',
      { accessors: Array.from({ length: 200 }, () => ({ count: 100_000, type: 'SCALAR' })) },
      /claims 20,000,000 numbers/,
    ],
    [
      'a few triangles drawn without end',
      {
        accessors: [{ count: 30_000, type: 'SCALAR', bufferView: 0 }],
        meshes: [{ primitives: [{ indices: 0 }] }],
        nodes: Array.from({ length: 1000 }, () => ({ mesh: 0 })),
      },
      /draws 10,000,000 triangles, each copy counted; up to 8 million/,
    ],
    [
      'the same by places on one node',
      {
        accessors: [
          { count: 3000, type: 'VEC3', bufferView: 0 },
          { count: 10_000, type: 'VEC3', bufferView: 0 },
        ],
        meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
        nodes: [{ mesh: 0, extensions: { EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: 1 } } } }],
      },
      /draws 10,000,000 triangles/,
    ],
    ['a scene that names a node again and again', { scenes: [{ nodes: [0, 0] }], nodes: [{}] }, /names one .* twice/],
    [
      'more materials than anything has',
      { materials: Array.from({ length: 10_001 }, () => ({})) },
      /10,001 materials; up to 10,000/,
    ],
    ['a name that is a number', { materials: [{ name: 7 }] }, /a name among its materials is no text/],
    ['a node whose children are one', { nodes: [{ children: [1, 1] }, {}] }, /names one of its nodes twice/],
    ['a scale that no number can hold', { nodes: [{ scale: [1, 1e308, 1] }] }, /scaled by 1\.00e\+308; up to 1e\+15/],
    ['a place that no number can hold', { nodes: [{ matrix: [...Array(12).fill(0), -1e39, 0, 0, 1] }] }, /-1\.00e\+39/],
  ])('refuses %s', (_what, json, sentence) => {
    expect(check(json)).toThrow(sentence)
    expect(check(json)).toThrow(/^hall\.glb: /)
  })

  it.each([
    null,
    [],
    { accessors: [{ count: { toString: null } }], meshes: [{ primitives: [{ indices: 'a' }] }], nodes: [{ mesh: 0 }] },
    'text',
    { nodes: 7 },
    { nodes: [null, 3, { children: 'x' }], accessors: [null, { count: 'many' }] },
    { nodes: [{ children: [0] }] },
    { nodes: [{}, { children: [2, -1, 99, 1.5] }, { children: [1] }] },
  ])('leaves %j to the check that says what is wrong with it, without hanging', (json) => {
    expect(check(json)).not.toThrow()
  })

  it('goes for meshes of packs and kept states too', async () => {
    const document = createDocument('hall')
    let above = document.createNode('0')
    itemScene(document).addChild(above)
    for (let depth = 1; depth <= 1000; depth++) {
      const node = document.createNode(String(depth))
      above.addChild(node)
      above = node
    }
    const glb = await documentToGlb(document)
    await expect(documentFromGlb(glb)).rejects.toThrow(/more than 1,000 deep/)
  })
})

describe('nodes of one name', () => {
  it('are told apart, fifty thousand as well as two', () => {
    const document = createDocument('hall')
    const scene = itemScene(document)
    for (const name of ['Plank (2)', ...Array<string>(50_000).fill('Plank')]) scene.addChild(document.createNode(name))
    nameApart(document)
    const names = listSceneNodes(document).map((node) => node.getName())
    expect(new Set(names).size).toBe(50_001)
    expect(names.slice(0, 4)).toEqual(['Plank (2)', 'Plank', 'Plank (3)', 'Plank (4)'])
  })
})
