import { Pause, Play } from 'lucide-react'
import { useEffect } from 'react'
import type { SceneData } from '../workers/scene-data'
import { restMotion, runMotion, standAt, useMotion } from './motion-state'

/** Plays what moves, or stops it anywhere: both ends of a motion are looked at by dragging. */
export function MotionBar({ motion }: { motion: NonNullable<SceneData['motion']> }) {
  const { at, runs } = useMotion()
  useEffect(() => restMotion, [motion])
  return (
    <div
      role="group"
      aria-label="Motion"
      className="flex items-center gap-2.5 rounded-lg border border-edge-strong bg-slip px-3 py-1 text-[13px]"
    >
      <button
        type="button"
        className="button flex items-center gap-1 px-2 py-0.5 text-[12.5px]"
        onClick={() => runMotion(!runs)}
      >
        {runs ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}
        {runs ? 'Hold' : 'Let it move'}
      </button>
      <input
        type="range"
        aria-label="Moment of the motion"
        aria-valuetext={`${(at ?? 0).toFixed(2)} of ${motion.seconds.toFixed(2)} seconds`}
        className="w-40"
        min={0}
        max={motion.seconds}
        step={0.01}
        value={at ?? 0}
        onChange={(event) => standAt(Number(event.target.value))}
      />
      <span className="num w-[118px] whitespace-nowrap">
        {(at ?? 0).toFixed(2)} / {motion.seconds.toFixed(2)} s
      </span>
      <button type="button" className="button px-2 py-0.5 text-[12.5px]" disabled={at === null} onClick={restMotion}>
        At rest
      </button>
    </div>
  )
}
