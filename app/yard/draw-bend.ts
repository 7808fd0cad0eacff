import { BufferAttribute, Matrix4, type BufferGeometry, type Group } from 'three'
import { SLOTS } from '../../core/maths/bend'
import type { DrawnItem } from '../drawing/item-geometry'
import type { SceneData } from '../workers/scene-data'
import { bendSurface, matricesOf } from './bend-geometry'

type Bend = NonNullable<SceneData['bend']>

/**
 * Writes what bones hold as they hold it.
 * @param ways of each bone the way from the scene at rest to where it carries things, column-major
 */
export function drawHeld(scene: SceneData, bend: Bend, drawn: DrawnItem, ways: readonly (readonly number[])[]): void {
  for (const held of bend.held) {
    const part = scene.parts.find(({ name }) => name === held.part)
    if (!part) continue
    const matrices = matricesOf(held, ways, part.matrix)
    for (const { geometry, surface } of drawn.primitives.filter((primitive) => primitive.part === held.part)) {
      const rest = part.primitives[surface]
      const corners = held.surfaces[surface]
      if (!corners || corners.weightOf.length !== (rest.positions.length / 3) * SLOTS) continue
      bendSurface(rest, corners, matrices, {
        positions: own(geometry, 'position', rest.positions),
        normals: rest.normals && own(geometry, 'normal', rest.normals),
      })
      geometry.computeBoundingSphere()
    }
  }
}

/** Puts stiff parts where the bones carry them. */
export function drawCarried(
  scene: SceneData,
  bend: Bend,
  model: Group | null,
  ways: readonly (readonly number[])[],
): void {
  const carried = new Map(bend.carried.map((each) => [each.part, ways[each.bone]]))
  for (const mesh of model?.children ?? []) {
    const name = mesh.userData['moves'] as string | undefined
    const way = name === undefined ? undefined : carried.get(name)
    const part = scene.parts.find((each) => each.name === name)
    if (!way || !part) continue
    mesh.matrix.fromArray(way).multiply(new Matrix4().fromArray(part.matrix))
    mesh.matrixWorldNeedsUpdate = true
  }
}

/** The geometry's own copy of an array that the scene keeps as it is at rest, about to be written over. */
function own(geometry: BufferGeometry, name: 'position' | 'normal', rest: Float32Array): Float32Array {
  const attribute = geometry.getAttribute(name) as BufferAttribute
  if (attribute.array === rest) geometry.setAttribute(name, new BufferAttribute(rest.slice(), 3))
  const made = geometry.getAttribute(name) as BufferAttribute
  made.needsUpdate = true
  return made.array as Float32Array
}
