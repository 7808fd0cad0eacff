import type { LoadedGltf } from './gltf-schema.ts'
import { readNumbers } from './read-accessor.ts'

const sizes: Record<string, [type: string, size: number]> = {
  translation: ['VEC3', 3],
  scale: ['VEC3', 3],
  rotation: ['VEC4', 4],
}

/** @throws Error when a clip moves nothing that is there, or its keys are not in order (glTF 2.0, section 3.11) */
export function checkClips(gltf: LoadedGltf, binary: Uint8Array): void {
  for (const { channels, samplers } of gltf.animations) {
    for (const { sampler: number, target } of channels) {
      const sampler = samplers[number]
      if (!sampler || (target.node !== undefined && !gltf.nodes[target.node]))
        throw new Error('a clip that moves what is not there')
      const times = readNumbers(gltf, binary, sampler.input, 'SCALAR', 'floats')
      if (times[0] < 0 || times.some((time, key) => key > 0 && time <= times[key - 1]))
        throw new Error('a clip whose keys are not in order')
      const told = sizes[target.path]
      if (!told) continue
      const values = readNumbers(
        gltf,
        binary,
        sampler.output,
        told[0],
        target.path === 'rotation' ? 'shares' : 'floats',
      )
      if (values.length !== times.length * told[1] * (sampler.interpolation === 'CUBICSPLINE' ? 3 : 1))
        throw new Error('a clip with more or fewer values than keys')
    }
  }
}
