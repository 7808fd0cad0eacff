import { fillTemplate, templatePattern } from '../../../support/templates.ts'
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
  packedExtras: () => null,
  recognise: (node, { points }) =>
    node.listChildren().length === 0 && templatePattern(points.attach, { point: '.+' }).test(node.getName())
      ? {}
      : null,
}
