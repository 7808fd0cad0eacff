import type { Node } from '@gltf-transform/core'
import type { AnnotationKind, AnnotationRole, AnnotationWords } from './annotation-kind.ts'
import { attachPoint } from './attach-point/attach-point.ts'
import type { AnnotationFacts } from './facts.ts'
import { level } from './level/level.ts'
import { light } from './light/light.ts'
import { marker } from './marker/marker.ts'
import { shadow } from './shadow/shadow.ts'
import { solid } from './solid/solid.ts'

/** Every kind, in the order in which a packed node is asked what it is. */
export const annotationKinds: readonly AnnotationKind[] = [solid, level, shadow, light, marker, attachPoint]

const byRole = new Map<string, AnnotationKind>(annotationKinds.map((kind) => [kind.role, kind]))

/**
 * The kind of a role; null for a part's.
 * @example annotationKind('part') // null
 */
export const annotationKind = (role: string): AnnotationKind | null => byRole.get(role) ?? null

/**
 * What a node of a packed mesh is, by its name and by what it hangs under, as the game tells; null for a part or a
 * group.
 *
 * @example const known = recogniseAnnotation(node, annotationWords(rulebook))
 */
export function recogniseAnnotation(
  node: Node,
  words: AnnotationWords,
): ({ role: AnnotationRole } & AnnotationFacts) | null {
  for (const kind of annotationKinds) {
    if ((kind.is === 'shape') !== (node.getMesh() !== null)) continue
    const facts = kind.recognise(node, words)
    if (facts) return { role: kind.role, ...facts }
  }
  return null
}
