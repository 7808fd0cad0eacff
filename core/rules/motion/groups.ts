import type { Node } from '@gltf-transform/core'
import { groupInName } from '../../game/group-names.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { listGroups, movedNodes, nearestAbove, partsOutsideGroups, type Group } from '../../operations/motion/groups.ts'
import { listed, plural } from '../../support/wording.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Groups of parts: what stands in none, what is to move and does not, what moves and is not said to. */
export const groupRules: RuleFamily = {
  id: 'groups',
  ofMeshes: true,
  check(context) {
    const { document, rulebook, kind } = context
    if (!kind.groupsAsked || !rulebook.motion.groups) return []
    const groups = listGroups(document, rulebook)
    const moved = movedNodes(document)
    return [
      ...outside(context),
      ...groups.flatMap((group) => checkGroup(group, moved)),
      ...moveUntold(moved, context),
      ...backdropSolids(context),
    ]
  },
}

function outside({ document, rulebook }: RuleContext): Finding[] {
  const parts = partsOutsideGroups(document, rulebook)
  if (parts.length === 0) return []
  const names = parts.map(({ name }) => name)
  return [
    {
      rule: 'group-missing',
      severity: 'risky',
      stage: 'motion',
      title: 'Parts in no group',
      where: names.slice(0, 3).join(', '),
      place: { ...nowhere, parts: names.slice(0, 50) },
      value: plural(parts.length, 'part'),
      limit: 'none',
      message:
        `${plural(parts.length, 'part')} ${parts.length === 1 ? 'stands' : 'stand'} in no group: ` + listed(names),
      why: 'By its group’s name the game tells what moves, what stands still and what is only looked at.',
      mend: { step: 'group-parts', label: 'Group parts', parameters: {} },
    },
  ]
}

function checkGroup({ node, name, is }: Group, moved: ReadonlySet<Node>): Finding[] {
  const common = { severity: 'risky' as const, stage: 'motion' as const, where: name, place: nowhere }
  if (is === 'moves' && !moved.has(node))
    return [
      {
        ...common,
        rule: 'group-without-motion',
        title: 'Moving group without motion',
        value: 'no clip',
        limit: 'one clip',
        message: `${name} is a group that moves, and no clip moves it`,
        why: 'The game makes room for its motion, and it stands still.',
        mend: { step: 'make-motion', label: 'Make it move', parameters: { node: name } },
      },
    ]
  if (is !== 'moves' && nearestAbove(node, (each) => moved.has(each)))
    return [
      {
        ...common,
        rule: 'group-moves',
        title: 'Still group moves',
        value: 'moved by a clip',
        limit: 'still',
        message: `${name} is a group that does not move, and a clip moves it`,
        why: 'What stands still is reckoned once; its shadow and its solids stay where they were.',
        mend: null,
      },
    ]
  return []
}

/** What a clip moves and no moving group holds. */
function moveUntold(moved: ReadonlySet<Node>, { rulebook }: RuleContext): Finding[] {
  return [...moved]
    .filter((node) => !nearestAbove(node, (each) => groupInName(rulebook, each.getName()) !== null))
    .slice(0, 20)
    .map((node) => ({
      rule: 'group-not-told',
      severity: 'risky',
      stage: 'motion',
      title: 'Moves outside a group',
      where: node.getName(),
      place: nowhere,
      value: 'in no group',
      limit: 'a moving group',
      message: `${node.getName()} is moved by a clip and stands in no moving group`,
      why: 'The game plays clips for groups that move; what is in none stands still.',
      mend: { step: 'recognise-groups', label: 'Recognise groups', parameters: {} },
    }))
}

function backdropSolids({ document, rulebook }: RuleContext): Finding[] {
  const own = listSolids(document).filter(
    ({ node }) => nearestAbove(node, (each) => groupInName(rulebook, each.getName()) === 'backdrop') !== null,
  )
  if (own.length === 0) return []
  return [
    {
      rule: 'backdrop-solid',
      severity: 'risky',
      stage: 'motion',
      title: 'Solids in a backdrop',
      where: own[0].name,
      place: nowhere,
      value: plural(own.length, 'solid'),
      limit: 'none',
      message:
        `${plural(own.length, 'solid')} ${own.length === 1 ? 'stands' : 'stand'} in a backdrop, where nothing is ` +
        'bumped into',
      why: 'A backdrop is kept out of collision; the game skips what it has.',
      mend: null,
    },
  ]
}
