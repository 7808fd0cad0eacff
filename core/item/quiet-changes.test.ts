import { describe, expect, it } from 'vitest'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { getNodeExtras, setNodeExtras } from './extras.ts'
import { copyDocument } from './io.ts'
import { addLook, listLooks, listShownMaterials } from './looks.ts'
import { itemScene, listAllParts, listUsedMaterials, listViewParts } from './parts.ts'
import { changesOf, rememberUntilChanged } from './quiet-changes.ts'

const twoBoxes = () => documentOf({ left: unitBox(), right: unitBox() })
const names = (document: ReturnType<typeof twoBoxes>) => listViewParts(document).map(({ name }) => name)

describe('what is known of a document', () => {
  it('is worked out once, however often it is asked, as long as nothing changes', () => {
    let times = 0
    const count = rememberUntilChanged((document) => {
      times++
      return document.getRoot().listNodes().length
    })
    const document = twoBoxes()
    expect([count(document), count(document), count(document)]).toEqual([2, 2, 2])
    expect(times).toBe(1)
    expect(count(twoBoxes())).toBe(2)
    expect(times).toBe(2)
  })

  it('is worked out once although the work itself makes what was missing', () => {
    const document = twoBoxes()
    for (const scene of document.getRoot().listScenes()) scene.dispose()
    let times = 0
    const scene = rememberUntilChanged((of) => {
      times++
      return itemScene(of)
    })
    expect(scene(document)).toBe(scene(document))
    expect(times).toBe(1)
  })

  it.each<[string, (document: ReturnType<typeof twoBoxes>) => unknown]>([
    ['a name is set', (document) => document.getRoot().listNodes()[0].setName('gate')],
    ['something is made', (document) => document.createNode('third')],
    ['something is removed', (document) => document.getRoot().listNodes()[0].dispose()],
    [
      'something is hung elsewhere',
      (document) => document.getRoot().listNodes()[0].addChild(document.getRoot().listNodes()[1]),
    ],
    ['a reference is let go', (document) => document.getRoot().listNodes()[0].setMesh(null)],
    ['notes are set', (document) => setNodeExtras(document.getRoot().listNodes()[0], { role: 'solid' })],
    [
      'one thing is copied over another',
      (document) => document.getRoot().listMeshes()[0].copy(document.getRoot().listMeshes()[1]),
    ],
    ['an array is given', (document) => document.getRoot().listAccessors()[0].setArray(new Float32Array(9))],
    [
      'a surface gets another material',
      (document) => document.getRoot().listMeshes()[0].listPrimitives()[0].setMaterial(null),
    ],
  ])('is worked out anew when %s', (_what, change) => {
    const document = twoBoxes()
    const before = changesOf(document)
    change(document)
    expect(changesOf(document)).not.toBe(before)
  })

  it('of a copy is its own', () => {
    const document = twoBoxes()
    const copy = copyDocument(document)
    expect(names(copy)).toEqual(['left', 'right'])
    copy.getRoot().listNodes()[0].setName('gate')
    expect(names(copy)).toEqual(['gate', 'right'])
    expect(names(document)).toEqual(['left', 'right'])
  })
})

describe('lists of parts and materials', () => {
  it('follow every change of the item', () => {
    const document = twoBoxes()
    const [left, right] = listAllParts(document)
    expect(names(document)).toEqual(['left', 'right'])
    setNodeExtras(left.node, { ...getNodeExtras(left.node), role: 'solid' })
    expect(names(document)).toEqual(['right'])
    right.node.setName('door')
    expect(names(document)).toEqual(['door'])
    right.node.dispose()
    expect(names(document)).toEqual([])
    expect(listAllParts(document)).toHaveLength(1)
  })

  it('tell materials and looks as they are after each change', () => {
    const document = twoBoxes()
    const [material] = listUsedMaterials(document)
    expect(listShownMaterials(document)).toContain(material)
    const dusk = document.createMaterial('dusk')
    addLook(document, 'dusk', new Map([[material, dusk]]))
    expect(listLooks(document)).toEqual(['plain', 'dusk'])
    expect(listShownMaterials(document)).toContain(dusk)
    listAllParts(document)[0].mesh.listPrimitives()[0].setMaterial(null)
    expect(listUsedMaterials(document)).not.toContain(material)
  })
})
