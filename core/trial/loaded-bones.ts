import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'
import { multiply } from './matrices.ts'

/** How what was loaded is held by bones. */
export interface LoadedBones {
  /** Each with the number of the bone that it hangs on, or -1, and where it is. */
  bones: { name: string; above: number; at: [number, number, number] }[]
  held: {
    part: string
    /** Numbers of the bones, as the part counts them. */
    bones: number[]
    /** From the mesh to the scene as each of them holds it at rest: 16 numbers each. */
    rest: number[]
    surfaces: LoadedPrimitive['influences'][]
  }[]
  /** Parts that go where a bone's part goes. */
  carried: { part: string; bone: number }[]
}

/**
 * What the game bends of what it has loaded; null where nothing is held by bones.
 * @example const bones = loadedBones(item.view)
 */
export function loadedBones(view: readonly LoadedNode[]): LoadedBones | null {
  const held = view.filter(({ skeleton }) => skeleton.length > 0)
  const bones = heldBonesOf(view)
  if (bones.length === 0) return null
  return {
    bones: bones.map((bone) => ({
      name: bone.name,
      above: nearestAbove(bone.parent, (node) => bones.indexOf(node)),
      at: bone.world.slice(12, 15) as [number, number, number],
    })),
    held: held.map(({ name, skeleton, primitives }) => ({
      part: name,
      bones: skeleton.map(({ bone }) => bones.indexOf(bone)),
      rest: skeleton.flatMap(({ bone, bind }) => multiply(bone.world, bind)),
      surfaces: primitives.map(({ influences }) => influences),
    })),
    carried: view
      .filter(({ skeleton }) => skeleton.length === 0)
      .flatMap((node) => {
        const bone = nearestAbove(node, (each) => {
          const own = bones.indexOf(each)
          return own >= 0 ? own : bones.findIndex(({ parent }) => parent === each && each.primitives.length > 0)
        })
        return bone < 0 ? [] : [{ part: node.name, bone }]
      }),
  }
}

function nearestAbove(from: LoadedNode | null, numberOf: (node: LoadedNode) => number): number {
  for (let each = from; each; each = each.parent) {
    const number = numberOf(each)
    if (number >= 0) return number
  }
  return -1
}

/**
 * Every bone that holds something, in the order of `loadedBones`.
 * @example const names = heldBonesOf(item.view).map(({ name }) => name)
 */
export const heldBonesOf = (view: readonly LoadedNode[]): LoadedNode[] => [
  ...new Set(view.flatMap(({ skeleton }) => skeleton.map(({ bone }) => bone))),
]
