import type { Primitive } from '@gltf-transform/core'
import { getNodeExtras } from '../../item/extras.ts'
import { listAllParts, listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'
import { determinantOf } from '../../maths/matrices.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { findStrays, type StrayKind } from '../../item/strays.ts'
import { listed, type Oddity, type OddityCheck } from './oddity.ts'

const strayWords: Record<StrayKind, [string, string]> = {
  camera: ['is a camera', 'are cameras'],
  lamp: ['is a lamp', 'are lamps'],
  empty: ['is an empty with nothing below it', 'are empties with nothing below them'],
  'end bone': ['is an end bone that holds nothing', 'are end bones that hold nothing'],
  'ground shade': ['is a flat dark plane under the model', 'are flat dark planes under the model'],
  double: ['is a part that stands twice in one place', 'are parts that stand twice in one place'],
  'far part': ['lies far away from the rest', 'lie far away from the rest'],
}

/**
 * Things that came along and are not the model.
 * @example const oddities = checkStrays(context)
 */
export const checkStrays: OddityCheck = ({ document }) => {
  const strays = findStrays(document)
  return [...new Set(strays.map((stray) => stray.what))].map((what) => {
    const names = strays.filter((stray) => stray.what === what).map((stray) => stray.name)
    return {
      id: `stray-${what.replace(' ', '-')}`,
      where: names[0],
      message: `${listed(names)} ${strayWords[what][names.length === 1 ? 0 : 1]}`,
      mend: { do: 'drop-strays', label: 'Drop strays' },
    }
  })
}

/**
 * Scales that are not baked or mirror, names that repeat, parts without UVs or material.
 * @example const oddities = checkParts(context)
 */
export const checkParts: OddityCheck = ({ document }) => {
  const parts = listViewParts(document)
  const nodes = listSceneNodes(document)
  const scaled = parts.filter(
    ({ node }) =>
      node.getWorldScale().some((value) => Math.abs(value - 1) > 1e-4) && determinantOf(node.getWorldMatrix()) > 0,
  )
  const mirrored = parts.filter(({ node }) => determinantOf(node.getWorldMatrix()) < 0)
  const repeated = nodes.filter(
    (node) => getNodeExtras(node).writtenName !== undefined && getNodeExtras(node).writtenName !== '',
  )
  const unnamed = nodes.filter((node) => getNodeExtras(node).writtenName === '')
  const bare = parts.filter((part) =>
    part.mesh.listPrimitives().some((primitive) => !primitive.getAttribute('TEXCOORD_0')),
  )
  const plain = parts.filter((part) => part.mesh.listPrimitives().some((primitive) => !primitive.getMaterial()))
  const namesOf = (list: readonly Part[]): string => listed(list.map((part) => part.name))
  const odd: Oddity[] = []
  const add = (id: string, list: readonly { name: string }[], message: string, mend: Oddity['mend'] = null): void => {
    if (list.length > 0) odd.push({ id, where: list[0].name, message, mend })
  }
  const verb = (list: readonly unknown[], one: string, many: string): string => (list.length === 1 ? one : many)
  add(
    'scale-not-baked',
    scaled,
    `${namesOf(scaled)} ${verb(scaled, 'has', 'have')} a scale that is not baked into the points`,
    { do: 'step', step: 'bake-transforms', label: 'Bake transforms' },
  )
  add('scale-mirrors', mirrored, `${namesOf(mirrored)} ${verb(mirrored, 'is', 'are')} mirrored by a negative scale`, {
    do: 'step',
    step: 'bake-transforms',
    label: 'Bake transforms',
  })
  add(
    'names-repeat',
    repeated.map((node) => ({ name: node.getName() })),
    `The names ${listed([...new Set(repeated.map((node) => getNodeExtras(node).writtenName ?? ''))])} stand ` +
      'more than once; they are told apart by numbers',
  )
  add(
    'names-empty',
    unnamed.map((node) => ({ name: node.getName() })),
    `${unnamed.length} ${verb(unnamed, 'part has', 'parts have')} no name`,
  )
  add(
    'uvs-missing',
    bare,
    `${namesOf(bare)} ${verb(bare, 'has', 'have')} no UVs: no texture can lie on ${verb(bare, 'it', 'them')}`,
  )
  add('material-missing', plain, `${namesOf(plain)} ${verb(plain, 'has', 'have')} no material`)
  return odd
}

/**
 * Bones at the end of a chain that a skin lists and that hold no point. They stay: the skin counts on their place in
 * its list.
 *
 * @example const oddities = checkBones(context)
 */
export const checkBones: OddityCheck = ({ document }) => {
  const holding = new Set<unknown>()
  for (const part of listAllParts(document)) {
    const joints = part.node.getSkin()?.listJoints()
    if (!joints) continue
    for (const primitive of part.mesh.listPrimitives())
      for (const joint of heldJoints(primitive)) holding.add(joints[joint])
  }
  const idle = [
    ...new Set(
      document
        .getRoot()
        .listSkins()
        .flatMap((skin) => skin.listJoints()),
    ),
  ]
    .filter((joint) => joint.listChildren().length === 0 && !holding.has(joint))
    .map((joint) => joint.getName())
  if (idle.length === 0) return []
  return [
    {
      id: 'bones-weightless',
      where: idle[0],
      message: `${listed(idle)} ${idle.length === 1 ? 'ends a chain of bones and holds' : 'end chains of bones and hold'} no point`,
      mend: null,
    },
  ]
}

/** Numbers of the joints that have any weight in a primitive. */
function heldJoints(primitive: Primitive): Set<number> {
  const held = new Set<number>()
  for (let set = 0; set < 2; set++) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${set}`), primitive.getAttribute(`WEIGHTS_${set}`)]
    const [numbers, shares] = [joints?.getArray(), weights?.getArray()]
    if (!numbers || !shares) continue
    for (let at = 0; at < Math.min(numbers.length, shares.length); at++) if (shares[at] > 0) held.add(numbers[at])
  }
  return held
}

/**
 * Names that few games take as they are.
 * @example const oddities = checkNames(context)
 */
export const checkNames: OddityCheck = ({ document }) => {
  const names = [
    ...new Set([
      ...listAllParts(document).map((part) => part.name),
      ...document
        .getRoot()
        .listMaterials()
        .map((material) => material.getName()),
    ]),
  ]
  const awkward = names.filter((name) => /[^A-Za-z0-9_@-]/.test(name))
  if (awkward.length === 0) return []
  return [
    {
      id: 'names-awkward',
      where: awkward[0],
      message: `${listed(awkward)} ${awkward.length === 1 ? 'has' : 'have'} spaces, dots or other signs in the name`,
      mend: { do: 'step', step: 'clean-names', label: 'Clean names' },
    },
  ]
}

const MOST_MEASURED_TRIANGLES = 3_000_000

/**
 * Closed parts whose faces look inward, and normals that look away from their faces.
 * @example const oddities = checkFaces(context)
 */
export const checkFaces: OddityCheck = ({ document }) => {
  const insideOut: string[] = []
  const broken: string[] = []
  let measured = 0
  for (const part of listViewParts(document)) {
    const facts = measureFaces(part)
    measured += facts.triangles
    if (measured > MOST_MEASURED_TRIANGLES) break
    const mirrors = determinantOf(part.node.getWorldMatrix()) < 0
    if (facts.closed && facts.volume < 0 && !mirrors) insideOut.push(part.name)
    if (facts.strangeNormals > 0.05) broken.push(part.name)
  }
  const odd: Oddity[] = []
  if (insideOut.length > 0)
    odd.push({
      id: 'faces-inward',
      where: insideOut[0],
      message: `${listed(insideOut)} ${insideOut.length === 1 ? 'is' : 'are'} inside out`,
      mend: { do: 'step', step: 'turn-outward', label: 'Turn outward' },
    })
  if (broken.length > 0)
    odd.push({
      id: 'normals-broken',
      where: broken[0],
      message: `${listed(broken)} ${broken.length === 1 ? 'has' : 'have'} normals that point away from the faces`,
      mend: { do: 'step', step: 'even-normals', label: 'Even normals' },
    })
  return odd
}

/**
 * Signed volume by the divergence theorem, whether the area vectors cancel as those of a closed surface do, and the
 * share of corners whose normal points behind its face.
 */
function measureFaces(part: Part): { triangles: number; closed: boolean; volume: number; strangeNormals: number } {
  let [volume, area, strange, corners, triangles] = [0, 0, 0, 0, 0]
  const vector = [0, 0, 0]
  for (const primitive of part.mesh.listPrimitives()) {
    const { positions, indices, normals } = readPrimitive(primitive)
    triangles += indices.length / 3
    for (let at = 0; at + 2 < indices.length; at += 3) {
      const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
      const u = [positions[b] - positions[a], positions[b + 1] - positions[a + 1], positions[b + 2] - positions[a + 2]]
      const v = [positions[c] - positions[a], positions[c + 1] - positions[a + 1], positions[c + 2] - positions[a + 2]]
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
      volume += positions[a] * n[0] + positions[a + 1] * n[1] + positions[a + 2] * n[2]
      area += Math.hypot(n[0], n[1], n[2])
      for (let axis = 0; axis < 3; axis++) vector[axis] += n[axis]
      if (!normals) continue
      for (const corner of [a, b, c]) {
        corners++
        const along = normals[corner] * n[0] + normals[corner + 1] * n[1] + normals[corner + 2] * n[2]
        if (along < -0.1 * Math.hypot(n[0], n[1], n[2])) strange++
      }
    }
  }
  return {
    triangles,
    closed: area > 0 && Math.hypot(...vector) < area * 1e-3,
    volume,
    strangeNormals: corners === 0 ? 0 : strange / corners,
  }
}
