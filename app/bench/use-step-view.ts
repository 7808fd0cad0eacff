import { useEffect, useRef } from 'react'
import type { Game } from '../../core/game/game'
import { z } from 'zod'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { formatCount } from '../ui/format'
import type { Ladder } from '../workers/messages'
import type { SceneData } from '../workers/scene-data'
import type { FrameChange } from '../yard/decal-frame'
import type { PlacedDecal } from '../workers/map-messages'
import type { ShapeChange } from '../yard/solid-frame'
import type { PlacedShapes } from '../workers/yard-messages'
import { facesSchema, movedPlacement, movedShape, shapeEditSchema, placementSchema, pointsSchema } from './pick-values'
import { useItemState, useLadder, usePickedFaces, usePlacedDecal, useShapes } from '../queries/item-queries'
import { changeYardView, useYardView } from '../yard/yard-view'

type Place = [number, number, number]

/** What the yard shows for a step instead of the result: what the step is given, to pick on or to try a slider on. */
export interface StepView {
  scene: SceneData
  message: string
  onPick: ((part: string, point: Place) => void) | null
  /** Told of the places that a stroke of the brush went over; null while clicks pick otherwise. */
  onStroke: ((places: { part: string; point: Place }[]) => void) | null
  /** Radius of the brush in game units. */
  brush: number
  /** A picture that is placed, and what to do when it was moved. */
  /** Collision shapes that are placed, and what to do when they were moved. */
  shapes: { shapes: PlacedShapes; onChange: (change: ShapeChange) => void } | null
  placed: { decal: PlacedDecal; onChange: (change: FrameChange) => void } | null
  points: readonly Place[]
  faces: Float32Array | null
  rung: Ladder['levels'][number] | null
}

/** A pick that waits for a click, or a slider that is being dragged; null while neither is. */
export function useStepView(item: CrateItem, game: Game): StepView | null {
  const { send } = useCrate()
  const { pick, draft, reach } = useYardView()
  const wanted = pick ?? draft
  const index = item.worklist.findIndex((entry) => entry.id === wanted?.entry)
  const entry = index < 0 ? null : item.worklist[index]
  const reducing = useReducing(item)
  // What comes after the step does not matter here, so that a pick does not fetch the state anew.
  const steps = entry ? index : (reducing?.index ?? null)
  const before = { ...item, worklist: item.worklist.slice(0, steps ?? 0) }
  const state = useItemState(before, game, steps)
  const ladder = useLadder(before, game, reducing?.leaveAlone ?? null)
  const faces = usePickedFaces(
    before,
    game,
    entry && pick?.kind === 'faces' ? facesSchema.parse(entry.parameters[pick.key]) : null,
  )
  const decal = usePlacedDecal(before, game, entry && pick?.kind === 'placement' ? entry.parameters : null)
  const shapes = useShapes(
    { ...item, worklist: item.worklist.slice(0, index + 1) },
    game,
    entry && pick?.kind === 'shape-edit' ? index : null,
  )
  // The yard draws in its own time: a click that comes at once after another adds to what that one has made.
  const latest = useRef<Record<string, unknown>>({})
  useEffect(() => {
    latest.current = entry?.parameters ?? {}
  }, [entry])
  if (!entry || !state) return null
  if (pick) {
    const change = (value: unknown): void => {
      latest.current = { ...latest.current, [pick.key]: value }
      void send({
        do: 'edit-step',
        item: item.id,
        entry: entry.id,
        parameters: { ...entry.parameters, [pick.key]: value },
      })
    }
    const points = pick.kind === 'points' ? pointsSchema.parse(entry.parameters[pick.key]) : []
    return {
      scene: state.scene,
      points,
      faces,
      rung: null,
      brush: reach.radius,
      message: messages[pick.kind === 'faces' && reach.growth === 'round' ? 'brush' : pick.kind],
      placed: decal && {
        decal,
        onChange: (moved) =>
          void send({
            do: 'edit-step',
            item: item.id,
            entry: entry.id,
            parameters: { ...entry.parameters, ...movedPlacement(placementSchema.parse(entry.parameters), moved) },
          }),
      },
      shapes: shapes && {
        shapes,
        onChange: (moved) =>
          void send({
            do: 'edit-step',
            item: item.id,
            entry: entry.id,
            parameters: { ...entry.parameters, ...movedShape(shapeEditSchema.parse(entry.parameters), moved) },
          }),
      },
      onStroke:
        pick.kind === 'faces' && reach.growth === 'round'
          ? (places) =>
              change([
                ...facesSchema.parse(latest.current[pick.key]),
                ...places.map((place) => ({ ...place, ...reach })),
              ])
          : null,
      onPick: (part, point) => {
        if (pick.kind === 'faces') change([...facesSchema.parse(latest.current[pick.key]), { part, point, ...reach }])
        else if (pick.kind === 'points') {
          const count = pick.count ?? 2
          const before = pointsSchema.parse(latest.current[pick.key])
          const next = before.length >= count ? [point] : [...before, point]
          change(next)
          if (next.length === count) changeYardView({ pick: null })
        }
      },
    }
  }
  const rung = draft && ladder ? rungFor(ladder, draft) : null
  if (!rung) return null
  return {
    scene: state.scene,
    points: [],
    faces: null,
    rung,
    onPick: null,
    onStroke: null,
    brush: 0,
    placed: null,
    shapes: null,
    message: `${formatCount(rung.triangles)} triangles, while you drag`,
  }
}

const messages = {
  points: 'This is what the step is given. Click a point.',
  faces: 'This is what the step is given. Click the faces.',
  brush: 'This is what the step is given. Paint over the faces.',
  'shape-edit':
    'Drag the solid along the ground; the knob above lifts it, the light one turns it, the grey ones size it.',
  placement: 'Drag the picture; its corners size it, the knob above turns it.',
}

/** The reduction whose card is open: its levels are made in the background before the slider is touched. */
function useReducing(item: CrateItem): { index: number; leaveAlone: string[] } | null {
  const opened = useYardView((view) => view.opened)
  const index = item.worklist.findIndex((entry) => entry.id === opened && entry.step === 'reduce-triangles' && entry.on)
  if (index < 0) return null
  return { index, leaveAlone: z.array(z.string()).catch([]).parse(item.worklist[index].parameters['leaveAlone']) }
}

/** The level that a slider's value stands for. */
function rungFor(ladder: Ladder, { key, value }: { key: string; value: number }): Ladder['levels'][number] {
  const { levels } = ladder
  if (key === 'shift') return levels.findLast((level) => level.shift <= value) ?? levels[0]
  const wanted = key === 'share' ? value * levels[0].triangles : value
  return levels.find((level) => level.triangles <= wanted) ?? levels[levels.length - 1]
}
