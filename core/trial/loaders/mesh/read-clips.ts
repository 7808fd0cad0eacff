import type { LoadedGltf } from './gltf-schema.ts'
import type { LoadedChannel, LoadedMesh, LoadedNode } from './loaded-mesh.ts'
import { readNumbers } from './read-accessor.ts'

const sizes: Record<LoadedChannel['path'], [type: string, size: number]> = {
  translation: ['VEC3', 3],
  scale: ['VEC3', 3],
  rotation: ['VEC4', 4],
}
const isMoved = (path: string): path is LoadedChannel['path'] => path in sizes

/**
 * @throws Error when a clip moves nothing that is there, or its keys are not in order (glTF 2.0, section 3.11)
 * @example const clips = readClips(gltf, binary, loaded)
 */
export function readClips(
  gltf: LoadedGltf,
  binary: Uint8Array,
  loaded: ReadonlyMap<number, LoadedNode>,
): LoadedMesh['clips'] {
  return gltf.animations.map(({ name = '', channels, samplers }) => ({
    name,
    channels: channels.flatMap(({ sampler: number, target }) => {
      const sampler = samplers[number]
      if (!sampler || (target.node !== undefined && !gltf.nodes[target.node]))
        throw new Error('a clip that moves what is not there')
      const times = readNumbers(gltf, binary, sampler.input, 'SCALAR', 'floats')
      checkTimes(times)
      const { path } = target
      if (!isMoved(path)) return []
      const [type] = sizes[path]
      const values = readNumbers(gltf, binary, sampler.output, type, path === 'rotation' ? 'shares' : 'floats')
      const node = loaded.get(target.node ?? -1)
      const channel = { path, interpolation: sampler.interpolation ?? 'LINEAR', times, values }
      checkValues(channel)
      return node ? [{ ...channel, node }] : []
    }),
  }))
}

/**
 * @throws Error when keys are not in order
 * @example checkTimes(times)
 */
export function checkTimes(times: Float32Array): void {
  if (times[0] < 0 || times.some((time, key) => key > 0 && time <= times[key - 1]))
    throw new Error('a clip whose keys are not in order')
}

/**
 * @throws Error when there is not one value for each key, or three where a curve leads through them
 * @example checkValues({ path, interpolation, times, values })
 */
export function checkValues({ path, interpolation, times, values }: Omit<LoadedChannel, 'node'>): void {
  if (values.length !== times.length * sizes[path][1] * (interpolation === 'CUBICSPLINE' ? 3 : 1))
    throw new Error('a clip with more or fewer values than keys')
}
