import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readCrateFile } from '../crate/file.ts'
import { PlainError } from '../document/plain-error.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { documentToGlb } from '../document/io.ts'
import { demoSources } from '../test-support/sources.ts'
import { readDdsHeader } from '../texture/dds.ts'
import { decodeImage, readImageHeader } from '../texture/image-codecs.ts'
import { loadPack } from '../trial/load-pack.ts'
import { readMap } from '../trial/read-map.ts'
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

const objWord = fc.oneof(
  fc.constantFrom('v', 'vt', 'vn', 'f', 'o', 'g', 's', 'usemtl', 'mtllib', '#', '\\', '1/1/1', '1//1', '-1', '0', '1e308', 'nan', 'Infinity', '999999999999', '1/', '//', ''),
  fc.integer({ min: -5, max: 5 }).map(String),
  fc.double({ noDefaultInfinity: true, noNaN: true }).map(String),
)
const objText = fc.array(fc.array(objWord, { maxLength: 7 }).map((words) => words.join(' ')), { maxLength: 40 }).map((lines) => lines.join('\n'))

describe('hostile files', () => {
  it('OBJ of any words reads or says why', async () => {
    await fc.assert(
      fc.asyncProperty(objText, async (text) => readsOrSaysWhy('x.obj', new TextEncoder().encode(text))),
      { numRuns: 400 },
    )
  })

  it('MTL of any words reads', () => {
    const word = fc.constantFrom('newmtl', 'Kd', 'map_Kd', 'map_Bump', '-bm', '-s', '-o', '1', 'x.png', '"', 'd', 'Tr', 'Ns', '-')
    fc.assert(
      fc.property(fc.array(fc.array(word, { maxLength: 8 }).map((words) => words.join(' ')), { maxLength: 20 }), (lines) => {
        for (const material of parseMtl({ path: 'x.mtl', bytes: new TextEncoder().encode(lines.join('\n')) }).values()) {
          expect(material.colour.every(Number.isFinite)).toBe(true)
          expect(Number.isFinite(material.opacity)).toBe(true)
        }
      }),
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
        await expect(readItem('x.glb', [{ path: 'x.glb', bytes: whole.slice(0, length) }])).rejects.toBeInstanceOf(PlainError)
      }),
      { numRuns: 60 },
    )
  })

  it('glTF of any JSON reads or says why', async () => {
    await fc.assert(
      fc.asyncProperty(fc.json(), async (text) => readsOrSaysWhy('x.gltf', new TextEncoder().encode(text))),
      { numRuns: 150 },
    )
    const almost = fc.record({ asset: fc.constant({ version: '2.0' }), nodes: fc.jsonValue(), meshes: fc.jsonValue(), buffers: fc.jsonValue(), scenes: fc.jsonValue() }, { requiredKeys: ['asset'] })
    await fc.assert(
      fc.asyncProperty(almost, async (value) => readsOrSaysWhy('x.gltf', new TextEncoder().encode(JSON.stringify(value)))),
      { numRuns: 150 },
    )
  })

  it('images, maps, packs and crates of any bytes end in an error or a result, never in a hang', () => {
    const png = demoSources('boathouse_gate').find((file) => file.path === 'iron_strap.png')?.bytes ?? new Uint8Array()
    const begins = fc.constantFrom(new Uint8Array(0), png.slice(0, 40), Uint8Array.from([0xff, 0xd8, 0xff, 0xe0]), new TextEncoder().encode('DDS |'), new TextEncoder().encode('PK\u0003\u0004'))
    fc.assert(
      fc.property(begins, fc.uint8Array({ maxLength: 400 }), (start, rest) => {
        const bytes = new Uint8Array([...start, ...rest])
        for (const read of [readImageHeader, decodeImage, readDdsHeader, readMap]) {
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
