import { useState } from 'react'
import { Object3D } from 'three'
import type { SceneData } from '../workers/scene-data'

/** More of them would stop the card. */
const MOST_LIT = 16

/** What the item itself lights with. */
export function ItemLights({ lights }: { lights: SceneData['lights'] }) {
  return lights
    .slice(0, MOST_LIT)
    .map(({ name, colour, intensity, range, at, beam }) =>
      beam ? (
        <SpotLight key={name} light={{ colour, intensity, range, at }} beam={beam} />
      ) : (
        <pointLight key={name} color={colour} intensity={intensity} distance={range ?? 0} decay={2} position={at} />
      ),
    )
}

type Light = SceneData['lights'][number]

function SpotLight({
  light: { colour, intensity, range, at },
  beam: { towards, innerDegrees, outerDegrees },
}: {
  light: Pick<Light, 'colour' | 'intensity' | 'range' | 'at'>
  beam: NonNullable<Light['beam']>
}) {
  const [target] = useState(() => new Object3D())
  return (
    <>
      <primitive object={target} position={at.map((value, axis) => value + towards[axis])} />
      <spotLight
        color={colour}
        intensity={intensity}
        distance={range ?? 0}
        decay={2}
        position={at}
        target={target}
        angle={(outerDegrees * Math.PI) / 180}
        penumbra={1 - Math.min(1, innerDegrees / outerDegrees)}
      />
    </>
  )
}
