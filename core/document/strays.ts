import type { Document, Node } from '@gltf-transform/core'
import { getRootExtras } from './extras.ts'
import { boundsSize, partBounds, partsBounds } from './measure.ts'
import { countMeshTriangles, listMovingNodes, listSceneNodes, listViewParts, type Part } from './parts.ts'

/** Something in a source that is not the model. */
export interface Stray {
  node: Node
  name: string
  what: 'camera' | 'lamp' | 'empty' | 'ground shade'
}

const DARK = 0.12
const FLATNESS = 0.003
const MOST_SHADE_TRIANGLES = 64

/** Cameras, lamps, empties with nothing below them, and a flat dark plane that lies under the model. */
export function findStrays(document: Document): Stray[] {
  const strays: Stray[] = []
  const moving = listMovingNodes(document)
  for (const node of listSceneNodes(document)) {
    const name = node.getName()
    if (node.getMesh()) continue
    if (node.getCamera()) strays.push({ node, name, what: 'camera' })
    else if (node.getExtension('KHR_lights_punctual')) strays.push({ node, name, what: 'lamp' })
    else if (node.listChildren().length === 0 && !moving.has(node)) strays.push({ node, name, what: 'empty' })
  }
  const parts = listViewParts(document)
  for (const part of parts) if (isGroundShade(document, part, parts)) strays.push({ node: part.node, name: part.name, what: 'ground shade' })
  return strays
}

/** A part without texture, dark, flat along the item's up axis, at or below everything else. */
function isGroundShade(document: Document, part: Part, parts: readonly Part[]): boolean {
  const others = parts.filter((other) => other !== part)
  if (others.length === 0 || countMeshTriangles(part.mesh) > MOST_SHADE_TRIANGLES) return false
  for (const primitive of part.mesh.listPrimitives()) {
    const material = primitive.getMaterial()
    if (!material || material.getBaseColorTexture()) return false
    const [red, green, blue] = material.getBaseColorFactor()
    if (0.2126 * red + 0.7152 * green + 0.0722 * blue > DARK) return false
  }
  const { up } = getRootExtras(document.getRoot()).axes
  const bounds = partBounds(part)
  const rest = partsBounds(others)
  const size = boundsSize(bounds)
  const sides = boundsSize(rest)
  // A source whose axes are not known may lie either way, so each of the three axes is tried as its up.
  const declared = 'xyz'.indexOf(up[1])
  return [declared, 2, 1, 0].some((axis) => {
    const flat = size[axis] <= FLATNESS * Math.max(...size)
    const below = bounds.max[axis] <= rest.min[axis] + 0.02 * sides[axis]
    const above = axis === declared && up[0] === '-' && bounds.min[axis] >= rest.max[axis] - 0.02 * sides[axis]
    const wide = size.every((side, other) => other === axis || side > 0.3 * sides[other])
    return flat && wide && (below || above)
  })
}
