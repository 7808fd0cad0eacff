import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { read as readContainer } from 'ktx-parse'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leaf, painted, pictureOf, wavyNormals } from '../../test-support/pictures.ts'
import {
  exportDefaults,
  exportImage,
  type ExportCodec,
  type ExportFormat,
  type ExportOptions,
} from '../export-image.ts'
import { decodePng } from '../image-codecs.ts'
import { peakSignalToNoise } from '../loss.ts'
import { decodeAnyImage } from '../open-image.ts'
import type { Pixels } from '../pixels.ts'
import { writeTga } from './tga-write.ts'

const folder = mkdtempSync(join(tmpdir(), 'writers-'))

interface OtherProgram {
  name: string
  program: string
  /** A library that the program needs. */
  needs?: string
  call: (from: string, to: string) => string[]
}

/** Programs that are not ours, where the machine has them. Each turns a file into PNG. */
const others = (
  [
    {
      name: 'one program',
      program: '/usr/bin/convert',
      call: (from: string, to: string) => [from.endsWith('.dds') ? `${from}[0]` : from, '-auto-orient', to],
    },
    { name: 'another program', program: '/usr/bin/oiiotool', call: (from: string, to: string) => [from, '-o', to] },
    {
      name: 'a third program',
      program: '/usr/bin/python3',
      needs: '/usr/lib/python3/dist-packages/PIL',
      call: (from: string, to: string) => [
        '-c',
        'import sys; from PIL import Image; Image.open(sys.argv[1]).save(sys.argv[2])',
        from,
        to,
      ],
    },
  ] as OtherProgram[]
).filter(({ program, needs }) => existsSync(program) && (needs === undefined || existsSync(needs)))

let files = 0
function readElsewhere(bytes: Uint8Array, ending: string, { program, call }: (typeof others)[number]): Pixels {
  const from = join(folder, `${++files}.${ending}`)
  const to = join(folder, `${files}.png`)
  writeFileSync(from, bytes)
  execFileSync(program, call(from, to), { stdio: 'pipe' })
  return decodePng(new Uint8Array(readFileSync(to)))
}

const written = (pixels: Pixels, format: ExportFormat, change: Partial<ExportOptions> = {}): Promise<Uint8Array> =>
  exportImage(pixels, { ...exportDefaults(format), ...change })
const cutOut = leaf(64)
const opaque = painted(96, 40)
const greyed = pictureOf(32, 32, (x, y) => [x * 5 + y, x * 5 + y, x * 5 + y])
const normals = wavyNormals(64, true)
const titleOf = new Map([
  [cutOut, 'cut out'],
  [opaque, 'opaque'],
  [greyed, 'grey'],
  [normals, 'normals'],
])

describe('files we write, read by programs that are not ours', () => {
  const cases: { format: ExportFormat; codec: ExportCodec; picture: Pixels; least: number; by: string[] }[] = [
    { format: 'dds', codec: 'none', picture: cutOut, least: Infinity, by: ['one program', 'another program'] },
    { format: 'dds', codec: 'bc1', picture: opaque, least: 45, by: ['one program', 'another program'] },
    { format: 'dds', codec: 'bc1', picture: cutOut, least: 45, by: ['one program', 'another program'] },
    { format: 'dds', codec: 'bc3', picture: cutOut, least: 45, by: ['one program', 'another program'] },
    { format: 'dds', codec: 'bc4', picture: greyed, least: 45, by: ['another program'] },
    { format: 'dds', codec: 'bc5', picture: normals, least: 45, by: ['a third program'] },
    { format: 'dds', codec: 'bc7', picture: opaque, least: 60, by: ['a third program'] },
    { format: 'dds', codec: 'bc7', picture: cutOut, least: 60, by: ['a third program'] },
    { format: 'tga', codec: 'none', picture: opaque, least: Infinity, by: ['one program', 'another program'] },
    { format: 'png', codec: 'none', picture: cutOut, least: Infinity, by: ['one program', 'another program'] },
  ]
  for (const { format, codec, picture, least, by } of cases) {
    for (const other of others.filter(({ name }) => by.includes(name))) {
      it(`${format} with ${codec}, ${titleOf.get(picture)}, is the same picture to ${other.name}`, async () => {
        const bytes = await written(picture, format, { codec })
        const own = (await decodeAnyImage(bytes)).pixels
        const theirs = readElsewhere(bytes, format, other)
        expect([theirs.width, theirs.height]).toEqual([picture.width, picture.height])
        // What is clear has no colour to some programs; what is drawn has to agree.
        expect(
          peakSignalToNoise(drawn(own), drawn(theirs), codec === 'bc5' ? 2 : 4) ?? Infinity,
        ).toBeGreaterThanOrEqual(least)
      })
    }
  }
  it.skipIf(!others.some(({ name }) => name === 'one program'))(
    'TGA in every order and packing is the same picture',
    async () => {
      const [other] = others
      for (const packed of [false, true]) {
        for (const topDown of [false, true]) {
          for (const picture of [opaque, cutOut]) {
            const theirs = readElsewhere(await written(picture, 'tga', { packed, topDown }), 'tga', other)
            expect(theirs.data, `packed ${packed}, top row first ${topDown}`).toEqual(picture.data)
          }
        }
      }
    },
  )
})

/** Clear pixels made black, so that only what is drawn is compared. */
const drawn = ({ data, ...size }: Pixels): Pixels => ({
  ...size,
  data: data.map((value, at) => (data[at - (at % 4) + 3] < 128 ? 0 : value)),
})

describe('files we write, read by our readers', () => {
  it('say what they are', async () => {
    const details: string[] = []
    for (const [format, change] of [
      ['dds', { codec: 'bc7' }],
      ['dds', { codec: 'bc5', header: 'dx10' }],
      ['dds', { codec: 'bc4' }],
      ['dds', { codec: 'none' }],
      ['ktx2', { codec: 'bc3' }],
      ['ktx2', { codec: 'basis' }],
      ['tga', { packed: true }],
    ] as const) {
      details.push((await decodeAnyImage(await written(opaque, format, change))).detail)
    }
    expect(details).toEqual([
      'BC7, DX10 header',
      'BC5, DX10 header',
      'BC4, old header',
      '32-bit, old header',
      'BC3',
      'Basis Universal',
      '24-bit, packed rows',
    ])
  })
  it('keep colour under clear pixels in every form without loss', async () => {
    for (const [format, codec] of [
      ['png', 'none'],
      ['tga', 'none'],
      ['dds', 'none'],
      ['ktx2', 'none'],
    ] as const) {
      expect((await decodeAnyImage(await written(cutOut, format, { codec }))).pixels.data, format).toEqual(cutOut.data)
    }
  })
  it('give back any small TGA exactly', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 5 }),
        fc.infiniteStream(fc.integer({ min: 0, max: 2 })),
        fc.boolean(),
        fc.boolean(),
        async (width, height, stream, packed, topDown) => {
          const picture = pictureOf(width, height, () => [stream.next().value * 100, 7, stream.next().value * 50, 255])
          expect((await decodeAnyImage(writeTga(picture, { packed, topDown, withAlpha: false }))).pixels.data).toEqual(
            picture.data,
          )
        },
      ),
      { numRuns: 60 },
    )
  })
  it('describe KTX2 in full: format, colour model, one sample a channel group, every level', async () => {
    const container = readContainer(await written(opaque, 'ktx2', { codec: 'bc3' }))
    const [description] = container.dataFormatDescriptor
    expect(container).toMatchObject({ vkFormat: 138, pixelWidth: 96, pixelHeight: 40 })
    expect(container.levels.length).toBe(7)
    expect(description).toMatchObject({ colorModel: 130, transferFunction: 2, texelBlockDimension: [3, 3, 0, 0] })
    expect(description.samples.map(({ bitOffset, bitLength }) => [bitOffset, bitLength])).toEqual([
      [0, 63],
      [64, 63],
    ])
    expect(
      readContainer(await written(opaque, 'ktx2', { codec: 'bc5', meaning: 'normal' })).dataFormatDescriptor[0]
        .transferFunction,
    ).toBe(1)
  })
  it('refuse Basis as DDS in a sentence', async () => {
    await expect(written(opaque, 'dds', { codec: 'basis' })).rejects.toThrow(/“basis” is not written as DDS/)
  })
})
