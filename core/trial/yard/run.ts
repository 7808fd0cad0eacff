import type { LoadedMarker } from '../check-markers.ts'
import type { LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import type { Place, YardRun } from './yard-frame.ts'

/**
 * How far from the middle of its body a figure takes what it passes, and comes to where it arrives, in its own widths.
 */
const TAKES_WIDTHS = 1.2
const ARRIVES_WIDTHS = 2

/**
 * A run through a course: it begins at the marker where one begins, takes what lies on the way, ends where one arrives,
 * and begins again for who falls too deep.
 */
export class Run {
  private readonly taken = new Set<LoadedNode>()
  private falls = 0
  private arrivedAfter: number | null = null
  private startedAt = 0

  constructor(
    private readonly markers: readonly LoadedMarker[],
    private readonly figure: { width: number; height: number },
  ) {}

  /** Where the figure begins; null where the item has no such place. */
  begin(standing: (node: LoadedNode) => number[]): Place | null {
    const begins = this.of('begins').at(0)
    return begins ? placeOf(standing(begins)) : null
  }

  /**
   * Sees what the figure has come to.
   * @returns whether it has fallen too deep and begins again
   */
  see(feet: Place, seconds: number, standing: (node: LoadedNode) => number[]): boolean {
    if (this.isTooDeep(feet, standing)) {
      this.falls++
      return true
    }
    for (const node of this.of('collected'))
      if (!this.taken.has(node) && this.reaches(feet, placeOf(standing(node)), TAKES_WIDTHS)) this.taken.add(node)
    if (
      this.arrivedAfter === null &&
      this.of('ends').some((node) => this.reaches(feet, placeOf(standing(node)), ARRIVES_WIDTHS))
    )
      this.arrivedAfter = seconds - this.startedAt
    return false
  }

  get hasArrived(): boolean {
    return this.arrivedAfter !== null
  }

  /** What is to be told; null for an item without markers. */
  told(standing: (node: LoadedNode) => number[]): YardRun | null {
    if (this.markers.length === 0) return null
    return {
      places: this.of('collected').map((node) => ({
        name: node.name,
        place: placeOf(standing(node)),
        taken: this.taken.has(node),
      })),
      goals: this.of('ends').map((node) => placeOf(standing(node))),
      falls: this.falls,
      arrivedAfter: this.arrivedAfter,
    }
  }

  private of(does: LoadedMarker['does']): LoadedNode[] {
    return this.markers.filter((marker) => marker.does === does).map(({ node }) => node)
  }

  private isTooDeep(feet: Place, standing: (node: LoadedNode) => number[]): boolean {
    return this.of('begins-again-below').some((node) => feet[1] < placeOf(standing(node))[1])
  }

  /** Whether a place lies within so many of its widths from the figure, from its feet to its head. */
  private reaches(feet: Place, place: Place, widths: number): boolean {
    const { width, height } = this.figure
    const beside = Math.hypot(place[0] - feet[0], place[2] - feet[2])
    const above = place[1] - feet[1]
    return beside <= width * widths && above >= -width && above <= height + width
  }
}

const placeOf = (world: readonly number[]): Place => [world[12], world[13], world[14]]
