import type { z } from 'zod'
import { attachPointFacts } from './attach-point/facts.ts'
import { groupFacts } from './group/facts.ts'
import { levelFacts } from './level/facts.ts'
import { markerFacts } from './marker/facts.ts'
import { solidFacts } from './solid/facts.ts'

/** Everything that may be said of a node that is more than geometry, beside its role. */
export const annotationFacts = { ...levelFacts, ...solidFacts, ...markerFacts, ...groupFacts, ...attachPointFacts }

export type AnnotationFacts = { [Fact in keyof typeof annotationFacts]?: z.infer<(typeof annotationFacts)[Fact]> }
