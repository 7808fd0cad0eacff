import { identityMatrix } from '../../maths/axes.ts'
import { getMaterialExtras, setMaterialExtras } from '../../item/extras.ts'
import { itemScene, listAllParts } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import {
  type RuleSpoiler,
  part,
  surface,
  stone,
  solid,
  alterValues,
  otherMaterial,
  hold,
  turn,
  reverse,
  openFront,
} from './item-changes.ts'

/** One way to spoil the prepared gate for each rule that blocks or is risky. */
export const meshSpoilers: readonly RuleSpoiler[] = [
  {
    rule: 'triangle-budget',
    severity: 'blocks',
    spoil: ({ kind }) => {
      if (kind.mesh) kind.mesh.triangles = 5000
    },
  },
  {
    rule: 'view-and-solids-budget',
    severity: 'blocks',
    spoil: ({ kind }) => {
      if (kind.mesh) kind.mesh.withSolids = 10_500
    },
  },
  {
    rule: 'corner-limit',
    severity: 'blocks',
    spoil: ({ kind }) => {
      if (kind.mesh) kind.mesh.cornersPerPart = 1000
    },
  },
  { rule: 'item-too-large', severity: 'risky', spoil: ({ document }) => changeBasis(document, identityMatrix(), 100) },
  {
    rule: 'transform-not-baked',
    severity: 'risky',
    spoil: ({ document }) => {
      part(document, 'hinge_pins').node.setScale([2, 2, 2])
    },
  },
  {
    rule: 'too-thin',
    severity: 'risky',
    spoil: ({ rulebook }) => {
      rulebook.space.smallestDrawn = 2
    },
  },
  { rule: 'inward-faces', severity: 'risky', spoil: ({ document }) => reverse(surface(document, 'arch_stone')) },
  { rule: 'inside-seen', severity: 'risky', spoil: ({ document }) => openFront(surface(document, 'arch_stone')) },
  {
    rule: 'normals-missing',
    severity: 'risky',
    spoil: ({ document }) => {
      surface(document, 'right_leaf').setAttribute('NORMAL', null)
    },
  },
  {
    rule: 'tangents-missing',
    severity: 'risky',
    spoil: ({ document }) => {
      surface(document, 'arch_stone').setAttribute('TANGENT', null)
    },
  },
  {
    rule: 'uvs-missing',
    severity: 'blocks',
    spoil: ({ document }) => {
      surface(document, 'arch_stone').setAttribute('TEXCOORD_0', null)
    },
  },
  {
    rule: 'level-missing',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const level of listLevelParts(document, 2)) level.node.dispose()
    },
  },
  {
    rule: 'level-too-dense',
    severity: 'risky',
    spoil: ({ rulebook }) => {
      rulebook.levels.chain[0].mostShare = 0.1
    },
  },
  {
    rule: 'level-materials',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const level of listLevelParts(document, 1))
        for (const each of level.mesh.listPrimitives()) each.setMaterial(stone(document))
    },
  },
  {
    rule: 'level-geometry',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const level of listLevelParts(document, 2)) level.node.setTranslation([0, 3, 0])
    },
  },
  {
    rule: 'level-bones',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const level of listLevelParts(document, 1)) hold(document, level, 1, [1, 0, 0, 0])
    },
  },
  {
    rule: 'level-part-missing',
    severity: 'risky',
    spoil: ({ document }) => {
      listLevelParts(document, 1)[0].node.dispose()
    },
  },
  {
    rule: 'level-part-material',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const each of listLevelParts(document, 1)[0].mesh.listPrimitives())
        each.setMaterial(otherMaterial(document, each))
    },
  },
  {
    rule: 'normal-length',
    severity: 'risky',
    spoil: ({ document }) => {
      alterValues(document, surface(document, 'arch_stone'), 'NORMAL', (values) => values.fill(0, 0, 3))
    },
  },
  {
    rule: 'tangent-hand',
    severity: 'risky',
    spoil: ({ document }) => {
      alterValues(document, surface(document, 'arch_stone'), 'TANGENT', (values) => values.fill(0, 3, 4))
    },
  },
  {
    rule: 'weights-sum',
    severity: 'risky',
    spoil: ({ document, kind }) => {
      kind.bones = { most: 24, influences: 4, rigidPartPerBone: false }
      hold(document, part(document, 'hinge_pins'), 2, [0.5, 0.2, 0, 0])
    },
  },
  {
    rule: 'bones-not-read',
    severity: 'risky',
    spoil: ({ document }) => {
      hold(document, part(document, 'hinge_pins'), 1, [1, 0, 0, 0])
    },
  },
  {
    rule: 'bone-count',
    severity: 'blocks',
    spoil: ({ document, kind }) => {
      kind.bones = { most: 4, influences: 4, rigidPartPerBone: false }
      hold(document, part(document, 'hinge_pins'), 5, [1, 0, 0, 0])
    },
  },
  {
    rule: 'bone-influences',
    severity: 'risky',
    spoil: ({ document, kind }) => {
      kind.bones = { most: 24, influences: 2, rigidPartPerBone: false }
      hold(document, part(document, 'hinge_pins'), 3, [0.4, 0.3, 0.3, 0])
    },
  },
  {
    rule: 'motion-not-played',
    severity: 'risky',
    spoil: ({ document }) => {
      turn(document, part(document, 'hinge_pins'))
    },
  },
  {
    rule: 'surface-flat',
    severity: 'risky',
    spoil: ({ document }) => {
      alterValues(document, surface(document, 'hinge_pins'), 'POSITION', (values) =>
        values.forEach((_, at) => {
          if (at % 3 > 0) values[at] = 4
        }),
      )
    },
  },
  {
    rule: 'nothing-drawn',
    severity: 'blocks',
    spoil: ({ document }) => {
      for (const each of listAllParts(document)) each.node.dispose()
    },
  },
  {
    rule: 'far-from-origin',
    severity: 'risky',
    spoil: ({ document }) => {
      for (const node of itemScene(document).listChildren()) node.setTranslation([10_000, 0, 0])
    },
  },
  {
    rule: 'solid-apart',
    severity: 'risky',
    spoil: ({ document }) => {
      solid(document, 'hull').node.setTranslation([0, 0, 400])
    },
  },
  {
    rule: 'shading-unknown',
    severity: 'blocks',
    spoil: ({ document }) => {
      setMaterialExtras(stone(document), { ...getMaterialExtras(stone(document)), shadingModel: 'velvet' })
    },
  },
]
