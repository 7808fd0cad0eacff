import type { Document } from '@gltf-transform/core'
import type { Part } from '../../item/parts.ts'
import { listHeldParts } from '../../operations/motion/skin.ts'

/**
 * The part of that name that bones hold; the only one where none is named.
 * @example const part = heldPart(document, parameters.part)
 */
export function heldPart(document: Document, name: string): Part | undefined {
  const parts = listHeldParts(document)
  return parts.find((part) => part.name === name) ?? (name === '' && parts.length === 1 ? parts[0] : undefined)
}

/**
 * Names of parts that bones hold, drawn close by.
 * @example const options = heldNames(document)
 */
export const heldNames = (document: Document): string[] =>
  listHeldParts(document)
    .filter(({ extras }) => extras.role === 'part')
    .map(({ name }) => name)

/**
 * Names of the bones of all parts.
 * @example const options = boneNames(document)
 */
export const boneNames = (document: Document): string[] => [
  ...new Set(
    listHeldParts(document)
      .flatMap(({ node }) => node.getSkin()?.listJoints() ?? [])
      .map((bone) => bone.getName()),
  ),
]

/**
 * Parts that bones hold and that are drawn close by: those of the names, or all where no name is given.
 * @example const parts = chosenHeldParts(document, parameters.parts)
 */
export const chosenHeldParts = (document: Document, names: readonly string[]): Part[] =>
  listHeldParts(document).filter(
    ({ extras, name }) => extras.role === 'part' && (names.length === 0 || names.includes(name)),
  )

/**
 * Parts that were given their bones here, drawn close by. What came with weights of its own bends as its maker wants,
 * and is changed by nobody but the modder.
 *
 * @example const ours = partsHeldHere(document)
 */
export const partsHeldHere = (document: Document): Part[] =>
  chosenHeldParts(document, []).filter(({ extras }) => extras.heldHere === true)
