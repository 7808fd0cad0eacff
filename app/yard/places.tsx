import { Line } from '@react-three/drei'
import type { SceneData } from '../workers/scene-data'

const SPRUCE = 0x1f5c4a

/** Nodes that are places alone, as the game has them: a small peg where each stands, and a line the way it looks. */
export function Places({ places, reach }: { places: SceneData['places']; reach: number }) {
  const size = reach * 0.02
  return places.map(({ name, at, ahead }) => (
    <group key={name} position={at}>
      <mesh renderOrder={5}>
        <octahedronGeometry args={[size]} />
        <meshBasicMaterial color={SPRUCE} depthTest={false} transparent />
      </mesh>
      <Line
        points={[
          [0, 0, 0],
          [ahead[0] * size * 4, ahead[1] * size * 4, ahead[2] * size * 4],
        ]}
        color={SPRUCE}
        lineWidth={2}
        depthTest={false}
        renderOrder={5}
      />
    </group>
  ))
}
