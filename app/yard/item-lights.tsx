import type { SceneData } from '../workers/scene-data'

/** More of them would stop the card. */
const MOST_LIT = 16

/** What the item itself lights with. */
export function ItemLights({ lights }: { lights: SceneData['lights'] }) {
  return lights
    .slice(0, MOST_LIT)
    .map(({ name, colour, intensity, range, at }) => (
      <pointLight key={name} color={colour} intensity={intensity} distance={range ?? 0} decay={2} position={at} />
    ))
}
