import { Canvas } from '@react-three/fiber'
import { useMemo, useState } from 'react'
import { Matrix4 } from 'three'
import type { SceneData } from '../workers/scene-data'
import { CameraRig } from './camera-rig'
import { Model } from './model'
import { Brackets, Dimensions, Figure, Ground } from './surroundings'
import { WipeRenderer } from './wipe-renderer'
import type { Framing, YardLook, YardSpace } from './yard-settings'

export interface YardProps {
  /** On the left of the wipe; null when nothing is compared. */
  source: SceneData | null
  result: SceneData
  look: YardLook
  /** Where the wipe stands, 0 to 1; null when it is put away. */
  wipe: number | null
  selected: string | null
  showSizes: boolean
  framing: Framing
  space: YardSpace
  label: string
}

/** The place where items stand: ground, figure, light, and the item in one of its looks. Drawn only when something changes. */
export default function Yard({ source, result, look, wipe, selected, showSizes, framing, space, label }: YardProps) {
  const [keys, setKeys] = useState<HTMLDivElement | null>(null)
  const box = useMemo(() => boxOf(result), [result])
  const sourcePlacement = useMemo(() => new Matrix4().fromArray(result.fit), [result])
  const picked = result.parts.find((part) => part.name === selected)
  const reach = Math.max(...box.max.map((value, axis) => value - box.min[axis]), space.figureHeight)
  const passage = result.parts.length > 0 ? (box.min[0] + box.max[0]) / 2 : 0
  const comparing = wipe !== null && source !== null
  return (
    <div ref={setKeys} tabIndex={0} role="application" aria-label={label} aria-describedby="yard-keys" className="absolute inset-0">
      <span id="yard-keys" className="sr-only">Arrow keys turn the view, plus and minus move closer and away.</span>
      <Canvas frameloop="demand" shadows="percentage" dpr={1} camera={{ fov: 35 }} gl={{ antialias: !navigator.webdriver, preserveDrawingBuffer: false }}>
        <hemisphereLight args={[0xffffff, 0x8d8a7c, 1.5]} />
        <directionalLight
          position={[reach * 0.9, reach * 1.6, reach * 1.1]} intensity={2.2} castShadow shadow-mapSize={[1024, 1024]} shadow-bias={-0.0008} shadow-normalBias={reach * 0.002}
          shadow-camera-left={-reach} shadow-camera-right={reach} shadow-camera-top={reach} shadow-camera-bottom={-reach} shadow-camera-far={reach * 6} shadow-camera-near={0.01}
        />
        <Ground space={space} reach={reach} />
        <Figure space={space} at={[passage + Math.min(0.35, reach * 0.05), 0, Math.max(0, box.max[2]) + space.figureWidth]} />
        <Model scene={result} look={look} layer={comparing ? 2 : 0} selected={selected} />
        {comparing && <Model scene={source} look={look} layer={1} placement={sourcePlacement} selected={null} />}
        {showSizes && result.parts.length > 0 && <Dimensions box={box} space={space} />}
        {picked && <Brackets box={picked.bounds} />}
        {comparing && <WipeRenderer wipe={wipe} />}
        <CameraRig framing={framing} keys={keys} />
      </Canvas>
    </div>
  )
}

/** The box round the parts that are drawn. */
export function boxOf(scene: SceneData): { min: [number, number, number]; max: [number, number, number] } {
  const drawn = scene.parts.filter((part) => part.role === 'part')
  if (drawn.length === 0) return { min: [0, 0, 0], max: [1, 1, 1] }
  const along = (axis: number, end: 'min' | 'max'): number => Math[end](...drawn.map((part) => part.bounds[end][axis]))
  return { min: [along(0, 'min'), along(1, 'min'), along(2, 'min')], max: [along(0, 'max'), along(1, 'max'), along(2, 'max')] }
}
