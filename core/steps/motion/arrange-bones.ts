import { z } from 'zod'
import { arrangeBoneTree, boneTree, wronglyNamed } from '../../operations/motion/bone-tree.ts'
import { plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({})

/** The tree of bones as the game wants it. */
export const arrangeBones = defineStep<z.infer<typeof parameters>>({
  id: 'arrange-bones',
  version: 1,
  stage: 'motion',
  title: 'Arrange bones',
  purpose: 'Stands what bones hold beside them instead of below, and names each bone after the part that it follows.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document, kind, rulebook }) {
    if (!kind.bones?.rigidPartPerBone) return []
    const { below, bones } = boneTree(document)
    const named = wronglyNamed(bones, rulebook)
    if (below.length + named.length === 0) return []
    const reasons = [
      ...(below.length > 0 ? [`${below[0].getName()} hangs on what moves it, and would be moved twice`] : []),
      ...(named.length > 0
        ? [`${plural(named.length, 'bone')} ${named.length === 1 ? 'is' : 'are'} not named after the part`]
        : []),
    ]
    return [{ parameters: {}, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, rulebook }) {
    const done = arrangeBoneTree(document, rulebook)
    return {
      headline: plural(done.length, 'node'),
      details: done.length > 0 ? done : ['Bones stand and are named as the game wants.'],
      changed: done.length > 0,
    }
  },
})
