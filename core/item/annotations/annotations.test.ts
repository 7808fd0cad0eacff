import type { Document, Node } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { unitBox, documentOf } from '../../test-support/meshes.ts'
import { getNodeExtras, nodeExtrasSchema, setNodeExtras } from '../extras.ts'
import { listAllParts } from '../parts.ts'
import { findStrays } from '../strays.ts'
import { annotationRoles, type AnnotationRole, type AnnotationWords } from './annotation-kind.ts'
import { annotationKind, annotationKinds, recogniseAnnotation } from './index.ts'
import { listPlaces } from './places.ts'

const words: AnnotationWords = {
  solids: { name: 'hit.{shape}.{nn}' },
  levels: { nameSuffix: '~{level}', shadow: { nameSuffix: '~shade' } },
  points: { attach: 'join-{point}', marker: 'mark-{marker}-{nn}' },
  markers: [
    { name: 'begin', most: 1 },
    { name: 'rest', most: null },
  ],
}

/** A part called “oak” with a node under it that is what the facts say, named as the game names it. */
function packed(role: AnnotationRole, facts: object): { document: Document; node: Node } {
  const document = documentOf({ oak: unitBox() })
  const [{ node: part, mesh }] = listAllParts(document)
  const node = document.createNode('')
  part.addChild(node)
  const kind = annotationKind(role)
  if (kind?.is === 'shape') node.setMesh(mesh)
  if (role === 'light') {
    const lights = document.createExtension(KHRLightsPunctual)
    node.setExtension('KHR_lights_punctual', lights.createLight('glow'))
  }
  const name = kind?.packedName(words, facts, { parentName: 'oak', ownName: 'flue', before: 2 }) ?? ''
  node.setName(name).setExtras(kind?.packedExtras(facts) ?? {})
  return { document, node }
}

const examples: { role: AnnotationRole; facts: object; name: string }[] = [
  { role: 'level', facts: { level: 2 }, name: 'oak~2' },
  { role: 'shadow', facts: {}, name: 'oak~shade' },
  {
    role: 'solid',
    facts: { solid: { shape: 'ball', surface: 'peat', layers: ['walls'], massKilograms: 4 } },
    name: 'hit.ball.03',
  },
  { role: 'light', facts: {}, name: 'flue' },
  { role: 'marker', facts: { marker: 'begin' }, name: 'begin' },
  { role: 'marker', facts: { marker: 'rest' }, name: 'mark-rest-03' },
  { role: 'attach-point', facts: {}, name: 'join-flue' },
]

describe('what is more than geometry', () => {
  it('has a kind for every role but a part’s', () => {
    expect(annotationKinds.map(({ role }) => role).sort()).toEqual([...annotationRoles].sort())
    expect(annotationKind('part')).toBeNull()
  })

  it.each(examples)('a $role is called $name in the game and known again by it', ({ role, facts, name }) => {
    const { node } = packed(role, facts)
    expect(node.getName()).toBe(name)
    expect(recogniseAnnotation(node, words)).toEqual({ role, ...facts })
  })

  it.each(examples)('keeps what is said of a $role in the node', ({ role, facts }) => {
    const { node } = packed(role, facts)
    setNodeExtras(node, nodeExtrasSchema.parse({ role, ...facts }))
    expect(getNodeExtras(node)).toEqual({ role, ...facts })
  })

  it('takes a mesh with a marker’s name for a part, and a node without mesh with a solid’s for a group', () => {
    const { node, document } = packed('marker', { marker: 'begin' })
    node.setMesh(document.getRoot().listMeshes()[0])
    expect(recogniseAnnotation(node, words)).toBeNull()
    const group = document.createNode('hit.box.01')
    expect(recogniseAnnotation(group, words)).toBeNull()
  })

  it('takes no level that hangs under another part', () => {
    const { node } = packed('level', { level: 1 })
    node.setName('elm~1')
    expect(recogniseAnnotation(node, words)).toBeNull()
  })

  it('lists places with what they are, and takes none for a stray', () => {
    const { document, node } = packed('attach-point', {})
    expect(findStrays(document).map(({ what }) => what)).toEqual(['empty'])
    setNodeExtras(node, { role: 'attach-point' })
    expect(findStrays(document)).toEqual([])
    expect(listPlaces(document).map(({ name, extras }) => [name, extras.role])).toEqual([['join-flue', 'attach-point']])
  })
})
