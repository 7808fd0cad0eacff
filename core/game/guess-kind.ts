import type { Document, Node } from '@gltf-transform/core'
import { countTriangles, listMovingNodes, listViewParts } from '../item/parts.ts'
import { stiffPartOf } from '../item/stiff-part.ts'
import type { Kind, Rulebook } from './schema.ts'

/** A kind of the game that a thing may be, and what speaks for it. */
export interface GuessedKind {
  kind: Kind
  reason: string
}

/**
 * The kinds that a thing may be, told from its document alone, the likeliest first: where clips move its parts, kinds
 * whose parts may move come first; then kinds with a mesh in the rulebook's order, those that need something only a
 * person can give (places, two models, faces of certain roles) last. Of what has no clip, no kind that asks for motion
 * is likely.
 * @param fromPicture whether it is a picture that came without a mesh: kinds that show one come first
 * @throws RangeError when the rulebook has no kind with a mesh
 *
 * @example const [{ kind, reason }] = rankKinds(document, rulebook)
 */
export function rankKinds(document: Document, rulebook: Rulebook, fromPicture = false): GuessedKind[] {
  const withMesh = rulebook.kinds.filter((kind) => (kind.mesh !== null || fromPicture) && kind.addsTo === null)
  if (withMesh.length === 0) throw new RangeError(`${rulebook.title} has no kind with a mesh`)
  const moves = partsMove(document)
  const bones = listBones(document)
  // A game whose bones follow stiff parts draws a mesh stiff that has none of them.
  const bends = ({ bones: wanted }: Kind): boolean =>
    wanted !== null && (wanted.rigidPartPerBone ? bones.some((bone) => stiffPartOf(bone) !== null) : bones.length > 0)
  const someBends = withMesh.some(bends)
  const triangles = countTriangles(listViewParts(document))
  const unlikely = (kind: Kind): number =>
    (fromPicture && kind.mesh !== null && !kind.mesh.facesViewer ? 8 : 0) +
    (moves && (!kind.motionAsked || kind.markers) ? 8 : 0) +
    (!moves && kind.motionAsked ? 4 : 0) +
    (kind.models.length > 1 || kind.faceRoles.length > 0 || kind.markers ? 2 : 0) +
    (kind.mesh?.facesViewer && triangles > kind.mesh.triangles ? 8 : 0) +
    (kind.bones !== null && !bends(kind) ? 2 : 0) +
    (kind.bones === null && someBends ? 1 : 0)
  // What goes into an object of the game's own is never guessed, and can be chosen.
  const intoHosts = rulebook.kinds.filter(({ addsTo, mesh }) => addsTo === 'host' && mesh !== null)
  return [...withMesh.toSorted((a, b) => unlikely(a) - unlikely(b)), ...intoHosts].map((kind) => ({
    kind,
    reason:
      fromPicture && (kind.mesh === null || kind.mesh.facesViewer)
        ? 'It is a picture without a mesh.'
        : moves && kind.motionAsked
          ? 'It brings motion of its parts.'
          : bends(kind)
            ? 'Its mesh hangs on bones.'
            : 'It has a mesh and nothing that moves by itself.',
  }))
}

/**
 * What a thing most likely becomes.
 * @throws RangeError when the rulebook has no kind with a mesh
 *
 * @example const { kind, reason } = guessKind(document, rulebook)
 */
export const guessKind = (document: Document, rulebook: Rulebook): GuessedKind => rankKinds(document, rulebook)[0]

const listBones = (document: Document): Node[] =>
  document
    .getRoot()
    .listSkins()
    .flatMap((skin) => skin.listJoints())

/** Whether a clip moves whole parts; what bends over bones does not count. */
function partsMove(document: Document): boolean {
  if (document.getRoot().listAnimations().length === 0) return false
  const moving = listMovingNodes(document)
  return listViewParts(document).some(({ node }) => moving.has(node) && !node.getSkin())
}
