import type { Node } from '@gltf-transform/core'
import { offRest } from '../../operations/motion/first-pose.ts'
import { faultsOf, measureClips, type MeasuredClip } from '../../operations/motion/clips.ts'
import type { Curve } from '../../maths/curve.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

const mend = { step: 'sample-motion', label: 'Sample motion', parameters: {} }

/** What clips may be: keys a second, keys in all, how long, where they begin, and whether loops close. */
export const clipRules: RuleFamily = {
  id: 'clips',
  ofMeshes: true,
  check(context) {
    const { document, rulebook, kind } = context
    // What the kind does not play is told elsewhere.
    if (!kind.motionAsked) return []
    const clips = measureClips(document, rulebook)
    return [
      ...clips.flatMap((clip) => checkClip(clip, context)),
      ...checkAll(clips, context),
      ...checkTargets(context),
      ...checkRest(context),
    ]
  },
  gauges({ document, rulebook, kind }) {
    if (!kind.motionAsked) return []
    return [
      {
        id: 'keys',
        label: 'Keys',
        stage: 'motion',
        value: measureClips(document, rulebook).reduce((sum, { keys }) => sum + keys, 0),
        limit: rulebook.motion.mostKeys,
        least: 0,
        unit: 'count',
      },
    ]
  },
}

function checkClip(clip: MeasuredClip, { rulebook }: RuleContext): Finding[] {
  const { name, from, to, keysPerSecond, loopGap } = clip
  const { motion, space } = rulebook
  const common = { stage: 'motion' as const, where: name, place: nowhere, mend }
  const findings: Finding[] = []
  const { dense, long, late, open } = faultsOf(clip, motion)
  if (dense)
    findings.push({
      ...common,
      rule: 'clip-key-rate',
      severity: 'blocks',
      title: 'Keys too dense',
      value: `${Math.round(keysPerSecond)} a second`,
      limit: `${motion.keysPerSecond} a second`,
      message: `${name} has ${Math.round(keysPerSecond)} keys a second; ${motion.keysPerSecond} are read`,
      why: 'The game steps through motion at its own rate, and every key costs memory.',
    })
  if (long)
    findings.push({
      ...common,
      rule: 'clip-too-long',
      severity: 'blocks',
      title: 'Clip too long',
      value: `${(to - from).toFixed(1)} s`,
      limit: `${motion.longestSeconds} s`,
      message: `${name} lasts ${(to - from).toFixed(1)} s; ${motion.longestSeconds} s are read`,
      why: 'A clip is held in memory whole.',
    })
  if (late)
    findings.push({
      ...common,
      rule: 'clip-starts-late',
      severity: 'risky',
      title: 'Clip does not begin at 0',
      value: `${from.toFixed(2)} s`,
      limit: '0 s',
      message: `The first key of ${name} is at ${from.toFixed(2)} s; the game waits as long in each round`,
      why: 'The game plays every clip from its own 0.',
    })
  if (open && loopGap)
    findings.push({
      ...common,
      rule: 'loop-open',
      severity: 'risky',
      title: 'Loop is not closed',
      value: gapInWords(loopGap, space.unit.plural),
      limit: 'closed',
      message: `${loopGap.node.getName()} ends ${gapInWords(loopGap, space.unit.plural)} from where it begins in ${name}`,
      why: 'The game plays clips over and over: what does not close jumps each time.',
    })
  return findings
}

function checkAll(clips: readonly MeasuredClip[], { rulebook: { motion } }: RuleContext): Finding[] {
  const findings: Finding[] = []
  const keys = clips.reduce((sum, clip) => sum + clip.keys, 0)
  const common = { stage: 'motion' as const, place: nowhere }
  if (keys > motion.mostKeys)
    findings.push({
      ...common,
      rule: 'key-count',
      severity: 'blocks',
      title: 'Too many keys',
      where: 'item',
      value: formatCount(keys),
      limit: formatCount(motion.mostKeys),
      message:
        `${formatCount(keys)} keys in ${plural(clips.length, 'clip')}; ${formatCount(motion.mostKeys)} an item ` +
        'are read',
      why: 'All keys of an item are in memory at once.',
      mend,
    })
  const movers = new Map<Node, Map<string, string>>()
  const told = new Set<Node>()
  for (const { name, curves } of clips)
    for (const { node, curve } of curves) {
      const paths = movers.get(node) ?? new Map<string, string>()
      movers.set(node, paths)
      const other = paths.get(curve.path)
      paths.set(curve.path, name)
      if (other === undefined || told.has(node)) continue
      told.add(node)
      findings.push({
        ...common,
        rule: 'clips-fight',
        severity: 'risky',
        title: 'Two clips move one thing',
        where: node.getName(),
        value: `${other}, ${name}`,
        limit: 'one clip',
        message:
          `${other} and ${name} both ${moves[curve.path]} ${node.getName()}; the game plays them at once, and the ` +
          'later one wins',
        why: 'All clips of an item run together from its start.',
        mend: { step: 'choose-clips', label: 'Choose clips', parameters: {} },
      })
    }
  return findings
}

/** What clips move that is not there any more. */
function checkTargets({ document }: RuleContext): Finding[] {
  return document
    .getRoot()
    .listAnimations()
    .flatMap((clip): Finding[] => {
      const lost = clip.listChannels().filter((channel) => !channel.getTargetNode()).length
      if (lost === 0) return []
      return [
        {
          rule: 'clip-lost-target',
          severity: 'note',
          stage: 'motion',
          title: 'Clip lost what it moves',
          where: clip.getName(),
          place: nowhere,
          value: plural(lost, 'curve'),
          limit: 'none',
          message:
            `${plural(lost, 'curve')} of ${clip.getName()} ${lost === 1 ? 'moves' : 'move'} what is not there any ` +
            'more',
          why: 'A step took the thing out, or mesh and motion come from different versions of the source.',
          mend: null,
        },
      ]
    })
}

/** What does not stand as its clip begins: everything is measured at rest, and the game shows the first key. */
function checkRest({ document, rulebook: { space } }: RuleContext): Finding[] {
  const off = offRest(document, space.smallestDrawn)
  if (off.length === 0) return []
  const [{ node, clip, path, off: by }] = off
  return [
    {
      rule: 'rest-pose',
      severity: 'note',
      stage: 'motion',
      title: 'Stands elsewhere at rest',
      where: node.getName(),
      place: nowhere,
      value: gapInWords({ node, path, off: by }, space.unit.plural),
      limit: 'as the clip begins',
      message:
        `${node.getName()} stands ${gapInWords({ node, path, off: by }, space.unit.plural)} from where ${clip} ` +
        `has it at its beginning${off.length > 1 ? `; so ${off.length === 2 ? 'does' : 'do'} ${plural(off.length - 1, 'other')}` : ''}`,
      why: 'Size, solids and markers are measured at rest, and the game shows the first key.',
      mend: { step: 'stand-as-clips-begin', label: 'Stand as clips begin', parameters: {} },
    },
  ]
}

const moves: Record<Curve['path'], string> = { translation: 'move', rotation: 'turn', scale: 'scale' }

const gapInWords = ({ path, off }: NonNullable<MeasuredClip['loopGap']>, unit: string): string =>
  path === 'rotation'
    ? `${off.toFixed(1)}°`
    : path === 'translation'
      ? `${formatLength(off)} ${unit}`
      : `${(off * 100).toFixed(1)} % of its size`
