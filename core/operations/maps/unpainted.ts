import type { Document, Material } from '@gltf-transform/core'
import { noteGivenUp } from '../../item/given-up.ts'

const UNPAINTED: [number, number, number, number] = [0.6, 0.6, 0.6, 1]

/**
 * What stands for “no material”: a mid grey, matt. Its shine is nobody's word.
 * @example surface.setMaterial(unpaintedMaterial(document, 'plain'))
 */
export function unpaintedMaterial(document: Document, name: string): Material {
  noteGivenUp(document, {
    what: 'No material',
    where: name,
    message: `${name} had no material; it is shown light grey and matt`,
    why: 'The game draws nothing without one.',
  })
  return document.createMaterial(name).setBaseColorFactor(UNPAINTED).setRoughnessFactor(1).setMetallicFactor(0)
}
