import { fillTemplate, templatePattern } from '../../../support/templates.ts'
import type { AnnotationKind } from '../annotation-kind.ts'
import { hangsUnderItsPart } from '../under-part.ts'

/** A coarser mesh that is drawn in a part's place from further off. */
export const level: AnnotationKind = {
  role: 'level',
  title: 'Level',
  is: 'shape',
  packedName: ({ levels }, facts, { parentName }) =>
    parentName + fillTemplate(levels.nameSuffix, { level: String(facts.level ?? 1) }),
  packedExtras: () => null,
  recognise(node, { levels }) {
    const name = templatePattern(`{part}${levels.nameSuffix}`, { part: '.+', level: '([1-9])' })
    const read = name.exec(node.getName())?.[1]
    return read !== undefined && hangsUnderItsPart(node) ? { level: Number(read) } : null
  },
}
