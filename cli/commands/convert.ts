import { basename } from 'node:path'
import { PlainError } from '../../core/document/plain-error.ts'
import { exportObj } from '../../core/document/export-obj.ts'
import { createIO, documentToGlb } from '../../core/document/io.ts'
import { isMeshFile, readItem } from '../../core/intake/read-item.ts'
import { exportFormats, exportImage, readAnyImage } from '../../core/texture/export-image.ts'
import { parseCall, print, required, type Call, type Command } from '../command.ts'
import { gatherSources, readBytes, writeBytes } from '../files.ts'

const meshFormats = ['glb', 'gltf', 'obj']

export const convert: Command = {
  name: 'convert',
  usage: 'convert IN --to glb|gltf|obj --out OUT   and for images: --to png|dds --codec bc1|bc3|bc4|bc5|bc7',
  summary: 'Writes one mesh or image in another format.',
  async run(words) {
    const call = parseCall(words, { to: { type: 'string' }, out: { type: 'string' }, codec: { type: 'string' } })
    if (call.positionals.length !== 1) throw new PlainError('it takes one file', 'convert', 'Name a mesh or an image.')
    const [input] = call.positionals
    const to = required(call, 'to').toLowerCase()
    const out = required(call, 'out')
    const bytes = isMeshFile(input) ? await convertMesh(input, to) : await convertImage(call, input, to)
    writeBytes(out, bytes)
    print(call, { out, bytes: bytes.length }, [`${out}: ${bytes.length} bytes`])
    return 0
  },
}

async function convertMesh(input: string, to: string): Promise<Uint8Array> {
  if (!meshFormats.includes(to)) throw new PlainError(`meshes are not written as “${to}”`, '--to', `Formats: ${meshFormats.join(', ')}.`)
  const files = gatherSources([input])
  const { document } = await readItem(basename(input), files)
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text)
  if (to === 'obj') return encode(exportObj(document))
  const glb = await documentToGlb(document)
  if (to === 'glb') return glb
  // One self-contained file: buffers and images as data URIs.
  const { json, resources } = await createIO().writeJSON(document)
  for (const holder of [...(json.buffers ?? []), ...(json.images ?? [])]) {
    const bytes = holder.uri === undefined ? undefined : resources[holder.uri]
    if (bytes) holder.uri = `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`
  }
  return encode(JSON.stringify(json))
}

async function convertImage(call: Call, input: string, to: string): Promise<Uint8Array> {
  const format = exportFormats.find((each) => each === to)
  if (!format) throw new PlainError(`images are not written as “${to}”`, '--to', `Formats: ${exportFormats.join(', ')}.`)
  const codec = typeof call.values['codec'] === 'string' ? call.values['codec'] : 'bc7'
  return exportImage(await readAnyImage(readBytes(input), basename(input)), format, codec)
}
