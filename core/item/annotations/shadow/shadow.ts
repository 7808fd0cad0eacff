import type { AnnotationKind } from '../annotation-kind.ts'
import { hangsUnderItsPart } from '../under-part.ts'

/** A mesh that throws a part's shadow in its place, and is never seen itself. */
export const shadow: AnnotationKind = {
  role: 'shadow',
  title: 'Shadow mesh',
  is: 'shape',
  packedName: ({ levels }, _facts, { parentName }) => parentName + levels.shadow.nameSuffix,
  packedExtras: () => null,
  recognise: (node, { levels }) =>
    node.getName().endsWith(levels.shadow.nameSuffix) && hangsUnderItsPart(node) ? {} : null,
}
