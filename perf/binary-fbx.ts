import { deflateSync } from 'node:zlib'
import type { Document } from '@gltf-transform/core'
import { listViewParts } from '../core/item/parts.ts'
import { readPrimitive } from '../core/item/primitive-arrays.ts'

/** A document's first part as a binary FBX of version 7.4 with packed lists, as programs write it. */
export function documentToFbx(document: Document): Uint8Array {
  const { positions, indices, uvs } = readPrimitive(listViewParts(document)[0].mesh.listPrimitives()[0])
  const corners = Int32Array.from(indices, (corner, at) => (at % 3 === 2 ? -corner - 1 : corner))
  const text = (value: string): Buffer =>
    Buffer.concat([Buffer.from('S'), uint32(value.length), Buffer.from(value, 'latin1')])
  const long = (value: number): Buffer => Buffer.concat([Buffer.from('L'), uint32(value), uint32(0)])
  const list = (letter: string, array: Float64Array | Int32Array): Buffer => {
    const packed = deflateSync(Buffer.from(array.buffer, array.byteOffset, array.byteLength), { level: 1 })
    return Buffer.concat([Buffer.from(letter), uint32(array.length), uint32(1), uint32(packed.length), packed])
  }
  const layer = node(
    'LayerElementUV',
    [],
    [
      node('MappingInformationType', [text('ByPolygonVertex')]),
      node('ReferenceInformationType', [text('IndexToDirect')]),
      node('UV', [list('d', Float64Array.from(uvs ?? []))]),
      node('UVIndex', [list('i', Int32Array.from(indices))]),
    ],
  )
  const geometry = node(
    'Geometry',
    [long(10), text('boulder\u0000\u0001Geometry'), text('Mesh')],
    [
      node('Vertices', [list('d', Float64Array.from(positions))]),
      node('PolygonVertexIndex', [list('i', corners)]),
      layer,
    ],
  )
  const objects = node(
    'Objects',
    [],
    [geometry, node('Model', [long(20), text('boulder\u0000\u0001Model'), text('Mesh')])],
  )
  const connections = node(
    'Connections',
    [],
    [node('C', [text('OO'), long(10), long(20)]), node('C', [text('OO'), long(20), long(0)])],
  )
  const header = Buffer.concat([Buffer.from('Kaydara FBX Binary  \u0000\u001a\u0000', 'latin1'), uint32(7400)])
  const int = (value: number): Buffer => Buffer.concat([Buffer.from('I'), uint32(value)])
  const extension = node(
    'FBXHeaderExtension',
    [],
    [node('FBXHeaderVersion', [int(1003)]), node('FBXVersion', [int(7400)])],
  )
  return new Uint8Array(place([header, extension, objects, connections], header.length))
}

interface FbxRecord {
  name: string
  values: Buffer[]
  children: FbxRecord[]
}

const node = (name: string, values: Buffer[], children: FbxRecord[] = []): FbxRecord => ({ name, values, children })
const uint32 = (value: number): Buffer => {
  const bytes = Buffer.alloc(4)
  bytes.writeUInt32LE(value)
  return bytes
}

/** Records know where they end, so they are laid out from front to back. */
function place([header, ...records]: [Buffer, ...FbxRecord[]], start: number): Buffer {
  const pieces = [header]
  let offset = start
  const write = (record: FbxRecord): void => {
    const values = Buffer.concat(record.values)
    const head = 13 + record.name.length
    const sizeOf = (each: FbxRecord): number =>
      13 +
      each.name.length +
      each.values.reduce((sum, value) => sum + value.length, 0) +
      (each.children.length > 0 ? each.children.reduce((sum, child) => sum + sizeOf(child), 13) : 0)
    const end = offset + sizeOf(record)
    pieces.push(
      uint32(end),
      uint32(record.values.length),
      uint32(values.length),
      Buffer.from([record.name.length]),
      Buffer.from(record.name),
      values,
    )
    offset += head + values.length
    for (const child of record.children) write(child)
    if (record.children.length > 0) pieces.push(Buffer.alloc(13))
    offset = end
  }
  for (const record of records) write(record)
  return Buffer.concat([...pieces, Buffer.alloc(13)])
}
