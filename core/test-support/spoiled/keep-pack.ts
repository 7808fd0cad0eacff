import { zipSync } from 'fflate'

/**
 * A pack of Hollin Keep, written by hand as its programmers would: a crate of oak with an iron band, at the place of
 * the meal bin. Texts are kept as texts, so that what spoils them is seen.
 */
export interface KeepPack {
  texts: Map<string, string>
  pictures: Map<string, Uint8Array>
  /** Files that the list of contents leaves out. */
  unlisted: Set<string>
}

export const SLOT = 'k-00b'
export const MESH = 'things/K-00B.obj'
export const MATERIALS = 'things/K-00B.mtl'
export const ENTRY = `entries/${SLOT}.json`
export const LOOK = `looks/${SLOT}_plain.json`
export const OAK = `skins/${SLOT}_oak_s`
export const BAND = `skins/${SLOT}_band_s`
export const CONTENTS = 'contents.json'

/** A true-colour TGA, bottom-up and uncompressed, of one colour with a checker on it. */
export function keepPicture(width: number, height: number, bits: 24 | 32 = 24): Uint8Array {
  const size = bits / 8
  const bytes = new Uint8Array(18 + width * height * size)
  bytes[2] = 2
  new DataView(bytes.buffer).setUint16(12, width, true)
  new DataView(bytes.buffer).setUint16(14, height, true)
  bytes[16] = bits
  bytes[17] = bits === 32 ? 8 : 0
  for (let pixel = 0; pixel < width * height; pixel++) {
    const light = ((pixel % width) + Math.floor(pixel / width)) % 2 === 0 ? 180 : 120
    bytes.set(bits === 32 ? [40, 90, light, 255] : [40, 90, light], 18 + pixel * size)
  }
  return bytes
}

/** A box as lines of OBJ, wound outward, 24 corners; numbers begin after `before` boxes. */
export function keepBox(min: readonly number[], max: readonly number[], before: number): string[] {
  const lines: string[] = []
  const faces: string[] = []
  for (let axis = 0; axis < 3; axis++)
    for (const side of [0, 1]) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3]
      const corners = [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ]
      const first = before * 24 + (axis * 2 + side) * 4 + 1
      for (const [a, b] of corners) {
        const place = [0, 0, 0]
        place[axis] = side === 0 ? min[axis] : max[axis]
        place[u] = a === 0 ? min[u] : max[u]
        place[v] = b === 0 ? min[v] : max[v]
        const normal = [0, 0, 0]
        normal[axis] = side === 0 ? -1 : 1
        lines.push(`v ${place.join(' ')}`, `vt ${a} ${b}`, `vn ${normal.join(' ')}`)
      }
      const order = side === 1 ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]
      const corner = (index: number): string => `${first + index}/${first + index}/${first + index}`
      faces.push(`f ${order.slice(0, 3).map(corner).join(' ')}`, `f ${order.slice(3).map(corner).join(' ')}`)
    }
  return [...lines, ...faces]
}

const json = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`

const node = (name: string, over: object = {}) => ({
  name,
  translation: [0, 0, 0],
  rotation: [0, 0, 0, 1],
  scale: [1, 1, 1],
  ...over,
})

/** The pack as it is taken without a word. */
export function keepPack(): KeepPack {
  const box = keepBox([-10, -10, 0], [10, 10, 20], 0)
  const band = keepBox([-10.5, -10.5, 8], [10.5, 10.5, 11], 1)
  return {
    texts: new Map([
      [
        ENTRY,
        json({
          item: 'crate',
          kind: 'furnishing',
          category: 'furnishings',
          slot: SLOT,
          mesh: MESH,
          nodes: [
            node('crate'),
            node('box', { object: 'box', parent: 0 }),
            node('band', { object: 'band', parent: 0 }),
          ],
          looks: [LOOK],
        }),
      ],
      [
        MESH,
        [
          'mtllib K-00B.mtl',
          'o box',
          ...box.filter((line) => !line.startsWith('f')),
          `usemtl ${OAK}`,
          ...box.filter((line) => line.startsWith('f')),
          'o band',
          ...band.filter((line) => !line.startsWith('f')),
          `usemtl ${BAND}`,
          ...band.filter((line) => line.startsWith('f')),
          '',
        ].join('\n'),
      ],
      [MATERIALS, `newmtl ${OAK}\nnewmtl ${BAND}\n`],
      [
        LOOK,
        json({
          look: 'plain',
          materials: {
            [OAK]: { shading: 'skinned', surface: 'oak', flags: [], maps: { colour: `${OAK}.tga` } },
            [BAND]: { shading: 'skinned', surface: 'wrought', flags: [], maps: { colour: `${BAND}.tga` } },
          },
        }),
      ],
      [`${OAK}.txt`, `material ${OAK}\npicture ${OAK}\nmade of oak\n`],
      [`${BAND}.txt`, `material ${BAND}\npicture ${BAND}\nmade of wrought\n`],
    ]),
    pictures: new Map([
      [`${OAK}.tga`, keepPicture(64, 64)],
      [`${BAND}.tga`, keepPicture(16, 64)],
    ]),
    unlisted: new Set(),
  }
}

/** Changes a JSON text of the pack. */
export function changeJson(pack: KeepPack, path: string, change: (value: Record<string, never>) => void): void {
  const value = JSON.parse(pack.texts.get(path) ?? '{}')
  change(value)
  pack.texts.set(path, json(value))
}

/** Puts one text in the place of another, everywhere in a file of the pack. */
export function changeText(pack: KeepPack, path: string, from: string | RegExp, to: string): void {
  const text = pack.texts.get(path) ?? ''
  const changed = typeof from === 'string' ? text.replaceAll(from, to) : text.replace(from, to)
  if (changed === text) throw new Error(`${path} has no ${String(from)}`)
  pack.texts.set(path, changed)
}

/** A file under another path, everywhere that it is named. */
export function moveFile(pack: KeepPack, from: string, to: string): void {
  for (const files of [pack.texts, pack.pictures] as Map<string, string | Uint8Array>[]) {
    const content = files.get(from)
    if (content === undefined) continue
    files.delete(from)
    files.set(to, content)
  }
}

/** The archive, stored, with a list of what is in it. */
export function assembleKeep(pack: KeepPack, list: (contents: Record<string, unknown>) => void = () => undefined) {
  const files: Record<string, Uint8Array> = {}
  for (const [path, text] of pack.texts) files[path] = new TextEncoder().encode(text)
  for (const [path, bytes] of pack.pictures) files[path] = bytes
  const contents: Record<string, unknown> = {
    game: 'hollin-keep',
    version: '2.2',
    title: 'Crate',
    items: [{ name: 'crate', kind: 'furnishing' }],
    files: Object.entries(files)
      .filter(([path]) => !pack.unlisted.has(path))
      .map(([path, bytes]) => ({ path, bytes: bytes.length })),
  }
  list(contents)
  return zipSync({ [CONTENTS]: new TextEncoder().encode(json(contents)), ...files }, { level: 0 })
}
