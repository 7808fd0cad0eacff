import { readFileSync, writeFileSync } from 'node:fs'
import { leaf, painted, wavyNormals } from '../core/test-support/pictures.ts'
import { encodeBlocks, encodeByLibrary, type BlockCodec } from '../core/pictures/codecs/block-codec.ts'
import { encodeRangeFit } from '../core/pictures/codecs/blocks/colour-line.ts'
import { compressMap } from '../core/pictures/codecs/compress.ts'
import { coverageOf } from '../core/pictures/cut-coverage.ts'
import { decodeBlocks } from '../core/pictures/formats/blocks.ts'
import { channelsKept, measureLoss } from '../core/pictures/loss.ts'
import { decodeAnyImage } from '../core/pictures/open-image.ts'
import type { Pixels } from '../core/pictures/pixels.ts'
import { mipmapChain, resizePixels } from '../core/pictures/resize.ts'

/**
 * Measures the encoders on the demo's maps and on made pictures, and writes docs/textures.md. Run with `npm run
 * perf:textures`.
 */
const source = async (path: string): Promise<Pixels> =>
  (await decodeAnyImage(new Uint8Array(readFileSync(new URL(`../demo/sources/${path}`, import.meta.url))))).pixels

const colours: [string, Pixels][] = [
  ['gate stone, 1500 × 1100', await source('boathouse_gate/Gate Stone Albedo.jpg')],
  ['gate timber, 512 × 512', await source('boathouse_gate/Timber leaf.v2.png')],
  ['planks, 256 × 256', await source('landing_planks/Planks_Albedo_512.tga')],
  ['timetable, 480 × 640', await source('timetable_board/timetable_board.jpg')],
  ['soft paint, made, 512 × 512', painted(512, 512)],
]
const normals: [string, Pixels][] = [
  ['gate stone normals, 512 × 512', await source('boathouse_gate/gate stone_n.png')],
  ['planks normals, 256 × 256', await source('landing_planks/Planks_nrm.png')],
  ['waves, made, 512 × 512', wavyNormals(512, true)],
]

interface Way {
  title: string
  codec: BlockCodec
  encode: (pixels: Pixels) => Promise<Uint8Array>
}
const way = (title: string, codec: BlockCodec, encode: Way['encode']): Way => ({ title, codec, encode })
const colourWays = [
  way('BC1, library (used)', 'bc1', (pixels) => encodeBlocks(pixels, 'bc1')),
  way('BC1, plain range fit', 'bc1', async (pixels) => encodeRangeFit(pixels)),
  way('BC3, library (used)', 'bc3', (pixels) => encodeBlocks(pixels, 'bc3')),
  way('BC4, ours (used)', 'bc4', (pixels) => encodeBlocks(pixels, 'bc4')),
  way('BC4, library', 'bc4', (pixels) => encodeByLibrary(pixels, 'bc4')),
  way('BC7, library (used)', 'bc7', (pixels) => encodeBlocks(pixels, 'bc7')),
]
const normalWays = [
  way('BC5, ours (used)', 'bc5', (pixels) => encodeBlocks(pixels, 'bc5')),
  way('BC5, library', 'bc5', (pixels) => encodeByLibrary(pixels, 'bc5')),
]

async function measure({ codec, encode }: Way, pixels: Pixels, isNormal: boolean) {
  const whole = resizePixels(
    pixels,
    Math.floor(pixels.width / 4) * 4,
    Math.floor(pixels.height / 4) * 4,
    isNormal ? 'normal' : 'colour',
  )
  await encode(whole)
  let best = Infinity
  let blocks = new Uint8Array()
  for (let round = 0; round < 3; round++) {
    const began = performance.now()
    blocks = (await encode(whole)) as Uint8Array<ArrayBuffer>
    best = Math.min(best, performance.now() - began)
  }
  const loss = measureLoss(
    whole,
    await decodeBlocks(blocks, codec, whole.width, whole.height),
    channelsKept(codec),
    isNormal,
  )
  return { megapixels: (whole.width * whole.height) / 1e3 / best, ...loss }
}

const lines = [
  '# Textures: what the encoders do',
  '',
  'Made by `npm run perf:textures`, on one core, in one run; speeds are to be compared with each other only. ' +
    'PSNR is over the channels a codec keeps, against the same decoder for all.',
  '',
]
const table = async (title: string, pictures: [string, Pixels][], ways: Way[], isNormal: boolean): Promise<void> => {
  lines.push(
    `## ${title}`,
    '',
    `| picture | encoder | PSNR | worst block | ${isNormal ? 'mean angle | ' : ''}Mpixel/s |`,
    `|---|---|---|---|${isNormal ? '---|' : ''}---|`,
  )
  for (const [name, pixels] of pictures) {
    for (const each of ways) {
      const { megapixels, psnrDecibels, worstBlock, meanAngleDegrees } = await measure(each, pixels, isNormal)
      lines.push(
        `| ${name} | ${each.title} | ${psnrDecibels?.toFixed(1) ?? 'exact'} dB | ` +
          `${worstBlock?.psnrDecibels.toFixed(1) ?? 'exact'} dB | ` +
          `${isNormal ? `${meanAngleDegrees?.toFixed(2)}° | ` : ''}${megapixels.toFixed(1)} |`,
      )
    }
  }
  lines.push('')
}
await table('Colour', colours, colourWays, false)
await table('Normals', normals, normalWays, true)

lines.push(
  '## Cut-outs',
  '',
  '| picture | encoder | pixels cut as asked | PSNR of what is drawn |',
  '|---|---|---|---|',
)
const timber = await source('boathouse_gate/Timber leaf.v2.png')
const mask = leaf(512)
const cut: Pixels = { ...timber, data: timber.data.map((value, at) => (at % 4 === 3 ? mask.data[at] : value)) }
const back = await decodeBlocks(await encodeBlocks(cut, 'bc1', true), 'bc1', 512, 512)
let [right, sum, count] = [0, 0, 0]
for (let at = 0; at < cut.data.length; at += 4) {
  if (back.data[at + 3] >= 128 === cut.data[at + 3] >= 128) right++
  if (cut.data[at + 3] < 128) continue
  for (let channel = 0; channel < 3; channel++) sum += (cut.data[at + channel] - back.data[at + channel]) ** 2
  count += 3
}
lines.push(
  '| timber in the shape of a leaf, 512 × 512 | BC1 with one bit of opacity, ours | ' +
    `${((right / (512 * 512)) * 100).toFixed(2)} % | ${(10 * Math.log10(65025 / (sum / count))).toFixed(1)} dB |`,
  '',
)
const chain = mipmapChain(leaf(256), 'colour', 128).filter(({ width }) => width >= 16)
lines.push(
  `A leaf of ${(coverageOf(leaf(256), 128) * 100).toFixed(1)} % keeps its coverage through the mipmaps: ` +
    `${chain.map((level) => `${level.width}: ${(coverageOf(level, 128) * 100).toFixed(1)} %`).join(', ')}.`,
  '',
)

lines.push('## A whole map', '', '| map | mipmaps, blocks, reading back and comparing |', '|---|---|')
const planks = await source('landing_planks/Planks_Albedo_512.tga')
const tiled = (side: number): Pixels => ({
  width: side,
  height: side,
  data: Uint8Array.from(
    { length: side * side * 4 },
    (_, at) =>
      planks.data[
        ((((at >> 2) / side) | 0) % planks.height) * planks.width * 4 +
          (((at >> 2) % side) % planks.width) * 4 +
          (at & 3)
      ],
  ),
})
for (const [name, side, pixels] of [1024, 2048].flatMap((side): [string, number, Pixels][] => [
  ['gate stone', side, resizePixels(colours[0][1], side, side, 'colour')],
  ['planks, repeated', side, tiled(side)],
  ['soft paint, made', side, painted(side, side)],
])) {
  await compressMap(pixels, { codec: 'bc7', meaning: 'colour', withMipmaps: true })
  const began = performance.now()
  await compressMap(pixels, { codec: 'bc7', meaning: 'colour', withMipmaps: true })
  lines.push(`| ${name}, ${side}², BC7, one worker | ${((performance.now() - began) / 1000).toFixed(2)} s |`)
}
lines.push('')
writeFileSync(new URL('../docs/textures.md', import.meta.url), lines.join('\n'))
console.log(lines.join('\n'))
