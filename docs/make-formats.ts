/**
 * Writes docs/formats.md from real runs: the demo's sources, Debian's corpus of models where it is installed, and
 * pictures that ImageMagick writes where it is. Run with `npm run docs:formats`.
 */
import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Document } from '@gltf-transform/core'
import '../cli/node-assets.ts'
import { getMaterialExtras, getRootExtras } from '../core/item/extras.ts'
import { listAllParts, listSceneNodes } from '../core/item/parts.ts'
import { countLargePolygons } from '../core/item/polygons.ts'
import { isMeshFile, readItem } from '../core/intake/read-item.ts'
import {
  corpusFiles,
  corpusIsPresent,
  isConfirmed,
  OtherReaders,
  readOurs,
  whyOthersDiffer,
} from '../core/test-support/corpus.ts'
import { demoFolders, demoSources } from '../core/test-support/sources.ts'
import { decodeAnyImage } from '../core/pictures/open-image.ts'

const formats = ['glTF', 'FBX', 'DAE', 'OBJ', '3DS', 'STL', 'PLY'] as const
type Format = (typeof formats)[number]

const primitivesOf = (document: Document) => listAllParts(document).flatMap((part) => part.mesh.listPrimitives())
const has = (document: Document, semantic: string): boolean =>
  primitivesOf(document).some((primitive) => primitive.getAttribute(semantic) !== null)

/** What of a format the job needs, how it is seen in a document, and which formats have no place for it. */
const features: { title: string; seen: (document: Document) => boolean; notIn: readonly Format[] }[] = [
  {
    title: 'Tree of parts',
    seen: (document) => listSceneNodes(document).some((node) => node.getParentNode() !== null),
    notIn: ['OBJ', 'STL', 'PLY'],
  },
  { title: 'Several parts', seen: (document) => listAllParts(document).length > 1, notIn: ['PLY'] },
  { title: 'Quads and n-gons', seen: (document) => countLargePolygons(document) > 0, notIn: ['glTF', '3DS', 'STL'] },
  {
    title: 'Several materials a mesh',
    seen: (document) =>
      listAllParts(document).some(
        (part) => new Set(part.mesh.listPrimitives().map((primitive) => primitive.getMaterial())).size > 1,
      ),
    notIn: ['STL', 'PLY'],
  },
  { title: 'UVs', seen: (document) => has(document, 'TEXCOORD_0'), notIn: ['STL'] },
  { title: 'Further UV sets', seen: (document) => has(document, 'TEXCOORD_1'), notIn: ['OBJ', '3DS', 'STL', 'PLY'] },
  { title: 'Vertex colours', seen: (document) => has(document, 'COLOR_0'), notIn: ['3DS', 'STL'] },
  { title: 'Normals or smoothing groups', seen: (document) => has(document, 'NORMAL'), notIn: ['STL'] },
  {
    title: 'Bones, weights, bind poses',
    seen: (document) => document.getRoot().listSkins().length > 0,
    notIn: ['OBJ', '3DS', 'STL', 'PLY'],
  },
  {
    title: 'Motion of nodes',
    seen: (document) => document.getRoot().listAnimations().length > 0,
    notIn: ['OBJ', 'STL', 'PLY'],
  },
  {
    title: 'Lights',
    seen: (document) => listSceneNodes(document).some((node) => node.getExtension('KHR_lights_punctual') !== null),
    notIn: ['OBJ', 'STL', 'PLY'],
  },
  {
    title: 'Texture paths as written',
    seen: (document) =>
      document
        .getRoot()
        .listMaterials()
        .some((material) => getMaterialExtras(material).references.some((reference) => reference.path !== '')),
    notIn: ['STL'],
  },
  {
    title: 'Unit',
    seen: (document) => getRootExtras(document.getRoot()).units.from === 'declared',
    notIn: ['OBJ', '3DS', 'STL', 'PLY'],
  },
  {
    title: 'Up axis',
    seen: (document) => getRootExtras(document.getRoot()).axes.from === 'declared',
    notIn: ['OBJ', '3DS', 'STL', 'PLY'],
  },
]

const documents = new Map<string, { format: string; document: Document }>()
for (const folder of demoFolders) {
  const files = demoSources(folder)
  for (const file of files.filter((each) => isMeshFile(each.path))) {
    const ending = file.path.slice(file.path.lastIndexOf('.') + 1).toUpperCase()
    documents.set(file.path, {
      format: ending === 'GLB' ? 'glTF' : ending,
      document: (await readItem(file.path, files)).document,
    })
  }
}

interface Tally {
  valid: number
  read: number
  confirmed: number
  refused: number
  slowest: number
}
const tallies = new Map<string, Tally>()
const differing: string[] = []
const refusals: string[] = []
if (corpusIsPresent()) {
  const others = new OtherReaders()
  for (const file of corpusFiles()) {
    const { document, survey, refusal, milliseconds } = await readOurs(file.path)
    const tally = tallies.get(file.format) ?? { valid: 0, read: 0, confirmed: 0, refused: 0, slowest: 0 }
    tallies.set(file.format, tally)
    if (file.notValid !== null) {
      tally.slowest = Math.max(tally.slowest, milliseconds)
      if (refusal) {
        tally.refused++
        refusals.push(`| ${file.path} | ${file.notValid} | ${refusal.replaceAll('|', '\\|')} |`)
      }
      continue
    }
    tally.valid++
    if (!survey || !document) continue
    tally.read++
    documents.set(file.path, { format: file.format, document })
    const counts = await others.counts(file.path)
    if (isConfirmed(file.path, survey.triangles, counts)) tally.confirmed++
    const why = whyOthersDiffer(file.path)
    if (why || !isConfirmed(file.path, survey.triangles, counts))
      differing.push(`| ${file.path} | ${survey.triangles} | ${counts.join(', ') || 'not read'} | ${why ?? ''} |`)
  }
  others.end()
}

const cell = (feature: (typeof features)[number], format: Format): string => {
  if (feature.notIn.includes(format)) return '–'
  const count = [...documents.values()].filter((each) => each.format === format && feature.seen(each.document)).length
  return count > 0 ? `yes (${count})` : 'no file here has any'
}
const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`
const table = (head: readonly string[], rows: readonly string[]): string =>
  [row(head), row(head.map(() => '---')), ...rows].join('\n')

const survival = table(
  ['', ...formats],
  features.map((feature) => row([feature.title, ...formats.map((format) => cell(feature, format))])),
)
const corpus = table(
  ['Format', 'Valid files', 'Came in', 'Count confirmed', 'Broken or meshless, refused', 'Slowest of those'],
  [...tallies].map(([format, tally]) =>
    row([
      format,
      String(tally.valid),
      String(tally.read),
      String(tally.confirmed),
      String(tally.refused),
      `${(tally.slowest / 1000).toFixed(2)} s`,
    ]),
  ),
)

/** Pictures that another program writes, with the arguments that make each. */
const pictures: [string, string[]][] = [
  ['deep.png', ['-depth', '16', 'PNG48:']],
  ['palette.png', ['-colors', '13', 'PNG8:']],
  ['plain.jpg', ['-quality', '95']],
  ['progressive.jpg', ['-interlace', 'JPEG', '-quality', '95']],
  ['inks.jpg', ['-colorspace', 'CMYK', '-quality', '95']],
  ['lossy.webp', ['-quality', '90']],
  ['lossless.webp', ['-define', 'webp:lossless=true']],
  ['plain.tga', ['-compress', 'none']],
  ['packed.tga', ['-compress', 'RLE']],
  ['alpha.tga', ['-alpha', 'on', '-compress', 'RLE']],
  ['grey.tga', ['-colorspace', 'Gray']],
  ['mapped.tga', ['-colors', '13', '-type', 'Palette']],
  ['topleft.tga', ['-orient', 'TopLeft']],
  ['topright.tga', ['-orient', 'TopRight']],
  ['bottomright.tga', ['-orient', 'BottomRight']],
  ['plain.bmp', []],
  ['palette.bmp', ['-colors', '13', '-type', 'Palette', 'BMP3:']],
  ['packed.bmp', ['-colors', '13', '-compress', 'RLE', '-type', 'Palette', 'BMP3:']],
  ['565.bmp', ['-define', 'bmp:subtype=RGB565']],
  ['dxt1.dds', ['-define', 'dds:compression=dxt1']],
  ['dxt5.dds', ['-alpha', 'on', '-define', 'dds:compression=dxt5']],
  ['plain.dds', ['-define', 'dds:compression=none']],
]

async function pictureRows(): Promise<string[]> {
  const convert = '/usr/bin/convert'
  if (!existsSync(convert)) return []
  const folder = mkdtempSync(join(tmpdir(), 'pictures-'))
  const rows: string[] = []
  for (const [name, settings] of pictures) {
    const path = join(folder, name)
    const prefix = settings.at(-1)?.endsWith(':') ? (settings.at(-1) as string) : ''
    execFileSync(convert, [
      '-size',
      '64x48',
      'gradient:#c83020-#2040e0',
      '-swirl',
      '60',
      ...settings.filter((each) => each !== prefix),
      `${prefix}${path}`,
    ])
    const { format, detail, pixels } = await decodeAnyImage(new Uint8Array(readFileSync(path)))
    const theirs = execFileSync(convert, [path, '-auto-orient', '-colorspace', 'sRGB', '-depth', '8', 'RGBA:-'], {
      maxBuffer: 1e8,
    })
    const worst = pixels.data.reduce((most, value, at) => Math.max(most, Math.abs(value - theirs[at])), 0)
    rows.push(row([name, `${format.title} ${detail}`.trim(), `${pixels.width} × ${pixels.height}`, String(worst)]))
  }
  return rows
}

writeFileSync(
  new URL('./formats.md', import.meta.url),
  `# What comes in, and what of it survives

Made by \`npm run docs:formats\` from real runs: ${documents.size} files, the demo's own and those of Debian's package \`assimp-testmodels\`.
A number in brackets says in how many of them the thing was seen after reading; “–” means that the format has no place for it.

${survival}

STL is taken to be in millimetres and, like 3DS and PLY, to have Z up, because that is customary; the report says so. FBX of version 7 (2011)
and later is read, binary and as text; glTF 2.0 with Draco, meshopt and quantised meshes, specular-glossiness materials, WebP and Basis textures.
What does not survive: morph targets outside glTF, smoothing by edges in FBX without normals (rare: such files carry normals), curves and patches.

## Files that we did not make

Each valid file's triangles were counted again by a reader that we do not use for it.

${corpus}

${differing.length === 0 ? 'No count differs.' : `Where the other readers count differently:\n\n${table(['File', 'Ours', 'Others', 'Why'], differing)}`}

Refused, each with its sentence:

${table(['File', 'What is wrong with it', 'The sentence'], refusals)}

## Images

Each picture was written by another program and read back by it: the last column is the largest difference of any channel, of 255.
PNG and JPEG stay as they came; all others become PNG in the item. BC2, BC4, BC5, BC7 and KTX2 are tested in \`core/pictures/formats/formats.test.ts\`.

${table(['Written', 'Read as', 'Size', 'Largest difference'], await pictureRows())}
`,
)
