import type { FindingMessage } from '../workers/messages'

/** The place that shows several findings at once: all their parts and spots, and a box round all. */
export function placeOfAll(findings: readonly FindingMessage[]): FindingMessage['place'] {
  const places = findings.map(({ place }) => place)
  const boxes = places.flatMap(({ bounds }) => bounds ?? [])
  const edge = (end: 'min' | 'max'): [number, number, number] =>
    [0, 1, 2].map((axis) => Math[end](...boxes.map((box) => box[end][axis]))) as [number, number, number]
  return {
    parts: [...new Set(places.flatMap(({ parts }) => parts))],
    spots: places.flatMap(({ spots }) => spots),
    texture: places.find(({ texture }) => texture !== null)?.texture ?? null,
    bounds: boxes.length === 0 ? null : { min: edge('min'), max: edge('max') },
  }
}
