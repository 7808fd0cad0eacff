import type { AnnotationKind } from '../annotation-kind.ts'

/**
 * The extension that says what a light is like (KHR_lights_punctual, ratified); the node says where it is and which way
 * it shines.
 */
export const LIGHTS_EXTENSION = 'KHR_lights_punctual'

/** A light of the item's own. */
export const light: AnnotationKind = {
  role: 'light',
  title: 'Light',
  is: 'place',
  packedName: (_words, _facts, { ownName }) => ownName,
  packedExtras: () => null,
  recognise: (node) => (node.getExtension(LIGHTS_EXTENSION) ? {} : null),
}
