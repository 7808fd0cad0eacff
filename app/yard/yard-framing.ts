import type { CrateItem } from '../../core/crate/schema'
import { type ItemRun } from '../queries/runs'
import { movedScene } from './moved-scene'
import { longestOf, measureGap, referenceFor, referencePlace } from './reference'
import type { Framing, YardSpace } from './yard-settings'
import type { SceneData } from '../workers/scene-data'
import type { PlacedDecal } from '../workers/map-messages'
import type { Scenes } from '../workers/messages'

/** A view straight onto a picture that is placed, with some of what is round it. */
export function facing({ plane }: PlacedDecal): Framing {
  const reach = Math.max(plane.width, plane.height)
  const end = (side: number): [number, number, number] =>
    [0, 1, 2].map((axis) => plane.middle[axis] + side * reach) as [number, number, number]
  return {
    min: end(-1),
    max: end(1),
    from: [plane.outward[0], plane.outward[1] + 0.05, plane.outward[2]],
    at: Date.now(),
  }
}

export const noPicks: ReadonlySet<string> = new Set()
export const noSize: readonly number[] = [0, 0, 0]

/**
 * How many steps bring the source into the game's space, strays left out: what a result's surface is measured against.
 */
export function fitted(item: CrateItem, run: ItemRun | undefined): number {
  const first = item.worklist.findIndex(
    (entry) =>
      !['intake', 'fit'].includes(run?.evaluation?.steps.find((step) => step.id === entry.step)?.stage ?? 'fit'),
  )
  return first < 0 ? item.worklist.length : first
}
export const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

export const trianglesOf = (scene: SceneData): number =>
  scene.parts.filter((part) => part.role === 'part').reduce((sum, part) => sum + part.triangles, 0)

/** The box round the parts that are drawn; a unit box where there is none. */
export function boxOf(scene: SceneData): { min: [number, number, number]; max: [number, number, number] } {
  const drawn = scene.parts.filter((part) => part.role === 'part')
  if (drawn.length === 0) return { min: [0, 0, 0], max: [1, 1, 1] }
  const along = (axis: number, end: 'min' | 'max'): number => Math[end](...drawn.map((part) => part.bounds[end][axis]))
  return {
    min: [along(0, 'min'), along(1, 'min'), along(2, 'min')],
    max: [along(0, 'max'), along(1, 'max'), along(2, 'max')],
  }
}

/** Width, height and depth of what is drawn. */
export function sizeOf(scene: SceneData): number[] {
  const { min, max } = boxOf(scene)
  return max.map((value, axis) => value - min[axis])
}

/** Parts of the source that the result does not have any more, by name or by what became of it. */
export function droppedParts({ source, result }: Scenes): string[] {
  const left = source.parts.length - result.parts.filter((part) => part.role === 'part').length
  if (left <= 0) return []
  const names = new Set(result.parts.map((part) => part.name))
  return source.parts.filter((part) => !names.has(part.name) && !names.has(cleaned(part.name))).map((part) => part.name)
}

export const cleaned = (name: string): string =>
  name
    .toLowerCase()
    .replace(/\.\d+$/, '')
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')

export const standing = new WeakMap<Scenes, SceneData>()

/** The source, moved to where the worklist puts it, so that it stands beside the figure as the result will. */
export function standingSource(scenes: Scenes): SceneData {
  const known = standing.get(scenes)
  if (known) return known
  const made = movedScene(scenes.source, scenes.result.fit)
  standing.set(scenes, made)
  return made
}

/** The item with the figure, or a hand of it, at its right, and room at its left for what is set beside it. */
export function frameOf(scene: SceneData, space: YardSpace, beside: readonly number[] = noSize): Framing {
  const box = boxOf(scene)
  const { width, height } = referenceFor(longestOf(box), space)
  const [right, ground] = referencePlace(box, space)
  return {
    min: [
      box.min[0] - measureGap(longestOf(box), space) - beside[0],
      Math.min(ground, box.min[1]),
      Math.min(box.min[2], box.max[2] - beside[2]),
    ],
    max: [right + width * 0.6, Math.max(ground + height, box.max[1], ground + beside[1]), box.max[2]],
    at: Date.now(),
  }
}
