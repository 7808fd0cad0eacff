import { useFrame } from '@react-three/fiber'
import { Vector3 } from 'three'

/** What a label is about: the line that it stands in the middle of, or a point that it stands above. */
export interface Labelled {
  from: [number, number, number]
  to: [number, number, number]
  text: string
  above?: boolean
}

/** Room between the labels of two things, and between a label and the point that it is about. */
const GAP_PIXELS = 4
const ABOVE_PIXELS = 16

interface Area {
  left: number
  top: number
  right: number
  bottom: number
}

/** What the page has standing over the yard, marked as such: no label goes there. */
function takenUp(layer: HTMLElement): Area[] {
  const own = layer.getBoundingClientRect()
  const over = layer.closest('section')?.querySelectorAll('[data-over-yard] > *') ?? []
  return [...over].map((element) => {
    const { left, top, right, bottom } = element.getBoundingClientRect()
    return { left: left - own.left, top: top - own.top, right: right - own.left, bottom: bottom - own.top }
  })
}

/**
 * Moves the labels of the page to where what they are about is drawn; one child of `layer` for each. A label that would
 * lie over an earlier one is not shown: coming closer shows it.
 */
export function LabelPlacer({ labelled, layer }: { labelled: readonly Labelled[]; layer: HTMLElement | null }) {
  useFrame(({ camera, size }) => {
    if (!layer) return
    const shown = takenUp(layer)
    labelled.forEach(({ from, to, above = false }, index) => {
      const label = layer.children[index]
      if (!(label instanceof HTMLElement)) return
      const place = new Vector3((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, (from[2] + to[2]) / 2).project(camera)
      const left = ((place.x + 1) / 2) * size.width - label.offsetWidth / 2
      const top = ((1 - place.y) / 2) * size.height - label.offsetHeight / 2 - (above ? ABOVE_PIXELS : 0)
      const box = {
        left,
        top,
        right: left + label.offsetWidth + GAP_PIXELS,
        bottom: top + label.offsetHeight + GAP_PIXELS,
      }
      const hidden =
        place.z > 1 ||
        Math.abs(place.x) > 1.1 ||
        Math.abs(place.y) > 1.1 ||
        shown.some(
          (other) =>
            other.left < box.right && box.left < other.right && other.top < box.bottom && box.top < other.bottom,
        )
      if (!hidden) shown.push(box)
      label.style.visibility = hidden ? 'hidden' : 'visible'
      label.style.transform = `translate(${left.toFixed(1)}px, ${top.toFixed(1)}px)`
    })
  })
  return null
}
