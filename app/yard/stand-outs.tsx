import { interpolateRgbBasis } from 'd3'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, DoubleSide, MeshLambertMaterial } from 'three'
import type { StandOuts } from '../workers/yard-messages'

/** From far inside what is seen over its surface to far outside: slate, paper, madder. */
const scale = interpolateRgbBasis(['#2f4a61', '#8ea6b8', '#f3ead6', '#d59a6a', '#8e1b2c'])

/** A colour for how far a solid stands outside (1) or lies inside (−1), as a share of the furthest that counts. */
const standOutColour = (share: number): string => scale((Math.min(1, Math.max(-1, share)) + 1) / 2)

/**
 * Solids in colours for where they stand out of what is seen, or lie in it. @param most distance of the full colour, in
 * game units
 */
export function StandOutsView({ solids, most }: { solids: StandOuts; most: number }) {
  const geometries = useMemo(
    () =>
      solids.map(({ positions, indices, distances }) => {
        const geometry = new BufferGeometry()
        geometry.setAttribute('position', new BufferAttribute(positions, 3))
        geometry.setIndex(new BufferAttribute(indices, 1))
        const steps = Array.from({ length: 65 }, (_, step) => new Color(standOutColour(step / 32 - 1)))
        const colours = new Float32Array(distances.length * 3)
        distances.forEach((distance, corner) =>
          steps[Math.round((Math.min(1, Math.max(-1, distance / most)) + 1) * 32)].toArray(colours, corner * 3),
        )
        geometry.setAttribute('color', new BufferAttribute(colours, 3))
        return geometry
      }),
    [solids, most],
  )
  const material = useMemo(
    () => new MeshLambertMaterial({ vertexColors: true, side: DoubleSide, flatShading: true }),
    [],
  )
  useEffect(() => () => geometries.forEach((geometry) => geometry.dispose()), [geometries])
  return (
    <>
      {geometries.map((geometry, index) => (
        <mesh key={index} geometry={geometry} material={material} renderOrder={5} />
      ))}
    </>
  )
}
