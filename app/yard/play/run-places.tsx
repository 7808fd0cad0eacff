import { useThree } from '@react-three/fiber'
import { useEffect } from 'react'
import { DoubleSide } from 'three'
import { usePlay } from './play-state'

/** What can be taken on a run and was not taken yet: discs that stand where their markers are, and go along. */
export function RunPlaces({ width }: { width: number }) {
  const invalidate = useThree((state) => state.invalidate)
  const places = usePlay((state) => state.frame?.run?.places)
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
    </>
  )
}
