import { plural, withArticle } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Clips of a thing whose kind does not move. */
export const motionRules: RuleFamily = {
  id: 'motion',
  ofMeshes: true,
  check: clipsOfStill,
}

const holdStill = { step: 'hold-still', label: 'Hold still', parameters: {} }

function clipsOfStill({ document, kind }: RuleContext): Finding[] {
  const clips = document.getRoot().listAnimations()
  if (kind.motionAsked || clips.length === 0) return []
  return [
    {
      rule: 'motion-not-played',
      severity: 'risky',
      stage: 'motion',
      title: 'Motion is not played',
      where: clips
        .map((clip) => clip.getName())
        .slice(0, 4)
        .join(', '),
      place: nowhere,
      value: plural(clips.length, 'clip'),
      limit: 'none',
      message: `${plural(clips.length, 'clip')} came along; ${withArticle(kind.title.toLowerCase())} does not move`,
      why: 'The game skips them, and what they move keeps turns that are skipped as well.',
      mend: holdStill,
    },
  ]
}
