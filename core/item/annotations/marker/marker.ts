import { fillTemplate, templatePattern } from '../../../support/templates.ts'
import type { AnnotationKind } from '../annotation-kind.ts'

/** A place that the game reads by its name: where one begins, where one arrives. */
export const marker: AnnotationKind = {
  role: 'marker',
  title: 'Marker',
  is: 'place',
  packedName({ points, markers }, facts, { before, ownName }) {
    const name = facts.marker ?? ownName
    // What there is one of needs no number.
    if (markers.some((each) => each.name === name && each.most === 1)) return name
    return fillTemplate(points.marker, { marker: name, nn: String(before + 1).padStart(2, '0') })
  },
  packedExtras: () => null,
  recognise(node, { points, markers }) {
    const name = node.getName()
    const known = markers.find(
      (each) =>
        (each.most === 1 && each.name === name) ||
        templatePattern(points.marker, { marker: each.name, nn: '\\d\\d+' }).test(name),
    )
    return known ? { marker: known.name } : null
  },
}
