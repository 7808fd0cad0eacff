import { useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Matrix4, Quaternion, Vector3, type Group } from 'three'
import { Figure } from '../surroundings'
import type { YardSpace } from '../yard-settings'
import { Model } from '../model'
import { TurnedToViewer } from '../turned-to-viewer'
import type { SceneData } from '../../workers/scene-data'
import { tellYard } from '../../workers/clients'
import type { YardFrameMessage } from '../../workers/yard-messages'
import { actionKeys, padActions, readPad, walkAlong, walkKeys, type PadState } from './controls'
import { knock, ringOf } from './knock-sound'
import { leadMotion } from '../motion-state'
import { RunPlaces } from './run-places'
import { usePlay } from './play-state'

interface PlaySceneProps {
  space: YardSpace
  scene: SceneData
  look: 'seen' | 'solids'
  /** The element that hears the keys. */
  keys: HTMLElement | null
}

const TELL_MILLISECONDS = 33
const TURN_SPEED = 0.05
const none: ReadonlySet<string> = new Set()

/** The figure, what moves and what is thrown, as the yard's worker tells; and the keys and pad that lead the figure. */
export function PlayScene({ space, scene, look, keys }: PlaySceneProps) {
  const invalidate = useThree((state) => state.invalidate)
  const camera = useThree((state) => state.camera)
  const controls = useThree((state) => state.controls) as {
    target: Vector3
    update: () => void
    object: { position: Vector3 }
  } | null
  const figure = useRef<Group>(null)
  const things = useRef(new Map<number, Group>())
  const [ids, setIds] = useState<{ moved: number[]; balls: number[]; remains: number[] }>({
    moved: [],
    balls: [],
    remains: [],
  })
  const hidden = usePlay((state) => state.frame?.hidden.join('\n') ?? '')
  // What an event has hidden is not drawn.
  const drawn = useMemo(() => {
    const gone = new Set(hidden.split('\n'))
    return hidden === '' ? scene : { ...scene, parts: scene.parts.filter(({ name }) => !gone.has(name)) }
  }, [scene, hidden])
  const broken = usePlay((state) => (state.frame?.broken.length ?? 0) > 0)

  useEffect(() => {
    let first = true
    const show = (frame: YardFrameMessage): void => {
      figure.current?.position.set(...frame.feet)
      if (frame.standing.length > 0) leadMotion(new Map(frame.standing.map(({ part, matrix }) => [part, matrix])))
      for (const { id, pivot, place, turn } of frame.moved)
        things.current.get(id)?.matrix.copy(movedMatrix(pivot, place, turn))
      for (const { id, place } of frame.balls) things.current.get(id)?.matrix.makeTranslation(...place)
      for (const { id, place, turn } of frame.remains)
        things.current.get(id)?.matrix.compose(new Vector3(...place), new Quaternion(...turn), new Vector3(1, 1, 1))
      if (controls) {
        // The view goes along with the figure, at the distance and from the side that was chosen.
        const eye = new Vector3(...frame.feet).addScaledVector(new Vector3(0, 1, 0), space.figureHeight * 0.8)
        // At first it stands behind the figure, which looks at the thing.
        if (first) camera.position.copy(eye).add(behind(frame, space.figureHeight))
        else camera.position.add(eye.clone().sub(controls.target))
        first = false
        controls.target.copy(eye)
        controls.update()
      }
      const listed = {
        moved: frame.moved.map(({ id }) => id),
        balls: frame.balls.map(({ id }) => id),
        remains: frame.remains.map(({ id }) => id),
      }
      setIds((known) => (JSON.stringify(known) === JSON.stringify(listed) ? known : listed))
      invalidate()
    }
    let sounded = 0
    return usePlay.subscribe(({ frame, sound, game }, before) => {
      if (!frame || frame === before.frame) return
      show(frame)
      if (sound && game && frame.knocks.length > 0 && frame.seconds - sounded > 0.08) {
        sounded = frame.seconds
        knock(ringOf(frame.knocks[0].surface, game.rulebook), frame.knocks[0].loudness)
      }
    })
  }, [camera, controls, invalidate, space.figureHeight])

  useEffect(() => () => leadMotion(null), [])
  useControls(keys)
  return (
    <>
      <RunPlaces width={space.figureHeight * 0.16} />
      <group ref={figure}>
        <Figure space={space} at={[0, 0, 0]} />
      </group>
      {ids.moved.length === 0 && !broken && (
        <TurnedToViewer scene={scene} on>
          <Model scene={drawn} look={look} layer={0} selected={null} picked={none} onPick={null} />
        </TurnedToViewer>
      )}
      {ids.moved.map((id) => (
        <group key={id} matrixAutoUpdate={false} ref={(group) => keep(things.current, id, group)}>
          <Model scene={drawn} look={look} layer={0} selected={null} picked={none} onPick={null} />
        </group>
      ))}
      {ids.balls.map((id) => (
        <group key={id} matrixAutoUpdate={false} ref={(group) => keep(things.current, id, group)}>
          <mesh castShadow>
            <sphereGeometry args={[0.28, 18, 12]} />
            <meshStandardMaterial color={0xc8a572} roughness={0.7} />
          </mesh>
        </group>
      ))}
      {ids.remains.map((id) => (
        <group key={id} matrixAutoUpdate={false} ref={(group) => keep(things.current, id, group)}>
          <mesh castShadow>
            <boxGeometry args={[1, 0.16, 0.28]} />
            <meshStandardMaterial color={0x8a6a43} roughness={0.9} />
          </mesh>
        </group>
      ))}
    </>
  )
}

/**
 * From the figure’s eyes to where it is looked at from: behind it, as it looks to where a run ends, or else at the
 * thing.
 */
function behind({ feet, run }: YardFrameMessage, figureHeight: number): Vector3 {
  const [goal] = run?.goals ?? []
  const ahead = goal ? new Vector3(goal[0] - feet[0], 0, goal[2] - feet[2]) : new Vector3(0, 0, -1)
  if (ahead.length() === 0) ahead.set(0, 0, -1)
  return ahead.setLength(-figureHeight * 2.6).setY(figureHeight * 0.5)
}

function keep(things: Map<number, Group>, id: number, group: Group | null): void {
  if (group) things.set(id, group)
  else things.delete(id)
}

/** Turned about a pivot that comes to a place. */
function movedMatrix(pivot: readonly number[], place: readonly number[], turn: readonly number[]): Matrix4 {
  const rotation = new Matrix4().makeRotationFromQuaternion(new Quaternion(turn[0], turn[1], turn[2], turn[3]))
  return new Matrix4()
    .makeTranslation(place[0], place[1], place[2])
    .multiply(rotation)
    .multiply(new Matrix4().makeTranslation(-pivot[0], -pivot[1], -pivot[2]))
}

/** Keys and pad, told to the worker thirty times a second as long as anything is pressed. */
function useControls(keys: HTMLElement | null): void {
  const camera = useThree((state) => state.camera)
  const controls = useThree((state) => state.controls) as { target: Vector3; update: () => void } | null
  const up = useMemo(() => [0, 1, 0] as const, [])
  // Keys stay held when the view's controls come or change meanwhile.
  const [held] = useState(() => new Set<string>())
  useEffect(() => {
    if (!keys) return
    let pad: PadState | null = null
    let still = false
    const down = (event: KeyboardEvent): void => {
      if (!(event.key in walkKeys) && !(event.key in actionKeys)) return
      event.preventDefault()
      // Walking takes the arrow keys from turning the view.
      event.stopImmediatePropagation()
      if (event.key in actionKeys) {
        if (!event.repeat) usePlay.setState(({ asked }) => ({ asked: [...asked, actionKeys[event.key]] }))
      } else held.add(event.key)
    }
    const release = (event: KeyboardEvent): void => void held.delete(event.key)
    const letGo = (): void => held.clear()
    const timer = setInterval(() => {
      const now = readPad()
      const { asked } = usePlay.getState()
      const actions = [...asked, ...(now ? padActions(now, pad) : [])]
      pad = now
      let [forward, right] = [now?.forward ?? 0, now?.right ?? 0]
      for (const key of held) {
        forward += walkKeys[key]?.[0] ?? 0
        right += walkKeys[key]?.[1] ?? 0
      }
      if (now?.turn && controls) {
        camera.position
          .sub(controls.target)
          .applyAxisAngle(new Vector3(...up), -now.turn * TURN_SPEED)
          .add(controls.target)
        controls.update()
      }
      const { mindsEdges } = usePlay.getState()
      const idle = forward === 0 && right === 0 && actions.length === 0
      if (idle && still) return
      still = idle
      if (asked.length > 0) usePlay.setState({ asked: [] })
      const look = camera.getWorldDirection(new Vector3()).toArray()
      // Hands and throws go where one looks, but not into the ground before one's feet.
      const level: [number, number, number] = [look[0], Math.max(-0.5, look[1] + 0.25), look[2]]
      const length = Math.hypot(...level)
      tellYard({
        walk: walkAlong(look, up, forward, right),
        look: level.map((value) => value / length) as [number, number, number],
        actions: actions.slice(0, 8),
        mindsEdges,
      })
    }, TELL_MILLISECONDS)
    keys.addEventListener('keydown', down, true)
    keys.addEventListener('keyup', release, true)
    keys.addEventListener('blur', letGo)
    return () => {
      clearInterval(timer)
      keys.removeEventListener('keydown', down, true)
      keys.removeEventListener('keyup', release, true)
      keys.removeEventListener('blur', letGo)
    }
  }, [keys, camera, controls, up, held])
}
