import { useThree } from '@react-three/fiber'
import { useEffect } from 'react'
import { DoubleSide } from 'three'
import { usePlay } from './play-state'

/**
 * What can be taken on a run and was not taken yet, as discs that go along with their markers; flags where one arrives.
 */
export function RunPlaces({ width }: { width: number }) {
  const invalidate = useThree((state) => state.invalidate)
  const places = usePlay((state) => state.frame?.run?.places)
  const goals = usePlay((state) => state.frame?.run?.goals)
  useEffect(() => invalidate(), [places, invalidate])
  return (
    <>
      {places
        ?.filter(({ taken }) => !taken)
        .map(({ name, place }) => (
          <group key={name} position={place}>
            <mesh>
              <torusGeometry args={[width, width * 0.16, 8, 28]} />
              <meshBasicMaterial color={0x2f6b4f} />
            </mesh>
            <mesh>
              <circleGeometry args={[width * 0.84, 28]} />
              <meshBasicMaterial color={0xf2e7cf} side={DoubleSide} />
            </mesh>
          </group>
        ))}
      {goals?.map((place, number) => (
        <group key={number} position={place}>
          <mesh position={[0, width * 4, 0]}>
            <cylinderGeometry args={[width * 0.16, width * 0.16, width * 8, 10]} />
            <meshBasicMaterial color={0x2f6b4f} />
          </mesh>
          <mesh position={[width * 1.5, width * 7, 0]}>
            <planeGeometry args={[width * 3, width * 2]} />
            <meshBasicMaterial color={0xf2e7cf} side={DoubleSide} />
          </mesh>
        </group>
      ))}
    </>
  )
}
