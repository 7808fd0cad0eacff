import type { Document } from '@gltf-transform/core'
import type { Transform } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { getMaterialExtras, getRootExtras } from '../../item/extras.ts'
import { boundsSize, partBounds, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { rawPng } from '../../test-support/faithful/raw-files.ts'
import { demoSources, textFile } from '../../test-support/sources.ts'
import { readItem } from '../read-item.ts'
import { surveyDocument } from '../survey.ts'

const read = async (path: string, content: string): Promise<Document> =>
  (await readItem(path, [textFile(path, content)])).document
const sizeOf = (document: Document): number[] =>
  boundsSize(partsBounds(listViewParts(document))).map((value) => Math.round(value * 1000) / 1000)
const firstSurface = (document: Document) => listViewParts(document)[0].mesh.listPrimitives()[0]

describe('COLLADA', () => {
  const dae = (
    mesh: string,
    asset = '<unit meter="0.0254" name="inch"/><up_axis>Z_UP</up_axis>',
    node = '<matrix>1 0 0 5 0 1 0 0 0 0 1 0 0 0 0 1</matrix>',
  ): string => `<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset>${asset}</asset>
<library_geometries><geometry id="g" name="Plank"><mesh><source id="p"><float_array id="pa" count="24">0 0 0 4 0 0 4 4 0 0 4 0 1 1 0 3 1 0 3 3 0 1 3 0</float_array><technique_common><accessor source="#pa" count="8" stride="3"/></technique_common></source><vertices id="v"><input semantic="POSITION" source="#p"/></vertices>${mesh}</mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node id="n" name="Deck plank">${node}<instance_geometry url="#g"/></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>`
  const input = '<input semantic="VERTEX" source="#v" offset="0"/>'

  it('keeps names, places, unit and axes', async () => {
    const document = await read('a.dae', dae(`<polylist count="1">${input}<vcount>4</vcount><p>0 1 2 3</p></polylist>`))
    expect(listViewParts(document).map((part) => part.name)).toEqual(['Deck plank'])
    expect(partBounds(listViewParts(document)[0]).min).toEqual([5, 0, 0])
    expect(getRootExtras(document.getRoot())).toMatchObject({
      units: { metresPerUnit: 0.0254, from: 'declared' },
      axes: { up: '+z', from: 'declared' },
    })
  })

  it.each([
    ['triangles', `<triangles count="2">${input}<p>0 1 2 0 2 3</p></triangles>`, 2],
    ['strips', `<tristrips count="1">${input}<p>0 1 3 2</p></tristrips>`, 2],
    ['fans', `<trifans count="1">${input}<p>0 1 2 3</p></trifans>`, 2],
    ['polygons', `<polygons count="2">${input}<p>0 1 2 3</p><p>4 5 6</p></polygons>`, 3],
    ['a polygon with a hole', `<polygons count="1">${input}<ph><p>0 1 2 3</p><h>7 6 5 4</h></ph></polygons>`, 8],
  ])('reads %s', async (_what, mesh, triangles) => {
    expect(surveyDocument(await read('a.dae', dae(mesh))).triangles).toBe(triangles)
  })

  it('lays pictures where effect, geometry and binding say: on the second UVs, mirrored, repeated and moved', async () => {
    const sources =
      '<source id="t"><float_array id="ta" count="8">0 0 1 0 1 1 0 1</float_array><technique_common><accessor ' +
      'source="#ta" count="4" stride="2"/></technique_common></source>'
    const mesh =
      `<polylist count="1" material="felt">${input}<input semantic="TEXCOORD" source="#t" offset="0" ` +
      'set="1"/><input semantic="TEXCOORD" source="#t" offset="0" set="4"/><vcount>4</vcount><p>0 1 2 ' +
      '3</p></polylist>'
    const effect =
      '<library_images><image ' +
      'id="i"><init_from>felt.png</init_from></image></library_images><library_effects><effect ' +
      'id="e"><profile_COMMON><newparam sid="surface"><surface ' +
      'type="2D"><init_from>i</init_from></surface></newparam><newparam ' +
      'sid="sampler"><sampler2D><source>surface</source><wrap_s>MIRROR</wrap_s></sampler2D></newparam><technique ' +
      'sid="c"><lambert><diffuse><texture texture="sampler" texcoord="UVB"><extra><technique ' +
      'profile="ANY"><repeatU>2</repeatU><repeatV>3</repeatV><offsetU>0.25</offsetU><offsetV>0.5</offsetV></technique></extra></texture></diffuse></lambert></technique></profile_COMMON></effect></library_effects><library_materials><material id="m" name="Felt"><instance_effect url="#e"/></material></library_materials>'
    const bound =
      '<instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="felt" ' +
      'target="#m"><bind_vertex_input semantic="UVB" input_semantic="TEXCOORD" ' +
      'input_set="4"/></instance_material></technique_common></bind_material></instance_geometry>'
    const text = dae(mesh)
      .replace('<library_geometries>', `${effect}<library_geometries>`)
      .replace('<vertices', `${sources}<vertices`)
      .replace('<instance_geometry url="#g"/>', bound)
    const { document } = await readItem('a.dae', [
      textFile('a.dae', text),
      { path: 'felt.png', bytes: rawPng(2, 2, () => [9, 9, 9, 255]) },
    ])
    const info = document.getRoot().listMaterials()[0].getBaseColorTextureInfo()
    expect([info?.getTexCoord(), info?.getWrapS()]).toEqual([1, 33648])
    // v' = 3·v + 0.5 upward is 3·v + (1 − 3 − 0.5) from above.
    expect([
      info?.getExtension<Transform>('KHR_texture_transform')?.getScale(),
      info?.getExtension<Transform>('KHR_texture_transform')?.getOffset(),
    ]).toEqual([
      [2, 3],
      [0.25, -2.5],
    ])
  })

  it('leaves holes open', async () => {
    const surface = firstSurface(
      await read('a.dae', dae(`<polygons count="1">${input}<ph><p>0 1 2 3</p><h>7 6 5 4</h></ph></polygons>`)),
    )
    const position = surface.getAttribute('POSITION')
    const indices = [...(surface.getIndices()?.getArray() ?? [])]
    let area = 0
    for (let at = 0; at < indices.length; at += 3) {
      const [a, b, c] = indices.slice(at, at + 3).map((corner) => position?.getElement(corner, []) ?? [])
      area += ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2
    }
    expect(area).toBeCloseTo(16 - 4)
  })

  it('reads decimals with commas, as some exporters write them', async () => {
    const document = await read(
      'a.dae',
      dae(`<triangles count="1">${input}<p>0 1 2</p></triangles>`, '<unit meter="0,01"/>').replace(
        '4 4 0 0 4 0 1',
        '4,5 4,25 0,0 0,0 4 0 1',
      ),
    )
    expect(getRootExtras(document.getRoot()).units.metresPerUnit).toBe(0.01)
    expect(sizeOf(document)).toEqual([4.5, 4.25, 0])
  })

  it('keeps a slanted place by putting it into the points', async () => {
    const document = await read(
      'a.dae',
      dae(
        `<triangles count="1">${input}<p>0 1 2</p></triangles>`,
        undefined,
        '<scale>3 1 1</scale><rotate>0 0 1 45</rotate>',
      ),
    )
    const root2 = Math.SQRT1_2
    // The corner (4, 4) turns to (0, 4√2) and stays there; (4, 0) turns to (2√2, 2√2) and is stretched to (6√2, 2√2).
    expect(sizeOf(document)[0]).toBeCloseTo(12 * root2, 2)
    expect(listViewParts(document)[0].node.getScale()).toEqual([1, 1, 1])
  })

  it('keeps texture paths as written, and finds them whatever they are called', async () => {
    const { document } = await readItem('ferry_hull.dae', demoSources('ferry_hull'))
    const references = document
      .getRoot()
      .listMaterials()
      .flatMap((material) => getMaterialExtras(material).references)
    expect(references.map(({ path, found }) => [path, found])).toEqual([
      ['file:///D:/Edda/lake%20mod/textures/hull_paint.png', null],
      ['./deck%20boards.png', 'deck boards.png'],
    ])
  })

  it('refuses broken XML, branches that hold themselves, and indices out of range, with the place', async () => {
    await expect(read('a.dae', '<COLLADA><asset></COLLADA>')).rejects.toThrow(/a\.dae: its XML is broken: .*line 1/)
    await expect(read('a.dae', '<html></html>')).rejects.toThrow(/it is XML, but no COLLADA/)
    const looped = dae('').replace('<instance_geometry url="#g"/>', '<instance_node url="#n"/>')
    await expect(read('a.dae', looped)).rejects.toThrow(/a branch holds itself/)
    await expect(read('a.dae', dae(`<triangles count="1">${input}<p>0 1 99</p></triangles>`))).rejects.toThrow(
      /asks for point 99; there are 8/,
    )
  })

  it('expands no entities, so a bomb of them stays small', async () => {
    const bomb =
      '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b ' +
      '"&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]><COLLADA>&b;</COLLADA>'
    await expect(read('a.dae', bomb)).rejects.toThrow(/its XML is broken/)
  })
})
