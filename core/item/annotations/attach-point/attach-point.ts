import { fillTemplate, templatePattern } from '../../../support/templates.ts'
import type { AnnotationFacts } from '../facts.ts'
import type { AnnotationKind } from '../annotation-kind.ts'

/** A place with a direction where other things join. */
export const attachPoint: AnnotationKind = {
  role: 'attach-point',
  title: 'Attach point',
  is: 'place',
  // What is called as the game wants it already keeps its name.
  packedName: ({ points }, _facts, { ownName }) =>
    templatePattern(points.attach, { point: '.+' }).test(ownName)
      ? ownName
      : fillTemplate(points.attach, { point: ownName }),
  packedExtras: ({ joint }) => (joint ? { joins: joint.joins, width: joint.width } : null),
  recognise: (node, { points }) =>
    node.listChildren().length === 0 && templatePattern(points.attach, { point: '.+' }).test(node.getName())
      ? jointOf(node.getExtras())
      : null,
}

/** What a packed point says of what joins; anything of another type counts as not said. */
function jointOf({ joins, width }: Record<string, unknown>): AnnotationFacts {
  if (typeof joins !== 'string') return {}
  const isWide = typeof width === 'number' && Number.isFinite(width) && width > 0
  return { joint: { joins: joins.slice(0, 64), width: isWide ? width : null } }
}
