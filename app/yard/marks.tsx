import { Line } from '@react-three/drei'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, DoubleSide, MeshBasicMaterial, PointsMaterial } from 'three'

type Place = [number, number, number]

/** Places that a finding is about: dots of one size however far they are, seen through everything. */
export function Spots({ places }: { places: readonly Place[] }) {
  const geometry = useMemo(
    () => new BufferGeometry().setAttribute('position', new BufferAttribute(Float32Array.from(places.flat()), 3)),
    [places],
  )
  const [ring, dot] = useMemo(
    () =>
      [14, 8].map(
        (size, index) =>
          new PointsMaterial({
            color: index === 0 ? 0xfbf7ee : 0x8e1b2c,
            size,
            sizeAttenuation: false,
            depthTest: false,
            transparent: true,
          }),
      ),
    [],
  )
  useEffect(() => () => geometry.dispose(), [geometry])
  return (
    <>
      <points geometry={geometry} material={ring} renderOrder={8} />
      <points geometry={geometry} material={dot} renderOrder={9} />
    </>
  )
}

/** Points that were clicked for a step, joined by a line. */
export function PickedPoints({ points }: { points: readonly Place[] }) {
  return (
    <>
      <Spots places={points} />
      {points.length === 2 && (
        <Line points={[...points]} color={0x8e1b2c} lineWidth={2} depthTest={false} dashed={false} renderOrder={7} />
      )}
    </>
  )
}

/** Triangles that were picked, hatched over whatever they are drawn with. `corners` has 9 floats a triangle. */
export function PickedFaces({ corners }: { corners: Float32Array }) {
  const geometry = useMemo(
    () => new BufferGeometry().setAttribute('position', new BufferAttribute(corners, 3)),
    [corners],
  )
  const material = useMemo(
    () =>
      new MeshBasicMaterial({
        color: 0xc8a572,
        transparent: true,
        opacity: 0.75,
        side: DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: -2,
        polygonOffsetUnits: -2,
      }),
    [],
  )
  useEffect(() => () => geometry.dispose(), [geometry])
  return <mesh geometry={geometry} material={material} renderOrder={6} />
}
