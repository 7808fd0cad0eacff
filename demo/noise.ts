/** A repeatable pseudo-random number in [0, 1) for a lattice point (integer hash, xorshift-multiply). */
export function hash(x: number, y: number, z = 0): number {
  let value = Math.imul(x | 0, 374761393) ^ Math.imul(y | 0, 668265263) ^ Math.imul(z | 0, 2147483647)
  value = Math.imul(value ^ (value >>> 13), 1274126177)
  return ((value ^ (value >>> 16)) >>> 0) / 4294967296
}

const ease = (t: number): number => t * t * (3 - 2 * t)
const mix = (a: number, b: number, t: number): number => a + (b - a) * t

/** Smooth value noise in [0, 1) at a point of space. */
export function noise(x: number, y: number, z = 0): number {
  const x0 = Math.floor(x)
  const y0 = Math.floor(y)
  const z0 = Math.floor(z)
  const tx = ease(x - x0)
  const ty = ease(y - y0)
  const tz = ease(z - z0)
  const layer = (zz: number): number =>
    mix(mix(hash(x0, y0, zz), hash(x0 + 1, y0, zz), tx), mix(hash(x0, y0 + 1, zz), hash(x0 + 1, y0 + 1, zz), tx), ty)
  return mix(layer(z0), layer(z0 + 1), tz)
}

/** Several octaves of noise, about 0 to 1. */
export function grain(x: number, y: number, z = 0, octaves = 4): number {
  let sum = 0
  let weight = 0.5
  for (let octave = 0; octave < octaves; octave++) {
    const scale = 2 ** octave
    sum += weight * noise(x * scale + octave * 17, y * scale - octave * 9, z * scale)
    weight /= 2
  }
  return sum
}
