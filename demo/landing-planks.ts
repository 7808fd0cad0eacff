import { grain, noise } from './noise.ts'
import { normalsOf, paint, plankColumns, timberColour, toPng, type Picture } from './paint.ts'

const seam = (u: number): number => {
  const across = (u * plankColumns) % 1
  return Math.min(1, Math.min(across, 1 - across) * 14)
}
const grey =
  (at: (u: number, v: number) => number) =>
  (u: number, v: number): [number, number, number] => {
    const level = 255 * at(u, v)
    return [level, level, level]
  }

/** TGA with packed rows, bottom row first, 24 bits (Truevision TGA 2.0, image type 10). */
export function toTga({ width, height, data }: Picture): Uint8Array {
  const bytes: number[] = [
    0,
    0,
    10,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    width & 255,
    width >> 8,
    height & 255,
    height >> 8,
    24,
    0,
  ]
  const pixel = (x: number, y: number): [number, number, number] => {
    const at = ((height - 1 - y) * width + x) * 4
    return [data[at + 2], data[at + 1], data[at]]
  }
  const same = (a: readonly number[], b: readonly number[]): boolean => a[0] === b[0] && a[1] === b[1] && a[2] === b[2]
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width;) {
      let run = 1
      while (run < 128 && x + run < width && same(pixel(x, y), pixel(x + run, y))) run++
      if (run > 1) bytes.push(127 + run, ...pixel(x, y))
      else {
        while (run < 128 && x + run < width && !same(pixel(x + run - 1, y), pixel(x + run, y))) run++
        bytes.push(run - 1)
        for (let each = 0; each < run; each++) bytes.push(...pixel(x + each, y))
      }
      x += run
    }
  }
  return Uint8Array.from(bytes)
}

/** The Landing planks: five maps of one surface, two as TGA with packed rows, one of them not a power of two. */
export function planksMaps(): Record<string, Uint8Array> {
  const height = (u: number, v: number): number => seam(u) * (0.7 + 0.3 * grain(u * 40, v * 6))
  return {
    'Planks_Albedo_512.tga': toTga(
      paint(
        256,
        256,
        (u, v) => timberColour(u, v).map((value) => Math.round(value / 12) * 12) as [number, number, number],
      ),
    ),
    'Planks_AO.tga': toTga(
      paint(
        128,
        128,
        grey((u) => Math.round((0.5 + 0.5 * seam(u)) * 24) / 24),
      ),
    ),
    'Planks_nrm.png': toPng(normalsOf(height, 3, 256, 256)),
    'Planks_Gloss.png': toPng(
      paint(
        128,
        128,
        grey((u, v) => 0.3 + 0.3 * noise(u * 20, v * 20)),
      ),
    ),
    'Planks_height (1).png': toPng(paint(300, 200, grey(height))),
  }
}
