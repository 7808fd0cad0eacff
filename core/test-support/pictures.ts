import type { Texture } from '@gltf-transform/core'
import { textureFacts } from '../operations/maps/texture-pixels.ts'
import type { Pixels } from '../pictures/pixels.ts'

/** A picture from a function of its pixels; opaque where it gives three numbers. */
export function pictureOf(width: number, height: number, at: (x: number, y: number) => readonly number[]): Pixels {
  const data = new Uint8Array(width * height * 4)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const colour = at(x, y)
      data.set([...colour.slice(0, 3), colour[3] ?? 255], (y * width + x) * 4)
    }
  }
  return { width, height, data }
}

/** The same numbers from the same seed, 0 to 1. */
export function numbers(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

/** Soft colours with some grain, as paint has. */
export function painted(width: number, height: number, seed = 1): Pixels {
  const next = numbers(seed)
  return pictureOf(width, height, (x, y) => [
    128 + 80 * Math.sin(x / 9 + y / 21) + next() * 12,
    110 + 60 * Math.cos(y / 13) + next() * 12,
    90 + 40 * Math.sin((x + y) / 30) + next() * 12,
  ])
}

/** The normals of a wavy surface. @param up whether green rises towards the top */
export function wavyNormals(side: number, up: boolean): Pixels {
  return pictureOf(side, side, (x, y) => {
    const dx = 0.6 * Math.cos(x / 5) * Math.cos(y / 8) - 0.2 * Math.sin((x + y) / 11)
    const dy = -0.375 * Math.sin(x / 5) * Math.sin(y / 8) - 0.2 * Math.sin((x + y) / 11)
    const length = Math.hypot(dx, dy, 1)
    return [-dx / length, ((up ? 1 : -1) * dy) / length, 1 / length].map((value) => Math.round((value + 1) * 127.5))
  })
}

/** A leaf with teeth: opaque inside, clear outside, green under what is clear too. */
export const leaf = (side: number): Pixels =>
  pictureOf(side, side, (x, y) => {
    const [u, v] = [(x + 0.5) / side - 0.5, (y + 0.5) / side - 0.5]
    const reach = 0.34 + 0.1 * Math.cos(Math.atan2(v, u) * 9)
    return [60, 120, 40, Math.hypot(u, v) < reach ? 255 : 0]
  })

/** Width and height of a texture, whatever it is kept as. */
export function sizeOf(texture: Texture): [number, number] {
  const { width, height } = textureFacts(texture)
  return [width, height]
}
