import { describe, expect, it } from 'vitest'
import { getMaterialExtras } from '../../item/extras.ts'
import { PlainError } from '../../support/plain-error.ts'
import { demoSources, textFile } from '../../test-support/sources.ts'
import { mapPath } from './mtl.ts'
import { parseObj } from './obj-parse.ts'
import { readItem } from '../read-item.ts'
import { surveyDocument } from '../survey.ts'

const square = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n'

describe('OBJ', () => {
  it('keeps quads and larger polygons as such and counts the triangles they become', async () => {
    const { document } = await readItem('a.obj', [
      textFile('a.obj', `${square}v 0.5 2 0\nf 1 2 3 4\nf 4 3 5\nf 1 2 3 5 4\n`),
    ])
    const survey = surveyDocument(document)
    expect(survey.triangles).toBe(2 + 1 + 3)
    expect(survey.polygons).toBe(2)
  })

  it('reads relative indices, continued lines and names with spaces', () => {
    const { objects, points } = parseObj(
      textFile('a.obj', `o Left leaf.001\n${square}f -4 -3 \\\n -2\no Second\nf 1 2 3\n`),
    )
    expect(objects.map((object) => object.name)).toEqual(['Left leaf.001', 'Second'])
    expect(points.length).toBe(12)
    expect(Array.from(objects[0].groups.get('')?.corners.view() ?? [])).toEqual([0, 1, 2])
  })

  it('splits an object by material and turns V over as glTF has it', async () => {
    const { document } = await readItem('a.obj', [
      textFile('a.obj', `${square}vt 0 0.25\nusemtl A\nf 1/1 2/1 3/1\nusemtl B\nf 1/1 3/1 4/1\n`),
    ])
    const primitives = document.getRoot().listMeshes()[0].listPrimitives()
    expect(primitives.map((primitive) => primitive.getMaterial()?.getName())).toEqual(['A', 'B'])
    expect(primitives[0].getAttribute('TEXCOORD_0')?.getElement(0, [])).toEqual([0, 0.75])
  })

  it('passes over edges that are written as faces', async () => {
    const text = `${square}vt 0.5 0.25\nf 1/1 2/1\nf 1/1 2/1 3/1 4/1\nf 3/1\nf 4/1 1/1\nf 1/1 3/1 4/1\n`
    const { document } = await readItem('edges.obj', [textFile('edges.obj', text)])
    expect(surveyDocument(document).triangles).toBe(3)
  })

  it('reads faces that ask for points, UVs and normals further down', async () => {
    const points = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n'
    const others = 'vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nvn 0 0 1\n'
    const faces = 'f 1/1/1 2/2/1 3/3/1\nf 1/1/1 3/3/1 4/4/1\n'
    const read = async (text: string) => {
      const { document } = await readItem('sheet.obj', [textFile('sheet.obj', text)])
      const [primitive] = document.getRoot().listMeshes()[0].listPrimitives()
      return ['POSITION', 'TEXCOORD_0', 'NORMAL'].map((name) => [...(primitive.getAttribute(name)?.getArray() ?? [])])
    }
    const inOrder = await read(points + others + faces)
    expect(inOrder.every((values) => values.length > 0)).toBe(true)
    expect(await read(points + faces + others)).toEqual(inOrder)
    expect(await read(faces + points + others)).toEqual(inOrder)
    // Counted from the end, a number means what was given up to its line.
    expect(await read(`${points}${others}f -4/-4/-1 -3/-3/-1 -2/-2/-1\nf 1/1/1 3/3/1 5/4/1\nv 0 1 0\n`)).toEqual(
      inOrder,
    )
  })

  it.each([
    ['an index out of range', `${square}f 1 2 9\n`, /line 5.*asks for point 9; there are 4/],
    ['a coordinate that is not a number', 'v 0 nan 0\n', /line 1.*needs 3 numbers/],
    ['an infinite coordinate', 'v 0 Infinity 0\n', /line 1.*needs 3 numbers/],
    ['a face without corners', `${square}f\n`, /line 5.*face without corners/],
    ['nothing but edges written as faces', `${square}f 1 2\nf 3\n`, /no faces/],
    ['no faces at all', square, /no faces/],
    ['a UV that there is nowhere', `${square}f 1/1 2/2 3/9\nvt 0 0\nvt 0 1\n`, /line 5.*texture point 9; there are 2/],
    ['an index before the first', `${square}f -1 -2 -9\n`, /line 5.*asks for point -9; there are 4/],
    ['a zero index', `${square}f 0 1 2\n`, /asks for point 0/],
  ])('refuses %s in a sentence with its place', async (_what, text, message) => {
    const reading = readItem('bad.obj', [textFile('bad.obj', text)])
    await expect(reading).rejects.toBeInstanceOf(PlainError)
    await expect(reading).rejects.toThrow(message)
    await expect(reading).rejects.toThrow(/^bad\.obj: /)
  })

  it('finds the textures of the gate by their file names and keeps the paths as written', async () => {
    const { document, usedPaths } = await readItem('boathouse_gate.obj', demoSources('boathouse_gate'), {
      metresPerUnit: 0.01,
      up: '+z',
    })
    const references = document
      .getRoot()
      .listMaterials()
      .flatMap((material) => getMaterialExtras(material).references)
    expect(references).toHaveLength(4)
    expect(references.every((reference) => reference.found !== null)).toBe(true)
    expect(references.find((reference) => reference.found === 'iron_strap.png')?.path).toBe(
      'D:\\Edda\\lake mod\\textures\\IRON_strap.PNG',
    )
    expect(usedPaths.size).toBe(6)
  })

  it('surveys the gate as its program wrote it', async () => {
    const { document } = await readItem('boathouse_gate.obj', demoSources('boathouse_gate'), {
      metresPerUnit: 0.01,
      up: '+z',
    })
    const survey = surveyDocument(document)
    expect(survey.triangles).toBe(38_098)
    expect(survey.strays).toEqual([{ name: 'Ground shade', what: 'ground shade' }])
    expect(survey.units).toEqual({ metresPerUnit: 0.01, from: 'chosen' })
    expect(survey.axes).toEqual({ up: '+z', forward: '-y', from: 'chosen' })
    expect(survey.textures.find((texture) => texture.name === 'Gate Stone Albedo')).toMatchObject({
      width: 1500,
      height: 1100,
    })
  })

  it('tells of a texture that is not an image, and brings the rest', async () => {
    const files = demoSources('boathouse_gate').map((file) =>
      file.path === 'iron_strap.png' ? textFile(file.path, 'this is no picture') : file,
    )
    const { document } = await readItem('boathouse_gate.obj', files)
    const references = document
      .getRoot()
      .listMaterials()
      .flatMap((material) => getMaterialExtras(material).references)
    expect(references.map((reference) => reference.problem).filter(Boolean)).toEqual([
      expect.stringMatching(/^iron_strap\.png: this image cannot be read \(it is none of PNG, JPEG/),
    ])
    expect(document.getRoot().listTextures()).toHaveLength(3)
  })

  it('makes normals of smoothing groups, hard between groups and flat outside of them', async () => {
    const roof = 'v -1 0 0\nv 1 0 0\nv 1 1 1\nv -1 1 1\nv 1 0 2\nv -1 0 2\n'
    const normalsOf = async (faces: string): Promise<number[][]> => {
      const { document } = await readItem('r.obj', [textFile('r.obj', roof + faces)])
      const normals = document.getRoot().listMeshes()[0].listPrimitives()[0].getAttribute('NORMAL')
      return Array.from({ length: normals?.getCount() ?? 0 }, (_, corner) =>
        (normals?.getElement(corner, []) ?? []).map((value) => Math.round(value * 100) / 100 + 0),
      )
    }
    const smooth = await normalsOf('s 1\nf 1 2 3 4\nf 4 3 5 6\n')
    expect(smooth[2]).toEqual(smooth[5])
    const parted = await normalsOf('s 1\nf 1 2 3 4\ns 2\nf 4 3 5 6\n')
    expect(parted[2]).toEqual(parted[0])
    expect(parted[2]).not.toEqual(parted[5])
    expect(await normalsOf('s off\nf 1 2 3 4\nf 4 3 5 6\n')).toEqual(parted)
  })

  it('keeps colours of points, as linear light', async () => {
    const { document } = await readItem('c.obj', [
      textFile('c.obj', 'v 0 0 0 1 0 0.5\nv 1 0 0 1 0 0.5\nv 1 1 0 1 0 0.5\nf 1 2 3\n'),
    ])
    const [red, green, blue, alpha] = document
      .getRoot()
      .listMeshes()[0]
      .listPrimitives()[0]
      .getAttribute('COLOR_0')
      ?.getElement(0, []) ?? [NaN, NaN, NaN, NaN]
    expect([red, green, alpha]).toEqual([1, 0, 1])
    expect(blue).toBeCloseTo(0.214, 3)
  })

  it('lists a texture that was not brought as not found', async () => {
    const files = demoSources('boathouse_gate').filter((file) => file.path !== 'iron_strap.png')
    const { document } = await readItem('boathouse_gate.obj', files)
    const iron = document
      .getRoot()
      .listMaterials()
      .find((material) => material.getName() === 'Iron strap')
    expect(iron && getMaterialExtras(iron).references).toEqual([
      { role: 'colour', path: 'D:\\Edda\\lake mod\\textures\\IRON_strap.PNG', found: null },
    ])
  })

  it('follows a texture that was pointed to by hand', async () => {
    const written = 'D:\\Edda\\lake mod\\textures\\IRON_strap.PNG'
    const { document } = await readItem('boathouse_gate.obj', demoSources('boathouse_gate'), {
      links: { [written]: 'Timber leaf.v2.png' },
    })
    const iron = document
      .getRoot()
      .listMaterials()
      .find((material) => material.getName() === 'Iron strap')
    expect(iron?.getBaseColorTexture()?.getURI()).toBe('Timber leaf.v2.png')
  })
})

describe('MTL map lines', () => {
  it.each([
    ['wood.png', 'wood.png'],
    ['-bm 1.0 D:\\my mod\\stone n.png', 'D:\\my mod\\stone n.png'],
    ['-s 1 1 1 -o 0 0 0 a b.jpg', 'a b.jpg'],
    ['-clamp on "quoted name.png"', 'quoted name.png'],
    ['-odd name.png', '-odd name.png'],
  ])('%s is %s', (line, path) => {
    expect(mapPath(line)).toBe(path)
  })
})
