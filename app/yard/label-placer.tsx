import { useFrame } from '@react-three/fiber'
import { Vector3 } from 'three'

/** What a label is about: the line that it stands in the middle of, or one point twice. */
export interface Labelled {
  from: [number, number, number]
  to: [number, number, number]
  text: string
}

/** Moves the labels of the page to where their lines are drawn; one child of `layer` for each. */
export function LabelPlacer({ labelled, layer }: { labelled: readonly Labelled[]; layer: HTMLElement | null }) {
  useFrame(({ camera, size }) => {
    if (!layer) return
    labelled.forEach(({ from, to }, index) => {
      const label = layer.children[index]
      if (!(label instanceof HTMLElement)) return
      const place = new Vector3((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, (from[2] + to[2]) / 2).project(camera)
      const hidden = place.z > 1 || Math.abs(place.x) > 1.1 || Math.abs(place.y) > 1.1
      label.style.visibility = hidden ? 'hidden' : 'visible'
      label.style.transform = `translate(-50%, -50%) translate(${(((place.x + 1) / 2) * size.width).toFixed(1)}px, ${(((1 - place.y) / 2) * size.height).toFixed(1)}px)`
    })
  })
  return null
}
