import { Document, NodeIO } from '@gltf-transform/core'
import { encode } from 'fast-png'

const SIDE = 1024
/** 96 × 94 quads are 18,048 triangles. */
const COLUMNS = 96
const ROWS = 94

/** The same numbers for the same seed: mulberry32. */
function numbersFrom(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

/** A picture of planks or of their bumps: grain along one way, a joint now and then. */
function planks(seed: number, colour: (grain: number, joint: boolean) => [number, number, number]): Uint8Array {
  const next = numbersFrom(seed)
  const grain = Float32Array.from({ length: SIDE * 8 }, next)
  const data = new Uint8Array(SIDE * SIDE * 3)
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const at = (y * SIDE + x) * 3
      data.set(colour(grain[((y * 8 + (x >> 7)) * 37) % grain.length], y % 128 < 3), at)
    }
  return encode({ width: SIDE, height: SIDE, data, channels: 3, depth: 8 })
}

/**
 * A mooring post as another program might have written it: a bulging, knotted tube of 18,048 triangles with three maps
 * of 1024 × 1024, each post another. One unit is a metre.
 */
export async function mooringPost(number: number): Promise<Uint8Array> {
  const next = numbersFrom(number + 1)
  const [knots, bulge, height] = [3 + Math.floor(next() * 6), 0.02 + next() * 0.05, 1.2 + next()]
  const count = (COLUMNS + 1) * (ROWS + 1)
  const [positions, uvs] = [new Float32Array(count * 3), new Float32Array(count * 2)]
  for (let row = 0; row <= ROWS; row++)
    for (let column = 0; column <= COLUMNS; column++) {
      const [u, v] = [column / COLUMNS, row / ROWS]
      const closing = Math.sin(Math.PI * Math.min(1, Math.min(v, 1 - v) * 12 + 0.02) * 0.5)
      const radius = (0.15 + bulge * Math.sin(v * knots * 6.283) + 0.01 * Math.cos(u * 12.566 + v * 20)) * closing
      const at = row * (COLUMNS + 1) + column
      positions.set([radius * Math.cos(-u * 6.2832), v * height, radius * Math.sin(-u * 6.2832)], at * 3)
      uvs.set([u, v], at * 2)
    }
  const indices = new Uint32Array(COLUMNS * ROWS * 6)
  for (let row = 0, at = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++, at += 6) {
      const corner = row * (COLUMNS + 1) + column
      const above = corner + COLUMNS + 1
      indices.set([corner, above, corner + 1, corner + 1, above, above + 1], at)
    }
  const document = new Document()
  const buffer = document.createBuffer()
  const texture = (name: string, image: Uint8Array) =>
    document
      .createTexture(name)
      .setImage(image as Uint8Array<ArrayBuffer>)
      .setMimeType('image/png')
  const material = document
    .createMaterial(`post ${number}`)
    .setBaseColorTexture(
      texture(
        'colour',
        planks(number, (grain, joint) => (joint ? [40, 30, 24] : [120 + grain * 60, 90 + grain * 40, 60])),
      ),
    )
    .setNormalTexture(
      texture(
        'bumps',
        planks(number + 500, (grain, joint) => [128, joint ? 60 : 118 + grain * 20, 250]),
      ),
    )
    .setMetallicRoughnessTexture(
      texture(
        'rough',
        planks(number + 900, (grain) => [255, 160 + grain * 80, 0]),
      ),
    )
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(positions).setBuffer(buffer))
    .setAttribute('TEXCOORD_0', document.createAccessor().setType('VEC2').setArray(uvs).setBuffer(buffer))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(indices).setBuffer(buffer))
    .setMaterial(material)
  const mesh = document.createMesh('post').addPrimitive(primitive)
  document.createScene().addChild(document.createNode('post').setMesh(mesh))
  return new NodeIO().writeBinary(document)
}
