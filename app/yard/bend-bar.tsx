import { useEffect, useState } from 'react'
import type { BoneMove } from '../../core/maths/bend'
import type { Rulebook } from '../../core/game/schema'
import { gameAxes } from '../../core/game/space'
import type { SceneData } from '../workers/scene-data'
import { atRest, moveBone, restBones, takeBone, useBend } from './bend-state'

interface BendBarProps {
  bend: NonNullable<SceneData['bend']>
  space: Rulebook['space']
  /** How far a bone can be pulled, in game units. */
  reach: number
}

const ways = [
  { key: 'turnDegrees', title: 'Turn', unit: '°', most: 120, step: 1 },
  { key: 'moved', title: 'Pull', unit: '', most: 1, step: 0.01 },
] as const

/** Turns and pulls a bone by sliders, in the game's own axes, so that one sees how the mesh follows. */
export function BendBar({ bend, space, reach }: BendBarProps) {
  const { bone, moves } = useBend()
  const [wayNumber, setWay] = useState(0)
  const known = bend.bones.some(({ name }) => name === bone)
  const first = bend.bones[0]?.name ?? null
  useEffect(() => {
    if (!known) takeBone(first)
  }, [known, first])
  useEffect(() => restBones, [bend])
  if (bone === null || !known) return null
  const move = moves.get(bone) ?? atRest
  const { key, unit, most, step } = ways[wayNumber]
  const times = key === 'moved' ? Math.ceil(reach) : 1
  const change = (axis: number, value: number): void => {
    const changed = [...move[key]] as [number, number, number]
    changed[axis] = value
    moveBone(bone, { ...move, [key]: changed } satisfies BoneMove)
  }
  return (
    <div
      role="group"
      aria-label="Try the bend"
      className="flex w-fit flex-wrap items-center gap-x-3 gap-y-1 rounded-lg border border-edge-strong bg-slip px-3 py-1 text-[13px]"
    >
      <select
        aria-label="Bone"
        className="field py-0 text-[13px]"
        value={bone}
        onChange={(event) => takeBone(event.target.value)}
      >
        {bend.bones.map(({ name }, number) => (
          <option key={number} value={name}>
            {name}
          </option>
        ))}
      </select>
      <span className="flex gap-1">
        {ways.map((each, number) => (
          <button
            key={each.key}
            type="button"
            aria-pressed={number === wayNumber}
            onClick={() => setWay(number)}
            className={`chip ${number === wayNumber ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
          >
            {each.title}
          </button>
        ))}
      </span>
      {gameAxes(space).map(({ letter, working, sign }) => {
        const value = sign * move[key][working] || 0
        const shown = key === 'moved' ? value.toFixed(2) : String(Math.round(value))
        return (
          <label key={letter} className="flex items-center gap-1">
            <span className="num">{letter}</span>
            <input
              type="range"
              aria-label={key === 'moved' ? `Pull along ${letter}` : `Turn about ${letter}`}
              aria-valuetext={key === 'moved' ? `${shown} ${space.unit.plural}` : `${shown} degrees`}
              className="w-20"
              min={-most * times}
              max={most * times}
              step={step * times}
              value={value}
              onChange={(event) => change(working, sign * Number(event.target.value))}
            />
            <span className="num w-11 text-right">
              {shown}
              {unit}
            </span>
          </label>
        )
      })}
      <button
        type="button"
        className="button px-2 py-0.5 text-[12.5px]"
        disabled={moves.size === 0}
        onClick={restBones}
      >
        At rest
      </button>
    </div>
  )
}
