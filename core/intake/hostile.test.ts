import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readCrateFile } from '../crate/file.ts'
import { PlainError } from '../support/plain-error.ts'
import { bytes3ds, chunk3ds, sheetFbx } from '../test-support/binary-files.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { documentToGlb } from '../item/io.ts'
import { listAllParts } from '../item/parts.ts'
import { demoSources } from '../test-support/sources.ts'
import { readDdsHeader } from '../pictures/codecs/dds.ts'
import { decodeAnyImage } from '../pictures/open-image.ts'
import { decodeJpegRoughly } from '../pictures/formats/jpeg.ts'
import { decodePng, readImageHeader } from '../pictures/image-codecs.ts'
import { loadPack } from '../trial/load-pack.ts'
import { mapLoaders } from '../trial/loaders/texture/index.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { parseMtl } from './obj/mtl.ts'
import { readItem } from './read-item.ts'

/** Reads a file; anything but a mesh or a plain sentence fails the test. */
async function readsOrSaysWhy(path: string, bytes: Uint8Array): Promise<void> {
  try {
    await readItem(path, [{ path, bytes }])
  } catch (error) {
    expect(error).toBeInstanceOf(PlainError)
    expect((error as PlainError).message).toMatch(/^.+: .+\. .+\.$/s)
  }
}

const small3ds = (): Uint8Array => {
  const { name, u16, floats } = bytes3ds
  const mesh = chunk3ds(
    0x4100,
    chunk3ds(0x4110, u16(3), floats(0, 0, 0, 1, 0, 0, 0, 1, 0)),
    chunk3ds(0x4120, u16(1), [0, 1, 2, 0].flatMap(u16)),
  )
  return Uint8Array.from(chunk3ds(0x4d4d, chunk3ds(0x3d3d, chunk3ds(0x4000, name('Sheet'), mesh))))
}

const objWord = fc.oneof(
  fc.constantFrom(
    'v',
    'vt',
    'vn',
    'f',
    'o',
    'g',
    's',
    'usemtl',
    'mtllib',
    '#',
    '\\',
    '1/1/1',
    '1//1',
    '-1',
    '0',
    '1e308',
    'nan',
    'Infinity',
    '999999999999',
    '1/',
    '//',
    '',
  ),
  fc.integer({ min: -5, max: 5 }).map(String),
  fc.double({ noDefaultInfinity: true, noNaN: true }).map(String),
)
const objText = fc
  .array(
    fc.array(objWord, { maxLength: 7 }).map((words) => words.join(' ')),
    { maxLength: 40 },
  )
  .map((lines) => lines.join('\n'))

describe('hostile files', () => {
  it('OBJ of any words reads or says why', async () => {
    await fc.assert(
      fc.asyncProperty(objText, async (text) => readsOrSaysWhy('x.obj', new TextEncoder().encode(text))),
      { numRuns: 400 },
    )
  })

  it('MTL of any words reads', () => {
    const word = fc.constantFrom(
      'newmtl',
      'Kd',
      'map_Kd',
      'map_Bump',
      '-bm',
      '-s',
      '-o',
      '1',
      'x.png',
      '"',
      'd',
      'Tr',
      'Ns',
      '-',
    )
    fc.assert(
      fc.property(
        fc.array(
          fc.array(word, { maxLength: 8 }).map((words) => words.join(' ')),
          { maxLength: 20 },
        ),
        (lines) => {
          for (const material of parseMtl({
            path: 'x.mtl',
            bytes: new TextEncoder().encode(lines.join('\n')),
          }).values()) {
            expect(material.colour.every(Number.isFinite)).toBe(true)
            expect(Number.isFinite(material.opacity)).toBe(true)
          }
        },
      ),
    )
  })

  it('a GLB with any byte changed reads or says why', async () => {
    const whole = await documentToGlb(documentOf({ box: unitBox() }))
    await fc.assert(
      fc.asyncProperty(fc.nat(whole.length - 1), fc.nat(255), async (at, value) => {
        const bytes = whole.slice()
        bytes[at] = value
        await readsOrSaysWhy('x.glb', bytes)
      }),
      { numRuns: 300 },
    )
  })

  it('a GLB cut off anywhere says so', async () => {
    const whole = await documentToGlb(documentOf({ box: unitBox() }))
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: whole.length - 1 }), async (length) => {
        await expect(readItem('x.glb', [{ path: 'x.glb', bytes: whole.slice(0, length) }])).rejects.toBeInstanceOf(
          PlainError,
        )
      }),
      { numRuns: 60 },
    )
  })

  const sources: [string, () => Uint8Array][] = [
    [
      'ferry_hull.dae',
      () => demoSources('ferry_hull').find((file) => file.path === 'ferry_hull.dae')?.bytes ?? new Uint8Array(),
    ],
    [
      'galley_stove.fbx',
      () => demoSources('galley_stove').find((file) => file.path === 'galley_stove.fbx')?.bytes ?? new Uint8Array(),
    ],
    ['channel_buoy.stl', () => demoSources('channel_buoy')[0].bytes],
    ['small.fbx', () => sheetFbx()],
    ['small.3ds', () => small3ds()],
    [
      'small.ply',
      () =>
        new TextEncoder().encode(
          'ply\nformat binary_little_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n' +
            '\u0000'.repeat(36) +
            '\u0003' +
            '\u0000'.repeat(12),
        ),
    ],
  ]
  it.each(sources)('%s with bytes changed, or cut off anywhere, reads or says why, and soon', async (path, make) => {
    const whole = make()
    const began = performance.now()
    const change = fc.tuple(fc.integer({ min: 0, max: Math.min(whole.length, 3000) - 1 }), fc.nat(255))
    await fc.assert(
      fc.asyncProperty(
        fc.array(change, { minLength: 1, maxLength: 4 }),
        fc.option(fc.integer({ min: 1, max: whole.length })),
        async (changes, length) => {
          const bytes = whole.slice(0, length ?? whole.length)
          for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value
          await readsOrSaysWhy(path, bytes)
        },
      ),
      { numRuns: 120 },
    )
    expect(performance.now() - began).toBeLessThan(60_000)
  })

  it('50,000 nodes of one name are read, each part with a name of its own, without looking through all for each', async () => {
    const corners = Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64')
    const count = 50_000
    const text = JSON.stringify({
      asset: { version: '2.0' },
      scenes: [{ nodes: Array.from({ length: count }, (_, index) => index) }],
      nodes: Array.from({ length: count }, () => ({ name: 'same', mesh: 0 })),
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [{ byteLength: 36, uri: `data:application/octet-stream;base64,${corners}` }],
    })
    const { document } = await readItem('x.gltf', [{ path: 'x.gltf', bytes: new TextEncoder().encode(text) }])
    const names = listAllParts(document).map((part) => part.name)
    expect(names).toHaveLength(count)
    expect(new Set(names).size).toBe(count)
  }, 40_000)

  it('glTF of any JSON reads or says why', async () => {
    await fc.assert(
      fc.asyncProperty(fc.json(), async (text) => readsOrSaysWhy('x.gltf', new TextEncoder().encode(text))),
      { numRuns: 150 },
    )
    const almost = fc.record(
      {
        asset: fc.constant({ version: '2.0' }),
        nodes: fc.jsonValue(),
        meshes: fc.jsonValue(),
        buffers: fc.jsonValue(),
        scenes: fc.jsonValue(),
      },
      { requiredKeys: ['asset'] },
    )
    await fc.assert(
      fc.asyncProperty(almost, async (value) =>
        readsOrSaysWhy('x.gltf', new TextEncoder().encode(JSON.stringify(value))),
      ),
      { numRuns: 150 },
    )
  })

  it('images of every format with any bytes after their beginning end in an error or a picture', async () => {
    const beginnings = [
      [0x52, 0x49, 0x46, 0x46, 40, 0, 0, 0, 0x57, 0x45, 0x42, 0x50, 0x56, 0x50, 0x38, 0x4c],
      [0x42, 0x4d],
      [0x44, 0x44, 0x53, 0x20, 124, 0, 0, 0],
      [0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a],
      [0, 0, 10, 0, 0, 0, 0, 0, 0, 0, 0, 0, 16, 0, 16, 0, 24, 0],
      [0, 1, 1, 0, 0, 4, 0, 24, 0, 0, 0, 0, 9, 0, 9, 0, 8, 32],
    ]
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...beginnings), fc.uint8Array({ maxLength: 300 }), async (begins, rest) => {
        try {
          const { pixels } = await decodeAnyImage(Uint8Array.from([...begins, ...rest]))
          expect(pixels.data.length).toBe(pixels.width * pixels.height * 4)
        } catch (error) {
          expect(error).toBeInstanceOf(Error)
          expect(error).not.toBeInstanceOf(TypeError)
        }
      }),
      { numRuns: 400 },
    )
  })

  it('images, maps, packs and crates of any bytes end in an error or a result, never in a hang', () => {
    const png = demoSources('boathouse_gate').find((file) => file.path === 'iron_strap.png')?.bytes ?? new Uint8Array()
    const begins = fc.constantFrom(
      new Uint8Array(0),
      png.slice(0, 40),
      Uint8Array.from([0xff, 0xd8, 0xff, 0xe0]),
      new TextEncoder().encode('DDS |'),
      new TextEncoder().encode('PK\u0003\u0004'),
    )
    fc.assert(
      fc.property(begins, fc.uint8Array({ maxLength: 400 }), (start, rest) => {
        const bytes = new Uint8Array([...start, ...rest])
        for (const read of [
          readImageHeader,
          decodePng,
          decodeJpegRoughly,
          readDdsHeader,
          ...Object.values(mapLoaders),
        ]) {
          try {
            read(bytes)
          } catch (error) {
            expect(error).toBeInstanceOf(Error)
          }
        }
        expect(loadPack(bytes, tarnAndTiller).loads).toBe(false)
        expect(() => readCrateFile(bytes, 'x.zip')).toThrow(PlainError)
      }),
      { numRuns: 200 },
    )
  })
})
