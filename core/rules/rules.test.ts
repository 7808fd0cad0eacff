import { describe, expect, it } from 'vitest'
import { setMaterialExtras, setTextureExtras } from '../item/extras.ts'
import { listViewParts } from '../item/parts.ts'
import { kindOf } from '../game/load.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { stepById } from '../steps/registry.ts'
import { encodePng } from '../pictures/image-codecs.ts'
import { ball, documentOf, turnedOver, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { checkItem } from './registry.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const check = (document: ReturnType<typeof documentOf>, kind = prop) =>
  checkItem({ document, rulebook: tarnAndTiller, kind })
const found = (document: ReturnType<typeof documentOf>, rule: string, kind = prop) =>
  check(document, kind).findings.filter((finding) => finding.rule === rule)

describe('findings', () => {
  it('come with the worst first', () => {
    const severities = check(documentOf({ 'Big Ball': ball(100, 90) })).findings.map((finding) => finding.severity)
    const order = ['blocks', 'risky', 'note']
    expect([...severities].sort((a, b) => order.indexOf(a) - order.indexOf(b))).toEqual(severities)
    expect(new Set(severities)).toContain('blocks')
  })

  it('say the number, the limit and why games ask for it, in whole words', () => {
    for (const finding of check(documentOf({ 'Big Ball': ball(100, 90) })).findings) {
      expect(finding.message).toMatch(/\w+ \w+/)
      expect(finding.message).not.toMatch(/undefined|NaN|\[object/)
      expect(finding.why).toMatch(/\.$/)
      expect(finding.value).not.toBe('')
      expect(finding.limit).not.toBe('')
    }
  })

  it('only name steps that exist as their mend', () => {
    for (const { mend } of check(documentOf({ 'Big Ball': ball(100, 90) })).findings) {
      if (mend) expect(stepById(mend.step).id).toBe(mend.step)
    }
  })

  it('do not change the item', async () => {
    const document = documentOf({ 'Big Ball': turnedOver(ball(3, 20)) })
    const before = JSON.stringify(
      document
        .getRoot()
        .listNodes()
        .map((node) => [node.getName(), node.getMatrix()]),
    )
    check(document)
    expect(
      JSON.stringify(
        document
          .getRoot()
          .listNodes()
          .map((node) => [node.getName(), node.getMatrix()]),
      ),
    ).toBe(before)
  })
})

describe('the budget', () => {
  it('counts what is there after the last step, an instance each time', () => {
    const document = documentOf({ ball: ball(2, 60) })
    const [part] = listViewParts(document)
    expect(found(document, 'triangle-budget')).toMatchObject([
      { value: '14,160', limit: '12,000', place: { parts: ['ball'] } },
    ])
    const twice = documentOf({ ball: ball(2, 45) })
    expect(found(twice, 'triangle-budget')).toEqual([])
    listViewParts(twice)[0].node.addChild(twice.createNode('again').setMesh(listViewParts(twice)[0].mesh))
    expect(found(twice, 'triangle-budget')).toHaveLength(1)
    expect(part.name).toBe('ball')
  })

  it('is another for another kind', () => {
    const document = documentOf({ ball: ball(2, 45) })
    expect(found(document, 'triangle-budget', kindOf(tarnAndTiller, 'loose'))).toMatchObject([{ limit: '6,000' }])
  })
})

describe('size and place', () => {
  it('takes a giant for a wrong unit, and frames it', () => {
    const [finding] = found(documentOf({ pier: boxMesh({ min: [0, 0, 0], max: [300, 10, 10] }) }), 'item-too-large')
    expect(finding).toMatchObject({
      severity: 'risky',
      mend: { step: 'scale-to-game' },
      place: { bounds: { max: [300, 10, 10] } },
    })
  })

  it('finds parts thinner than the game draws, with their size', () => {
    const document = documentOf({ wire: boxMesh({ min: [0, 0, 0], max: [4, 0.004, 0.004] }), pier: unitBox() })
    expect(found(document, 'too-thin')).toMatchObject([{ where: 'wire', value: '0.004', limit: '0.01' }])
  })

  it('does not take a thin sheet for too thin: it is seen from its broad side', () => {
    expect(found(documentOf({ sheet: boxMesh({ min: [0, 0, 0], max: [2, 2, 0.001] }) }), 'too-thin')).toEqual([])
  })

  it('minds turns and scales of still parts, not of moved ones', () => {
    const document = documentOf({ post: unitBox() })
    const [{ node }] = listViewParts(document)
    node.setTranslation([3, 0, 0])
    expect(found(document, 'transform-not-baked')).toEqual([])
    node.setScale([1, 2, 1])
    expect(found(document, 'transform-not-baked')).toMatchObject([{ where: 'post', mend: { step: 'bake-transforms' } }])
  })
})

describe('faces', () => {
  it('names the parts that are inside out, and no others', () => {
    const [finding] = found(documentOf({ right: ball(1, 8), wrong: turnedOver(ball(1, 8, [4, 0, 0])) }), 'inward-faces')
    expect(finding.where).toBe('wrong')
    expect(finding.place.parts).toEqual(['wrong'])
  })
})

describe('names and textures', () => {
  it('finds device names and names that are too long', () => {
    expect(found(documentOf({ aux: unitBox() }), 'name-form').map((finding) => finding.where)).toContain('aux')
    expect(found(documentOf({ ['a'.repeat(41)]: unitBox() }), 'name-form').map((finding) => finding.where)).toContain(
      'a'.repeat(41),
    )
    expect(found(documentOf({ ['a'.repeat(30)]: unitBox() }), 'name-form')).toEqual([])
  })

  it('speaks of each fault of a texture once, and of its format before its mipmaps', () => {
    const document = documentOf({ box: unitBox() })
    const texture = document
      .createTexture('wood_col')
      .setMimeType('image/png')
      .setImage(encodePng({ width: 12, height: 2, data: new Uint8Array(96) }, false) as Uint8Array<ArrayBuffer>)
    setTextureExtras(texture, { role: 'colour' })
    document.getRoot().listMaterials()[0].setBaseColorTexture(texture)
    const rules = check(document)
      .findings.filter((finding) => finding.where === 'wood_col')
      .map((finding) => finding.rule)
    expect(rules.sort()).toEqual(['texture-aspect', 'texture-format', 'texture-power-of-two', 'texture-size'])
  })

  it('leaves textures alone that no material shows', () => {
    const document = documentOf({ box: unitBox() })
    const texture = document
      .createTexture('Unused One')
      .setMimeType('image/png')
      .setImage(encodePng({ width: 3, height: 3, data: new Uint8Array(36) }, false) as Uint8Array<ArrayBuffer>)
    setTextureExtras(texture, { role: 'colour' })
    expect(check(document).findings.filter((finding) => finding.rule.startsWith('texture-'))).toEqual([])
  })

  it('tells a texture that was not found from a map that is missing', () => {
    const document = documentOf({ box: unitBox() })
    expect(found(document, 'map-missing')).toHaveLength(1)
    setMaterialExtras(document.getRoot().listMaterials()[0], {
      references: [{ role: 'colour', path: 'D:\\x\\wood.png', found: null }],
    })
    expect(found(document, 'map-missing')).toEqual([])
    expect(found(document, 'texture-missing')).toMatchObject([
      { where: 'D:\\x\\wood.png', message: expect.stringContaining('which was not brought') },
    ])
  })
})

describe('gauges', () => {
  it('measure triangles, solids, corners, materials and texture memory against the kind', async () => {
    const { after } = await runStep('add-solid', documentOf({ ball: ball(2, 45) }), { shape: 'box' })
    const gauges = Object.fromEntries(
      check(after).gauges.map((gauge) => [gauge.id, [gauge.value, gauge.limit, gauge.least]]),
    )
    expect(gauges).toEqual({
      triangles: [7_920, 12_000, 0],
      'with-solids': [7_932, 15_000, 0],
      corners: [3_962, 65_535, 0],
      materials: [1, 4, 0],
      'texture-memory': [0, 6 * 1024 * 1024, 0],
      solids: [1, 48, 1],
    })
  })

  it('leave out what a kind does not have', () => {
    const finish = kindOf(tarnAndTiller, 'finish')
    expect(check(documentOf({ box: unitBox() }), finish).gauges.map((gauge) => gauge.id)).toEqual([
      'materials',
      'texture-memory',
    ])
  })
})
