import { describe, expect, it } from 'vitest'
import { bringIn } from '../../crate/bring-in.ts'
import { documentOf, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { demoSources, textFile, type DemoFolder } from '../../test-support/sources.ts'
import { listViewParts } from '../../item/parts.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { nameApart } from '../../item/name-apart.ts'
import { findOddities } from './report.ts'

const idsOf = (
  document: Parameters<typeof findOddities>[0]['document'],
  sources: Parameters<typeof findOddities>[0]['sources'] = [],
): string[] => findOddities({ document, sources }).map((odd) => odd.id)

describe('what the intake report says of the demo', () => {
  /** The faults that each source of the demo was made with, as far as a source shows them. */
  const faults: [DemoFolder, string[]][] = [
    ['boathouse_gate', ['stray-ground-shade', 'faces-inward', 'texture-path', 'texture-size', 'names-awkward']],
    ['mooring_bell', ['stray-camera', 'stray-lamp', 'scale-not-baked', 'loop-open', 'keys-dense']],
    ['ferry_hull', ['stray-camera', 'stray-empty', 'texture-missing', 'texture-path']],
    ['galley_stove', ['stray-lamp', 'scale-not-baked', 'normals-broken', 'texture-path']],
    ['channel_buoy', ['uvs-missing', 'material-missing']],
    ['landing_planks', ['texture-size']],
    ['rain_hat', ['materials-unused']],
  ]
  it.each(faults)('names every fault of %s that a source shows', async (folder, expected) => {
    const [{ survey }] = await bringIn(demoSources(folder), 'prop', {}, [])
    expect(survey.oddities.map((odd) => odd.id)).toEqual(expect.arrayContaining(expected))
  })

  it('counts the triangles of all eleven, each in its own format', async () => {
    const counts: Record<string, number[]> = {}
    for (const folder of [
      'canvas_awning',
      'ferry_hull',
      'galley_stove',
      'channel_buoy',
      'timetable_board',
      'sluice_walk',
      'landing_planks',
      'rain_hat',
      'bow_pennants',
    ] as const) {
      counts[folder] = (await bringIn(demoSources(folder), 'prop', {}, [])).map((each) => each.survey.triangles)
    }
    // The meshes' counts were confirmed by a reader that is not ours; boards are two triangles by their making.
    expect(counts).toEqual({
      canvas_awning: [288],
      ferry_hull: [3540],
      galley_stove: [620],
      channel_buoy: [724],
      timetable_board: [2],
      sluice_walk: [1896],
      landing_planks: [2],
      rain_hat: [262, 262],
      bow_pennants: [1419],
    })
  })
})

describe('single checks', () => {
  it('finds a unit that is a hundred times off, shows both sizes, and offers the right one', () => {
    const document = documentOf({ box: unitBox() })
    setRootExtras(document.getRoot(), {
      ...getRootExtras(document.getRoot()),
      units: { metresPerUnit: 180, from: 'declared' },
    })
    const [odd] = findOddities({ document, sources: [] })
    expect(odd).toMatchObject({ id: 'unit-implausible', mend: { do: 'set-unit', metresPerUnit: 1.8 } })
    expect(odd.message).toMatch(/180 m; it is probably 100 times too large: .* 1\.8 m/)
  })

  it('believes a unit that the modder chose, and one that makes sense', () => {
    const document = documentOf({ box: unitBox() })
    expect(idsOf(document)).not.toContain('unit-implausible')
    setRootExtras(document.getRoot(), {
      ...getRootExtras(document.getRoot()),
      units: { metresPerUnit: 180, from: 'chosen' },
    })
    expect(idsOf(document)).not.toContain('unit-implausible')
  })

  it('tells closed parts that are inside out from those that are not', () => {
    expect(idsOf(documentOf({ box: turnedOver(unitBox()) }))).toContain('faces-inward')
    expect(idsOf(documentOf({ box: unitBox() }))).not.toContain('faces-inward')
  })

  it('finds doubles in one place, and parts far away, but not neighbours', () => {
    const document = documentOf({ wall: unitBox(), wall_again: unitBox(), beside: unitBox(), lost: unitBox() })
    const [, , beside, lost] = listViewParts(document)
    beside.node.setTranslation([1.5, 0, 0])
    lost.node.setTranslation([400, 0, 0])
    const strays = findOddities({ document, sources: [] }).filter((odd) => odd.id.startsWith('stray'))
    expect(strays.map(({ id, where }) => [id, where])).toEqual([
      ['stray-double', 'wall_again'],
      ['stray-far-part', 'lost'],
    ])
  })

  it('tells a mirroring scale from one that is only not baked', () => {
    const document = documentOf({ left: unitBox(), right: unitBox() })
    const [left, right] = listViewParts(document)
    left.node.setScale([-1, 1, 1])
    right.node.setScale([2, 2, 2]).setTranslation([3, 0, 0])
    const ids = findOddities({ document, sources: [] }).map(({ id, where }) => `${id} ${where}`)
    expect(ids).toContain('scale-mirrors left')
    expect(ids).toContain('scale-not-baked right')
  })

  it('tells names apart that repeat, and says which', () => {
    const document = documentOf({ plank: unitBox(), other: unitBox() })
    listViewParts(document)[1].node.setName('plank').setTranslation([2, 0, 0])
    nameApart(document)
    expect(listViewParts(document).map((part) => part.name)).toEqual(['plank', 'plank (2)'])
    expect(findOddities({ document, sources: [] }).find((odd) => odd.id === 'names-repeat')?.message).toMatch(
      /^The names plank stand more than once/,
    )
  })

  it('finds bones at the end of a chain that hold no point', async () => {
    const document = documentOf({ cloth: unitBox() })
    const [part] = listViewParts(document)
    const [root, tip] = ['rib', 'rib end'].map((name) => document.createNode(name))
    root.addChild(tip)
    document.getRoot().listScenes()[0].addChild(root)
    const corners = part.mesh.listPrimitives()[0].getAttribute('POSITION')?.getCount() ?? 0
    const accessor = (array: Uint16Array | Float32Array) =>
      document
        .createAccessor()
        .setType('VEC4')
        .setArray(array as Float32Array<ArrayBuffer>)
    part.mesh
      .listPrimitives()[0]
      .setAttribute('JOINTS_0', accessor(new Uint16Array(corners * 4)))
      .setAttribute(
        'WEIGHTS_0',
        accessor(Float32Array.from({ length: corners * 4 }, (_, at) => (at % 4 === 0 ? 1 : 0))),
      )
    part.node.setSkin(document.createSkin().addJoint(root).addJoint(tip))
    expect(findOddities({ document, sources: [] }).find((odd) => odd.id === 'bones-weightless')?.message).toBe(
      'rib end ends a chain of bones and holds no point',
    )
  })

  it('finds the same file under two names, and images that nobody asks for', async () => {
    const [bell] = demoSources('mooring_bell')
    const [{ survey }] = await bringIn(
      [bell, { path: 'a.png', bytes: demoSources('boathouse_gate')[2].bytes }, textFile('notes.txt', 'x')],
      'prop',
      {},
      [],
    )
    expect(survey.oddities.find((odd) => odd.id === 'images-unused')?.message).toMatch(
      /a\.png is asked for by no material/,
    )
    const twice = findOddities({
      document: documentOf({ box: unitBox() }),
      sources: [
        { path: 'a.png', sha256: 'x' },
        { path: 'b.png', sha256: 'x' },
      ],
    })
    expect(twice.map((odd) => odd.id)).toContain('file-twice')
  })
})
