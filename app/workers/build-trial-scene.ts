import { attachPoint } from '../../core/item/annotations/attach-point/attach-point'
import { says } from '../../core/trial/flags'
import { factorOfHex } from '../../core/pictures/srgb'
import { decodeAnyImage } from '../../core/pictures/open-image'
import { motionFrames } from '../../core/operations/motion/pose'
import { heldCorners } from '../../core/maths/bend'
import { layByPlace } from '../../core/trial/lay-by-place'
import { inverse } from '../../core/trial/matrices'
import { heldBonesOf, loadedBones } from '../../core/trial/loaded-bones'
import { secondsOf, standingsOf } from '../../core/trial/moving'
import type { LoadedItem } from '../../core/trial/load-item'
import type { Rulebook } from '../../core/game/schema'
import type { SceneData, ScenePart } from './scene-data'
import { testWall } from './test-wall'

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** A loaded item as the yard draws it: meshes and maps come from the packed files. */
export async function buildTrialScene(item: LoadedItem, rulebook: Rulebook): Promise<SceneData> {
  const colour = rulebook.maps.roles.find(({ channels }) => channels.r === 'red')
  const scene: SceneData = {
    parts: [],
    places: item.points.map(placeOf),
    links: [],
    materials: [],
    pictures: [],
    looks: ['plain'],
    motion: motionOf(item),
    bend: bendOf(item),
    lights: item.lights.flatMap(({ name, light, world }) =>
      light
        ? [
            {
              name,
              colour: light.colour as [number, number, number],
              intensity: light.intensity / rulebook.space.unit.metres ** 2,
              range: light.range,
              at: [world[12], world[13], world[14]] as [number, number, number],
              beam: light.beam && { ...light.beam, towards: light.beam.towards as [number, number, number] },
            },
          ]
        : [],
    ),
    turns: item.turns,
    fit: identity,
  }
  const numbers = new Map<string, number>()
  const pictureOf = async (bytes: Uint8Array | undefined): Promise<number | null> => {
    if (!bytes) return null
    const { width, height, data } = (await decodeAnyImage(bytes)).pixels
    scene.pictures.push({ name: '', width, height, data: data.slice() })
    return scene.pictures.length - 1
  }
  for (const material of item.materials.values()) {
    numbers.set(material.name, scene.materials.length)
    scene.materials.push({
      name: material.name,
      colour: material.tint === null ? [1, 1, 1, 1] : factorOfHex(material.tint),
      roughness: 0.9,
      metalness: 0,
      twoSided: says(material.flags, 'two-sided', rulebook),
      cutOut: says(material.flags, 'cut-out', rulebook),
      blended: says(material.flags, 'blended', rulebook),
      colourMap: await pictureOf(material.maps.get(colour?.role ?? '') ?? undefined),
      normalMap: null,
      mixedMap: null,
      unlit: says(material.flags, 'unlit', rulebook),
      throwsShadow: !says(material.flags, 'throws-no-shadow', rulebook),
      receivesShadow: !says(material.flags, 'receives-no-shadow', rulebook),
    })
  }
  const losesUvs = rulebook.kinds.find(({ id }) => id === item.kind)?.mesh?.losesUVs === true
  for (const node of item.view) {
    const laid = losesUvs ? layByPlace(node, rulebook.space.gridCell) : null
    scene.parts.push(
      part(
        node.name,
        'part',
        laid ? identity : node.world,
        node.primitives.map((primitive, number) => ({
          positions: primitive.positions.slice(),
          indices: primitive.indices.slice(),
          normals: laid ? null : (primitive.normals?.slice() ?? null),
          uvs: primitive.uvs?.slice() ?? null,
          material: numbers.get(primitive.material ?? '') ?? -1,
          looks: [],
          ...laid?.[number],
        })),
      ),
    )
  }
  for (const solid of item.solids)
    scene.parts.push(
      part(solid.name, 'solid', identity, [
        {
          positions: solid.positions.slice(),
          indices: solid.indices.slice(),
          normals: null,
          uvs: null,
          material: -1,
          looks: [],
        },
      ]),
    )
  if (item.view.length === 0 && scene.materials.length > 0) scene.parts.push(testWall(item.name, [0], rulebook.space))
  return scene
}

/** How what was loaded moves, by the loader's own reading of its clips. */
const motionOf = ({ view, clips }: LoadedItem): SceneData['motion'] =>
  motionFrames(
    {
      parts: view
        .filter(({ moves, bones }) => moves && bones.length === 0)
        .map((node) => ({ name: node.name, thing: node })),
      bones: heldBonesOf(view).map((bone) => ({ name: bone.name, thing: bone, into: inverse(bone.world) })),
    },
    secondsOf(clips),
    standingsOf(clips),
  )

/** What bones hold of what was loaded, by the loader’s own reading. */
function bendOf({ view }: LoadedItem): SceneData['bend'] {
  const loaded = loadedBones(view)
  return (
    loaded && {
      ...loaded,
      held: loaded.held.map(({ rest, surfaces, ...held }) => ({
        ...held,
        rest: Float32Array.from(rest),
        surfaces: surfaces.map((sets) => heldCorners(sets, (sets[0]?.weights.length ?? 0) / 4, held.bones.length)),
      })),
    }
  )
}

function part(name: string, role: ScenePart['role'], matrix: number[], primitives: ScenePart['primitives']): ScenePart {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const { positions } of primitives) {
    for (let at = 0; at < positions.length; at += 3) {
      for (let axis = 0; axis < 3; axis++) {
        const value =
          matrix[axis] * positions[at] +
          matrix[axis + 4] * positions[at + 1] +
          matrix[axis + 8] * positions[at + 2] +
          matrix[axis + 12]
        min[axis] = Math.min(min[axis], value)
        max[axis] = Math.max(max[axis], value)
      }
    }
  }
  return {
    name,
    role,
    level: 0,
    matrix,
    bounds: { min, max },
    primitives,
    triangles: primitives.reduce((sum, primitive) => sum + primitive.indices.length / 3, 0),
  }
}

/** A point at which the game joins things, by what the loader has read of it. */
function placeOf({ name, world, extras }: LoadedItem['points'][number]): SceneData['places'][number] {
  const length = Math.hypot(world[8], world[9], world[10]) || 1
  return {
    name,
    title: attachPoint.title,
    joins: typeof extras['joins'] === 'string' ? extras['joins'] : null,
    at: [world[12], world[13], world[14]],
    ahead: [world[8] / length, world[9] / length, world[10] / length],
  }
}
