import { Line } from '@react-three/drei'
import { useMemo } from 'react'
import { CatmullRomCurve3, Quaternion, Vector3 } from 'three'
import type { SceneData } from '../workers/scene-data'

const SPRUCE = 0x1f5c4a
const UP = new Vector3(0, 1, 0)
const BENDS = 24

/** Events between the things of an item: a bow from what sets it off to what it is done to, with a head at its end. */
export function EventArrows({ links, reach }: { links: SceneData['links']; reach: number }) {
  return links.map((link, number) => (
    <EventArrow key={`${link.text} ${number}`} link={link} reach={reach} number={number} />
  ))
}

/** Bows of several events between the same two things lie above each other. */
function EventArrow({ link, reach, number }: { link: SceneData['links'][number]; reach: number; number: number }) {
  const { points, end, turn } = useMemo(() => {
    const from = new Vector3(...link.from)
    // What is not of the item lies beside it.
    const to = link.to ? new Vector3(...link.to) : from.clone().add(new Vector3(reach * 0.6, 0, reach * 0.2))
    const lift = reach * (0.18 + 0.05 * (number % 4))
    const same = from.distanceTo(to) < reach * 0.02
    const middle = from
      .clone()
      .add(to)
      .multiplyScalar(0.5)
      .add(new Vector3(same ? lift * 0.6 : 0, lift, 0))
    const away = from.clone().add(new Vector3(same ? -lift * 0.6 : 0, lift * 0.8, 0))
    const curve = new CatmullRomCurve3(same ? [from, away, middle, to] : [from, middle, to])
    return {
      points: curve.getPoints(BENDS),
      end: to,
      turn: new Quaternion().setFromUnitVectors(UP, curve.getTangent(1).normalize()),
    }
  }, [link, reach, number])
  return (
    <group>
      <Line
        points={points}
        color={SPRUCE}
        lineWidth={3}
        depthTest={false}
        renderOrder={7}
        dashed={link.to === null}
        dashSize={reach * 0.03}
        gapSize={reach * 0.02}
      />
      <mesh position={end} quaternion={turn} renderOrder={8}>
        <coneGeometry args={[reach * 0.014, reach * 0.045, 12]} />
        <meshBasicMaterial color={SPRUCE} depthTest={false} transparent />
      </mesh>
    </group>
  )
}

/** Where the words of an event stand: above the middle of its bow. */
export const arrowLabels = (links: SceneData['links'], reach: number) =>
  links.slice(0, 12).map(({ text, from, to }, number) => {
    const lift = reach * (0.18 + 0.05 * (number % 4))
    const end = to ?? [from[0] + reach * 0.6, from[1], from[2] + reach * 0.2]
    const at: [number, number, number] = [(from[0] + end[0]) / 2, (from[1] + end[1]) / 2 + lift, (from[2] + end[2]) / 2]
    return { text, from: at, to: at, above: true }
  })
