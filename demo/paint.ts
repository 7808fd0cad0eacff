import { encode as encodePng } from 'fast-png'
import jpeg from 'jpeg-js'
import { grain, hash, noise } from './noise.ts'

type Colour = [number, number, number]

/** RGBA pixels, 8 bits a channel, top row first. */
export interface Picture {
  width: number
  height: number
  data: Uint8Array
}

/** Paints each pixel from its place in [0, 1)². */
export function paint(width: number, height: number, colourAt: (u: number, v: number) => Colour): Picture {
  const data = new Uint8Array(width * height * 4)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const colour = colourAt((x + 0.5) / width, (y + 0.5) / height)
      for (let channel = 0; channel < 3; channel++)
        data[(y * width + x) * 4 + channel] = Math.max(0, Math.min(255, colour[channel]))
      data[(y * width + x) * 4 + 3] = 255
    }
  }
  return { width, height, data }
}

const tint = (colour: Colour, light: number): Colour => [colour[0] * light, colour[1] * light, colour[2] * light]
const blend = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]
const clamp01 = (value: number): number => Math.max(0, Math.min(1, value))

/** Columns and rows of stone faces in the stone picture; each stone shows one cell. */
export const stoneCells = { columns: 3, rows: 2 }

/** Height of the stone surface, for the colour and the normal picture alike. */
function stoneHeight(u: number, v: number): number {
  const cellX = u * stoneCells.columns
  const cellY = v * stoneCells.rows
  const fromEdge = Math.min(cellX % 1, 1 - (cellX % 1), (cellY % 1) * 0.75, (1 - (cellY % 1)) * 0.75)
  const rim = clamp01((fromEdge - 0.015 - 0.02 * noise(u * 60, v * 60)) / 0.05)
  const chips = noise(u * 22, v * 22, 5) > 0.8 ? 0.2 : 0
  return rim * (0.55 + 0.45 * grain(u * 18, v * 18)) - chips * rim
}

export function stoneColour(u: number, v: number): Colour {
  const cell = Math.floor(u * stoneCells.columns) + 3 * Math.floor(v * stoneCells.rows)
  const height = stoneHeight(u, v)
  const body = tint(blend([148, 139, 122], [120, 116, 108], hash(cell, 3)), 0.72 + 0.5 * grain(u * 30, v * 30, cell))
  const moss = clamp01((grain(u * 7, v * 7, 9) - 0.6) * 5)
  const speck = hash(Math.floor(u * 900), Math.floor(v * 700)) > 0.985 ? 22 : 0
  const stone = blend(body, [96, 106, 66], moss * 0.7)
  const mortar = tint([176, 166, 148], 0.8 + 0.4 * grain(u * 90, v * 90))
  const shown = blend(mortar, stone, clamp01(height * 3.2))
  return [shown[0] + speck, shown[1] + speck, shown[2] + speck]
}

/** A normal map (Y up) from a height function. */
export function normalsOf(
  heightAt: (u: number, v: number) => number,
  strength: number,
  width: number,
  height: number,
): Picture {
  return paint(width, height, (u, v) => {
    const du = (heightAt(u + 1 / width, v) - heightAt(u - 1 / width, v)) * strength
    const dv = (heightAt(u, v + 1 / height) - heightAt(u, v - 1 / height)) * strength
    const length = Math.hypot(du, dv, 1)
    return [(-du / length) * 127.5 + 127.5, (dv / length) * 127.5 + 127.5, (1 / length) * 127.5 + 127.5]
  })
}

export const stoneNormals = (width: number, height: number): Picture => normalsOf(stoneHeight, 2.2, width, height)

/** Planks side by side in the timber picture. */
export const plankColumns = 5

export function timberColour(u: number, v: number): Colour {
  const plank = Math.floor(u * plankColumns)
  const across = (u * plankColumns) % 1
  const wobble = 0.5 * noise(v * 5 + plank * 11, plank)
  const rings = Math.abs(((grain(across * 3 + wobble, v * 1.6 + plank * 7, plank) * 9) % 1) - 0.5) * 2
  const fibre = noise(across * 60, v * 9, plank)
  const knot = Math.hypot(across - 0.3 - 0.4 * hash(plank, 1), (v - hash(plank, 2)) * 5)
  const seam = clamp01(Math.min(across, 1 - across) * 22)
  const base = blend([146, 98, 56], [112, 72, 40], hash(plank, 9))
  const light = (0.62 + 0.28 * rings + 0.22 * fibre) * (knot < 0.16 ? 0.55 + knot * 2 : 1)
  return tint(base, light * (0.35 + 0.65 * seam))
}

export function ironColour(u: number, v: number): Colour {
  const hammered = grain(u * 14, v * 14)
  const rust = clamp01((grain(u * 5, v * 5, 4) - 0.55) * 5)
  return blend(tint([62, 62, 66], 0.7 + 0.6 * hammered), [122, 66, 38], rust * 0.8)
}

export function bronzeColour(u: number, v: number): Colour {
  const worn = grain(u * 8, v * 16)
  const green = clamp01((grain(u * 6, v * 6, 3) - 0.55) * 4)
  return blend(tint([176, 126, 58], 0.6 + 0.7 * worn), [84, 132, 112], green * 0.7)
}

export const toPng = (picture: Picture): Uint8Array => encodePng({ ...rgbOf(picture), depth: 8, channels: 3 })

export function toJpeg(picture: Picture, quality: number): Uint8Array {
  return new Uint8Array(
    jpeg.encode({ width: picture.width, height: picture.height, data: Buffer.from(picture.data) }, quality).data,
  )
}

function rgbOf({ width, height, data }: Picture): Picture {
  const rgb = new Uint8Array(width * height * 3)
  for (let pixel = 0; pixel < width * height; pixel++) rgb.set(data.subarray(pixel * 4, pixel * 4 + 3), pixel * 3)
  return { width, height, data: rgb }
}
