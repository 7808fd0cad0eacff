import type { Document } from '@gltf-transform/core'
import { basename, dirname, join } from 'node:path'
import { getRootExtras } from '../../core/item/extras.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { exportCollada, type ColladaOptions } from '../../core/item/export-collada/index.ts'
import { exportFbx } from '../../core/item/export-fbx/index.ts'
import { exportObj } from '../../core/item/export-obj.ts'
import { exportPly } from '../../core/item/export-ply.ts'
import { exportStl, leftOutOfBareMesh } from '../../core/item/export-stl.ts'
import { createIO, documentToGlb } from '../../core/item/io.ts'
import { isMeshFile, readItem } from '../../core/intake/read-item.ts'
import {
  exportCodecs,
  exportDefaults,
  exportFormats,
  exportImage,
  readAnyImage,
} from '../../core/pictures/export-image.ts'
import { parseCall, print, required, type Call, type Command } from '../command.ts'
import { readBytes, writeBytes } from '../bytes.ts'
import { gatherSources } from '../files.ts'

const meshFormats = ['glb', 'gltf', 'obj', 'dae', 'fbx', 'stl', 'ply']

export const convert: Command = {
  async run(words) {
    const call = parseCall(words, {
      to: { type: 'string' },
      out: { type: 'string' },
      codec: { type: 'string' },
      meaning: { type: 'string' },
      header: { type: 'string' },
      'no-mipmaps': { type: 'boolean' },
      rle: { type: 'boolean' },
      'top-down': { type: 'boolean' },
    })
    if (call.positionals.length !== 1) throw new PlainError('it takes one file', 'convert', 'Name a mesh or an image.')
    const [input] = call.positionals
    const to = required(call, 'to').toLowerCase()
    const out = required(call, 'out')
    const { bytes, beside, leftOut } = isMeshFile(input)
      ? await convertMesh(input, to, out)
      : { bytes: await convertImage(call, input, to), beside: [], leftOut: [] }
    writeBytes(out, bytes)
    for (const { name, bytes: content } of beside) writeBytes(join(dirname(out), name), content)
    print(call, { out, bytes: bytes.length, beside: beside.map(({ name }) => name), leftOut }, [
      `${out}: ${bytes.length} bytes`,
      ...beside.map(({ name, bytes: { length } }) => `${name}: ${length} bytes`),
      ...leftOut,
    ])
    return 0
  },
}

interface Converted {
  bytes: Uint8Array
  /** Files that go beside it. */
  beside: { name: string; bytes: Uint8Array }[]
  /** What the format cannot hold. */
  leftOut: readonly string[]
}

async function convertMesh(input: string, to: string, out: string): Promise<Converted> {
  if (!meshFormats.includes(to))
    throw new PlainError(`meshes are not written as “${to}”`, '--to', `Formats: ${meshFormats.join(', ')}.`)
  const files = gatherSources([input])
  const { document } = await readItem(basename(input), files)
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text)
  const told = getRootExtras(document.getRoot()).givenUp.map(({ message }) => `${message}.`)
  if (to === 'obj') {
    const stem = basename(out).replace(/\.[^.]*$/, '')
    const { obj, mtl, pictures, leftOut } = exportObj(document, stem)
    return {
      bytes: encode(obj),
      beside: [{ name: `${stem}.mtl`, bytes: encode(mtl) }, ...pictures],
      leftOut: [...told, ...leftOut],
    }
  }
  if (to === 'stl' || to === 'ply')
    return {
      bytes: to === 'stl' ? exportStl(document) : exportPly(document),
      beside: [],
      leftOut: [...told, ...leftOutOfBareMesh(document, to)],
    }
  if (to === 'dae') {
    const { dae, pictures, leftOut } = exportCollada(document, {
      ...declaredSpace(document),
      stem: basename(out).replace(/\.[^.]*$/, ''),
    })
    return { bytes: encode(dae), beside: pictures, leftOut: [...told, ...leftOut] }
  }
  if (to === 'fbx') {
    const { units, axes } = getRootExtras(document.getRoot())
    const { fbx, pictures, leftOut } = exportFbx(document, {
      metresPerUnit: units?.metresPerUnit ?? 1,
      up: axes?.up ?? '+y',
      forward: axes?.forward ?? '+z',
      stem: basename(out).replace(/\.[^.]*$/, ''),
    })
    return { bytes: fbx, beside: pictures, leftOut: [...told, ...leftOut] }
  }
  const glb = await documentToGlb(document)
  if (to === 'glb') return { bytes: glb, beside: [], leftOut: told }
  // One self-contained file: buffers and images as data URIs.
  const { json, resources } = await createIO().writeJSON(document)
  for (const holder of [...(json.buffers ?? []), ...(json.images ?? [])]) {
    const bytes = holder.uri === undefined ? undefined : resources[holder.uri]
    if (bytes) holder.uri = `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`
  }
  return { bytes: encode(JSON.stringify(json)), beside: [], leftOut: told }
}

/** What a source says of its unit and of up; axes that COLLADA has no word for are those of the standard. */
function declaredSpace(document: Document): Pick<ColladaOptions, 'unit' | 'up'> {
  const { units, axes } = getRootExtras(document.getRoot())
  const up = axes?.up === '+x' ? 'X_UP' : axes?.up === '+z' ? 'Z_UP' : 'Y_UP'
  const metres = units?.metresPerUnit ?? 1
  return { unit: { name: unitName(metres), metres }, up }
}

const unitNames: Record<number, string> = {
  1: 'meter',
  0.01: 'centimeter',
  0.001: 'millimeter',
  0.0254: 'inch',
  0.3048: 'foot',
}
const unitName = (metres: number): string => unitNames[metres] ?? 'unit'

async function convertImage(call: Call, input: string, to: string): Promise<Uint8Array> {
  const format = exportFormats.find((each) => each === to)
  if (!format)
    throw new PlainError(`images are not written as “${to}”`, '--to', `Formats: ${exportFormats.join(', ')}.`)
  const defaults = exportDefaults(format)
  const word = (name: string): string | undefined =>
    typeof call.values[name] === 'string' ? call.values[name] : undefined
  const codec = oneOf(exportCodecs, word('codec') ?? defaults.codec, '--codec')
  const meaning = oneOf(
    ['colour', 'normal', 'data'] as const,
    word('meaning') ?? (codec === 'bc5' ? 'normal' : 'colour'),
    '--meaning',
  )
  const header = oneOf(['old', 'dx10'] as const, word('header') ?? defaults.header, '--header')
  return exportImage(await readAnyImage(readBytes(input), basename(input)), {
    ...defaults,
    codec,
    meaning,
    header,
    mipmaps: call.values['no-mipmaps'] !== true,
    packed: call.values['rle'] === true,
    topDown: call.values['top-down'] === true,
  })
}

function oneOf<T extends string>(known: readonly T[], wanted: string, option: string): T {
  const found = known.find((each) => each === wanted.toLowerCase())
  if (found === undefined)
    throw new PlainError(`“${wanted}” is not known`, option, `Choose one of ${known.join(', ')}.`)
  return found
}
