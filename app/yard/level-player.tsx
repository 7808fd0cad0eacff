import { useFrame, useThree, type RootState } from '@react-three/fiber'
import { useEffect, useRef, type ComponentRef } from 'react'
import type { OrbitControls } from '@react-three/drei'
import { Vector3 } from 'three'

interface LevelPlayerProps {
  /** Where the game switches, nearest first. */
  switches: readonly { level: number; fromDistance: number }[]
  /** A distance to look from now; null to leave the eye where it is. */
  distance: number | null
  playing: boolean
  onLevel: (level: number) => void
  onDone: () => void
}

const SECONDS = 9

/** Takes the eye away from the item as far as the game would, and tells which level it would draw there. */
export function LevelPlayer({ switches, distance, playing, onLevel, onDone }: LevelPlayerProps) {
  const invalidate = useThree((state) => state.invalidate)
  const get = useThree((state) => state.get)
  const began = useRef<number | null>(null)
  const shown = useRef(0)
  const stands = useRef(false)

  useEffect(() => {
    if (distance === null || playing) return
    moveTo(get, distance)
    invalidate()
  }, [distance, playing, get, invalidate])

  useEffect(() => {
    began.current = null
    shown.current = -1
    stands.current = matchMedia('(prefers-reduced-motion: reduce)').matches
    if (playing) invalidate()
  }, [playing, invalidate])

  useFrame(({ clock }) => {
    if (!playing) return
    began.current ??= clock.elapsedTime
    const along = (clock.elapsedTime - began.current) / SECONDS
    if (along >= 1) {
      onDone()
      return
    }
    const [near, far] = [(switches[0]?.fromDistance ?? 10) * 0.4, (switches.at(-1)?.fromDistance ?? 10) * 1.25]
    // Away and back again; in a few jumps for those who want no motion.
    const share = 1 - Math.abs(1 - along * 2)
    const stops = [near, ...switches.map((each) => each.fromDistance), far]
    const eye = stands.current
      ? stops[Math.min(stops.length - 1, Math.floor(share * stops.length))]
      : near + (far - near) * share
    moveTo(get, eye)
    const level = switches.findLast((each) => eye >= each.fromDistance)?.level ?? 0
    if (level !== shown.current) {
      shown.current = level
      onLevel(level)
    }
    invalidate()
  })
  return null
}

type Get = () => Pick<RootState, 'camera' | 'controls'>

function moveTo(get: Get, distance: number): void {
  const { camera, controls } = get()
  const target = (controls as ComponentRef<typeof OrbitControls> | null)?.target ?? new Vector3()
  const away = camera.position.clone().sub(target).normalize().multiplyScalar(distance)
  camera.position.copy(target).add(away)
  if (camera.far < distance * 3) {
    camera.far = distance * 3
    camera.updateProjectionMatrix()
  }
}
