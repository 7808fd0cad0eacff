import type { Document, Material, Node } from '@gltf-transform/core'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import { materialTag, setMaterialTag } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import { addScene } from '../../item/add-scene.ts'
import { getNodeExtras, getRootExtras, setNodeExtras, setRootExtras } from '../../item/extras.ts'
import { copyDocument } from '../../item/io.ts'
import { partsBounds } from '../../item/measure.ts'
import { descendants, itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { identityMatrix } from '../../maths/axes.ts'
import { chainMatrices, composeMatrix, decomposeMatrix, invertMatrix, translationMatrix } from '../../maths/matrices.ts'
import type { Vector3 } from '../../maths/vectors.ts'
import type { Host } from '../context.ts'

/** What ours takes over of the host's part. */
export const taken = ['place-x', 'place-y', 'place-z', 'turn', 'motion', 'name', 'flags', 'solids'] as const
export type Taken = (typeof taken)[number]

export interface Graft {
  /** Name of the host's part. */
  part: string
  /** Whether ours stands in the part's place, or hangs on it beside what it shows. */
  mode: 'replaces' | 'hangs-on'
  /** Names of our parts; empty for all. What they hang on comes along. */
  by: readonly string[]
  /** What becomes of our other parts. */
  others: 'stay' | 'left-out'
  /** Which place of ours comes to the host's. */
  anchor: 'origin' | 'top' | 'middle' | 'foot'
  /** Where it comes to, in the scene; the part's own origin, or the middle of its underside for what hangs, if null. */
  at: Vector3 | null
  takes: ReadonlySet<Taken>
}

export interface Grafted {
  /** The node that ours hangs on now. */
  holder: Node
  ours: Node[]
  /** Flags of ours and of the host's part, side by side. */
  flags: { ours: string; hosts: string; differ: boolean }
  solidsLeft: number
  othersLeft: number
}

/**
 * Puts an item's parts into a copy of a host object: the host's nodes, motion and maps come into the item as they are,
 * marked as the host's, and ours hang where its part stands or moves.
 * @returns null where the host has no such part, or the item none of ours
 *
 * @example const grafted = graftInto(document, host, graft, rulebook)
 */
export function graftInto(document: Document, host: Host, graft: Graft, rulebook: Rulebook): Grafted | null {
  const chosen = listViewParts(document).filter(({ name }) => graft.by.length === 0 || graft.by.includes(name))
  const tops = [...new Set(chosen.map(({ node }) => topOf(node)))]
  if (chosen.length === 0 || !listSceneNodes(host.document).some((node) => node.getName() === graft.part)) return null
  let othersLeft = 0
  if (graft.others === 'left-out')
    for (const { node } of listViewParts(document))
      if (!tops.includes(topOf(node))) {
        for (const each of [...descendants(node), node]) each.dispose()
        othersLeft++
      }
  const anchor = anchorOf(graft.anchor, partsBounds(chosen))
  const before = new Set(listSceneNodes(document))
  addScene(document, copyDocument(host.document))
  const hosts = listSceneNodes(document).filter((node) => !before.has(node))
  for (const node of hosts) setNodeExtras(node, { ...getNodeExtras(node), ofHost: true })
  renameOurs([...before], hosts, rulebook)
  setRootExtras(document.getRoot(), { ...getRootExtras(document.getRoot()), changes: host.id })
  const part = hosts.find((node) => node.getName() === graft.part) as Node
  const flags = compareFlags(document, materialsOf(tops), materialsOf([part]), graft.takes.has('flags'), rulebook)
  const target = graft.at ?? targetOf(document, part, graft.mode)
  hang(document, tops, part, { anchor, target, takes: graft.takes }, rulebook)
  const solidsLeft = settleSolids(part, tops, graft)
  if (graft.mode === 'replaces') {
    part.setMesh(null)
    for (const child of part.listChildren())
      if (['level', 'shadow'].includes(getNodeExtras(child).role)) child.dispose()
    if (graft.takes.has('name') && tops.length === 1) swapNames(part, tops[0], document, rulebook)
  }
  return { holder: part, ours: tops, flags, solidsLeft, othersLeft }
}

/** The topmost node above one. */
function topOf(node: Node): Node {
  let top = node
  for (let above = node.getParentNode(); above; above = above.getParentNode()) top = above
  return top
}

function anchorOf(anchor: Graft['anchor'], { min, max }: ReturnType<typeof partsBounds>): Vector3 {
  if (anchor === 'origin') return [0, 0, 0]
  const height = { top: max[1], middle: (min[1] + max[1]) / 2, foot: min[1] }[anchor]
  return [(min[0] + max[0]) / 2, height, (min[2] + max[2]) / 2]
}

function targetOf(document: Document, part: Node, mode: Graft['mode']): Vector3 {
  const own = listViewParts(document).filter(({ node }) => node === part)
  if (mode === 'replaces' || own.length === 0) return part.getWorldTranslation() as Vector3
  return anchorOf('foot', partsBounds(own))
}

/** The host keeps its names: what is called alike among ours gets a number. */
function renameOurs(ours: readonly Node[], hosts: readonly Node[], rulebook: Rulebook): void {
  const names = new Set(hosts.map((node) => node.getName()))
  for (const node of ours) {
    if (names.has(node.getName())) node.setName(uniqueName(rulebook, node.getName(), names))
    names.add(node.getName())
  }
}

const materialsOf = (nodes: readonly Node[]): Material[] => [
  ...new Set(
    nodes
      .flatMap((node) => [node, ...descendants(node)])
      .filter((node) => getNodeExtras(node).role === 'part')
      .flatMap((node) => node.getMesh()?.listPrimitives() ?? [])
      .flatMap((primitive) => primitive.getMaterial() ?? []),
  ),
]

function compareFlags(
  document: Document,
  ours: readonly Material[],
  hosts: readonly Material[],
  takeOver: boolean,
  rulebook: Rulebook,
): Grafted['flags'] {
  const flagsOf = (materials: readonly Material[]): string[] =>
    [...new Set(materials.flatMap((material) => materialTag(material, rulebook).flags))].sort()
  const [own, theirs] = [flagsOf(ours), flagsOf(hosts)]
  if (takeOver && hosts.length > 0)
    for (const material of ours)
      setMaterialTag(document, material, { ...materialTag(material, rulebook), flags: theirs }, rulebook)
  const inWords = (flags: readonly string[]): string => flags.join(', ') || 'none'
  return { ours: inWords(own), hosts: inWords(theirs), differ: own.join() !== theirs.join() }
}

function hang(
  document: Document,
  tops: readonly Node[],
  part: Node,
  { anchor, target, takes }: { anchor: Vector3; target: Vector3; takes: ReadonlySet<Taken> },
  rulebook: Rulebook,
): void {
  const moved = (['place-x', 'place-y', 'place-z'] as const).map((each, axis) =>
    takes.has(each) ? target[axis] - anchor[axis] : 0,
  )
  const turn = takes.has('turn')
    ? composeMatrix([0, 0, 0], decomposeMatrix(part.getWorldMatrix()).rotation, [1, 1, 1])
    : identityMatrix()
  const [x, y, z] = anchor
  const way = chainMatrices(
    translationMatrix(x + moved[0], y + moved[1], z + moved[2]),
    turn,
    translationMatrix(-x, -y, -z),
  )
  const holder = takes.has('motion') ? part : null
  const back = holder ? (invertMatrix(holder.getWorldMatrix()) ?? identityMatrix()) : identityMatrix()
  for (const node of tops) {
    const local = chainMatrices(back, way, node.getWorldMatrix())
    // A clip says where its node stands: what moves is hung in a place of its own.
    const carrier = document.createNode(placeName(document, node, rulebook))
    carrier.setMatrix(
      chainMatrices(local, invertMatrix(node.getMatrix()) ?? identityMatrix()) as Parameters<Node['setMatrix']>[0],
    )
    if (holder) holder.addChild(carrier)
    else itemScene(document).addChild(carrier)
    node.getParentNode()?.removeChild(node)
    itemScene(document).removeChild(node)
    carrier.addChild(node)
  }
}

/** Of two sets of solids one stays, where one stands in for the other. @returns how many were left out */
function settleSolids(part: Node, tops: readonly Node[], { mode, takes }: Graft): number {
  if (mode === 'hangs-on') return 0
  const isSolid = (node: Node): boolean => getNodeExtras(node).role === 'solid'
  const out = takes.has('solids')
    ? tops.flatMap((node) => [node, ...descendants(node)]).filter(isSolid)
    : part.listChildren().filter(isSolid)
  for (const node of out) node.dispose()
  return out.length
}

/** A name for the place of a node, as the game reads names. */
const placeName = (document: Document, node: Node, rulebook: Rulebook): string =>
  uniqueName(
    rulebook,
    cleanName(rulebook, `${node.getName()} place`, 'place'),
    new Set(listSceneNodes(document).map((each) => each.getName())),
  )

/** Ours is called what the host's part was; what is left of that is called after it. */
function swapNames(part: Node, ours: Node, document: Document, rulebook: Rulebook): void {
  const name = part.getName()
  part.setName(placeName(document, part, rulebook))
  ours.setName(name)
}

/** Nodes of a host that were brought in. */
export const hostNodes = (document: Document): Node[] =>
  listSceneNodes(document).filter((node) => getNodeExtras(node).ofHost === true)
