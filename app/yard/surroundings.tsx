import { Line } from '@react-three/drei'
import { formatLength } from '../../core/support/wording'
import type { Labelled } from './label-placer'
import { longestOf, measureGap, type Reference } from './reference'
import type { YardSpace } from './yard-settings'

interface Box {
  min: readonly number[]
  max: readonly number[]
}

/** The game's reference figure: a plain ivory person of the right height, feet on the ground. */
export function Figure({ space, at }: { space: YardSpace; at: [number, number, number] }) {
  const { figureHeight: height, figureWidth: width } = space
  const headRadius = height * 0.095
  const bodyRadius = width * 0.42
  const bodyTop = height - headRadius * 2 - height * 0.02
  return (
    <group position={at}>
      <mesh position={[0, bodyTop / 2, 0]} castShadow>
        <capsuleGeometry args={[bodyRadius, Math.max(0.01, bodyTop - bodyRadius * 2), 6, 20]} />
        <meshStandardMaterial color={0xf2e9d3} roughness={0.8} />
      </mesh>
      <mesh position={[0, height - headRadius, 0]} castShadow>
        <sphereGeometry args={[headRadius, 20, 14]} />
        <meshStandardMaterial color={0xf2e9d3} roughness={0.8} />
      </mesh>
    </group>
  )
}

/** A flat hand of the figure, fingers up, its wrist on the ground. */
function Hand({ length, at }: { length: number; at: [number, number, number] }) {
  const palm = length * 0.5
  const finger = length * 0.09
  const fingers = [0.41, 0.5, 0.46, 0.36].map((long, index) => ({
    long: length * long,
    x: (index - 1.5) * finger * 1.16,
  }))
  const skin = <meshStandardMaterial color={0xf2e9d3} roughness={0.8} />
  return (
    <group position={at}>
      <mesh position={[0, palm / 2, 0]} castShadow>
        <boxGeometry args={[finger * 4.5, palm, finger * 1.3]} />
        {skin}
      </mesh>
      {fingers.map(({ long, x }) => (
        <mesh key={x} position={[x, palm + long / 2 - finger * 0.3, 0]} castShadow>
          <capsuleGeometry args={[finger / 2, Math.max(finger * 0.1, long - finger), 4, 12]} />
          {skin}
        </mesh>
      ))}
      <mesh position={[-finger * 2.8, palm * 0.62, 0]} rotation={[0, 0, 0.55]} castShadow>
        <capsuleGeometry args={[finger * 0.55, length * 0.2, 4, 12]} />
        {skin}
      </mesh>
    </group>
  )
}

/** What of known size stands beside the item. */
export function ReferenceThing({
  reference: { what, width, height },
  space,
  at,
}: {
  reference: Reference
  space: YardSpace
  at: [number, number, number]
}) {
  if (what === 'figure') return <Figure space={space} at={at} />
  if (what === 'hand') return <Hand length={height} at={at} />
  return (
    <mesh position={[at[0], at[1] + height / 2, at[2]]} castShadow>
      <capsuleGeometry args={[width / 2, height - width, 6, 16]} />
      <meshStandardMaterial color={0xf2e9d3} roughness={0.8} />
    </mesh>
  )
}

/** What the thing beside a small item is, with its length. */
export function referenceLabel({ what, height }: Reference, [x, y, z]: readonly [number, number, number]): Labelled {
  const top: [number, number, number] = [x, y + height, z]
  return { text: `${what} ${shown(height)}`, from: top, to: top, above: true }
}

/** Ground with a grid, large enough for the item. */
export function Ground({ cell, reach, at: [x, y, z] }: { cell: number; reach: number; at: [number, number, number] }) {
  const cells = Math.min(80, Math.max(10, Math.ceil((reach * 2) / cell / 2) * 2))
  const size = cells * cell
  const middle = [Math.round(x / cell) * cell, Math.round(z / cell) * cell]
  return (
    <>
      <gridHelper args={[size, cells, 0x7f9a94, 0xaebdb8]} position={[middle[0], y - reach * 0.001, middle[1]]} />
      <mesh rotation={[-Math.PI / 2, 0, 0]} position={[middle[0], y - reach * 0.002, middle[1]]} receiveShadow>
        <planeGeometry args={[size * 2, size * 2]} />
        <shadowMaterial opacity={0.22} />
      </mesh>
    </>
  )
}

const shown = (value: number): string =>
  value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value >= 1 ? value.toFixed(2) : formatLength(value)

type Place = [number, number, number]

/** A line along one side of the item's box, with the words that stand on it. */
export interface Dimension {
  from: Place
  to: Place
  tick: Place
  text: string
}

/** Width, height and depth along the item's box, in game units. */
export function dimensionsOf(box: Box, space: YardSpace): Dimension[] {
  const [x0, y0, z0] = box.min
  const [x1, y1, z1] = box.max
  const off = measureGap(longestOf(box), space)
  const tick = off * 0.4
  const front = z1 + off
  const right = x1 + off
  return [
    { from: [x0, y0, front], to: [x1, y0, front], tick: [0, 0, tick], text: `${shown(x1 - x0)} wide` },
    { from: [right, y0, z0], to: [right, y0, z1], tick: [tick, 0, 0], text: `${shown(z1 - z0)} deep` },
    { from: [x0 - off, y0, z1], to: [x0 - off, y1, z1], tick: [tick, 0, 0], text: `${shown(y1 - y0)} tall` },
  ]
}

export function DimensionLines({ dimensions }: { dimensions: readonly Dimension[] }) {
  return dimensions.map(({ from, to, tick: [tx, ty, tz] }, number) => (
    <group key={number}>
      <Line points={[from, to]} color={0x26302d} lineWidth={1.2} />
      {[from, to].map((end, index) => (
        <Line
          key={index}
          points={[
            [end[0] - tx, end[1] - ty, end[2] - tz],
            [end[0] + tx, end[1] + ty, end[2] + tz],
          ]}
          color={0x26302d}
          lineWidth={1.2}
        />
      ))}
    </group>
  ))
}

/** The brackets round a part that is pointed at. */
export function Brackets({ box }: { box: Box }) {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((corner) =>
    [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? box.max[axis] : box.min[axis])),
  )
  return corners.flatMap((corner, index) =>
    [0, 1, 2].map((axis) => {
      const length = (box.max[axis] - box.min[axis]) * 0.18 * ((index >> axis) & 1 ? -1 : 1)
      const end = corner.map((value, each) => (each === axis ? value + length : value))
      return (
        <Line
          key={`${index} ${axis}`}
          points={[corner as [number, number, number], end as [number, number, number]]}
          color={0x1d5a4c}
          lineWidth={2.5}
        />
      )
    }),
  )
}
