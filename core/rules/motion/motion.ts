import type { Primitive } from '@gltf-transform/core'
import { listAllParts, type Part } from '../../item/parts.ts'
import { accessorToFloats } from '../../item/primitive-arrays.ts'
import { formatCount, plural, withArticle } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Clips and bones, against what the kind moves. */
export const motionRules: RuleFamily = {
  id: 'motion',
  ofMeshes: true,
  check: (context) => [
    ...clipsOfStill(context),
    ...listAllParts(context.document)
      .filter(({ node }) => node.getSkin())
      .flatMap((part) => checkBones(part, context)),
  ],
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

function checkBones(part: Part, { kind }: RuleContext): Finding[] {
  const bones = part.node.getSkin()?.listJoints().length ?? 0
  const common = { stage: 'motion' as const, where: part.name, place: placeOfParts([part]) }
  if (!kind.bones) {
    return [
      {
        ...common,
        rule: 'bones-not-read',
        severity: 'risky',
        title: 'Bones are not read',
        value: plural(bones, 'bone'),
        limit: 'none',
        message: `${part.name} is held by ${plural(bones, 'bone')}; ${withArticle(kind.title.toLowerCase())} has none`,
        why: 'The game draws the mesh where it lies in the file, which may be elsewhere than its bones hold it.',
        mend: holdStill,
      },
    ]
  }
  const findings: Finding[] = []
  if (bones > kind.bones.most) {
    findings.push({
      ...common,
      rule: 'bone-count',
      severity: 'blocks',
      title: 'Too many bones',
      value: formatCount(bones),
      limit: formatCount(kind.bones.most),
      message: `${part.name} is held by ${formatCount(bones)} bones; ${formatCount(kind.bones.most)} are read`,
      why: 'The card keeps a table of that many.',
      mend: null,
    })
  }
  const most = Math.max(0, ...part.mesh.listPrimitives().map(mostInfluences))
  if (most > kind.bones.influences) {
    findings.push({
      ...common,
      rule: 'bone-influences',
      severity: 'risky',
      title: 'Too many bones a corner',
      value: formatCount(most),
      limit: formatCount(kind.bones.influences),
      message: `A corner of ${part.name} follows ${most} bones; ${kind.bones.influences} are read`,
      why: 'The game drops the rest, and the corner lags behind.',
      mend: null,
    })
  }
  return findings
}

/** Most bones that one corner follows. */
function mostInfluences(primitive: Primitive): number {
  const sets = primitive
    .listSemantics()
    .flatMap((semantic) =>
      semantic.startsWith('WEIGHTS_')
        ? [accessorToFloats(primitive.getAttribute(semantic) as NonNullable<ReturnType<Primitive['getAttribute']>>)]
        : [],
    )
  let most = 0
  for (let corner = 0; corner < (sets[0]?.length ?? 0) / 4; corner++)
    most = Math.max(
      most,
      sets.reduce(
        (count, set) => count + set.subarray(corner * 4, corner * 4 + 4).filter((weight) => weight > 0).length,
        0,
      ),
    )
  return most
}
