import type { Document, Material } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../../game/load.ts'
import { getMaterialExtras, setMaterialExtras, type TextureReference } from '../../item/extras.ts'
import { checkItem } from '../../rules/registry.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const prop = kindOf(tarnAndTiller, 'prop')

function boxAskingFor(...references: Partial<TextureReference>[]): { document: Document; material: Material } {
  const document = documentOf({ box: unitBox() })
  const [material] = document.getRoot().listMaterials()
  material.setName('planks').setBaseColorFactor([0.5, 0.25, 0.1, 1]).setAlphaMode('BLEND')
  setMaterialExtras(material, {
    ...getMaterialExtras(material),
    references: references.map((each) => ({ role: 'colour', path: 'C:\\textures\\planks.tga', found: null, ...each })),
  })
  return { document, material }
}
const findingsOf = (document: Document) => checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings

describe('Stand in for missing pictures', () => {
  it('is proposed by the name of what is missing, and is the mend of its finding', () => {
    const { document } = boxAskingFor({})
    expect(proposals('stand-in-colours', document)[0].reason).toContain('“C:\\textures\\planks.tga”')
    expect(findingsOf(document).find(({ rule }) => rule === 'texture-missing')?.mend?.step).toBe('stand-in-colours')
  })

  it('is not asked for where every picture is there, or is the game’s own', () => {
    expect(proposals('stand-in-colours', boxAskingFor({ found: 'planks.tga' }).document)).toEqual([])
    expect(proposals('stand-in-colours', boxAskingFor({ stock: 'stock/planks' }).document)).toEqual([])
  })

  it('leaves the plain colour, opaque, and tells what was given up until it is pointed to', async () => {
    const { after, summary } = await runStep('stand-in-colours', boxAskingFor({}).document)
    const [material] = after.getRoot().listMaterials()
    expect(material.getAlphaMode()).toBe('OPAQUE')
    expect(material.getBaseColorFactor()).toEqual([0.5, 0.25, 0.1, 1])
    expect(summary.headline).toBe('1 material')
    const findings = findingsOf(after)
    expect(findings.map(({ rule }) => rule)).not.toContain('texture-missing')
    expect(findings.find(({ title }) => title === 'A picture is missing')).toMatchObject({
      severity: 'note',
      where: 'planks',
      message: expect.stringContaining('its own plain colour stands in'),
    })
  })

  it('then lets the palette paint that colour', async () => {
    const { after } = await runStep('stand-in-colours', boxAskingFor({}).document)
    expect(proposals('plain-colours', boxAskingFor({}).document)).toEqual([])
    expect(proposals('plain-colours', after)[0].reason).toContain('plain colour')
  })

  it('keeps the references of what did come along', async () => {
    const { document } = boxAskingFor({}, { role: 'normal', path: 'bumps.png', found: 'bumps.png' })
    const { after } = await runStep('stand-in-colours', document)
    expect(getMaterialExtras(after.getRoot().listMaterials()[0]).references.map(({ path }) => path)).toEqual([
      'bumps.png',
    ])
  })
})
