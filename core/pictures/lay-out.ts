import type { Pixels } from './pixels.ts'

/** What is beyond the edge of a picture. */
export type EdgeMode = 'repeat' | 'mirror' | 'clamp'

/** Along one axis: how many pictures stand in a row, which one the first is, and how they go on. */
export interface LayOut {
  tiles: number
  first: number
  mode: EdgeMode
}

/**
 * A picture laid out several times side by side as its edges have it, so that what repeats it shows the same.
 * @example const twice = layOut(pixels, { tiles: 2, first: 0, mode: 'repeat' }, { tiles: 1, first: 0, mode: 'repeat' })
 */
export function layOut(picture: Pixels, across: LayOut, down: LayOut): Pixels {
  if (across.tiles === 1 && across.first === 0 && down.tiles === 1 && down.first === 0) return picture
  const columns = sourceOf(picture.width, across)
  const rows = sourceOf(picture.height, down)
  const from = new Uint32Array(picture.data.buffer, picture.data.byteOffset, picture.width * picture.height)
  const to = new Uint32Array(columns.length * rows.length)
  rows.forEach((row, y) =>
    columns.forEach((column, x) => (to[y * columns.length + x] = from[row * picture.width + column])),
  )
  return { width: columns.length, height: rows.length, data: new Uint8Array(to.buffer) }
}

/** For each new column or row, the one of the picture that it shows. */
function sourceOf(size: number, { tiles, first, mode }: LayOut): Uint32Array {
  return Uint32Array.from({ length: size * tiles }, (_, at) => {
    const tile = Math.floor(at / size) + first
    const inside = at % size
    if (mode === 'clamp') return tile < 0 ? 0 : tile > 0 ? size - 1 : inside
    return mode === 'mirror' && tile % 2 !== 0 ? size - 1 - inside : inside
  })
}
