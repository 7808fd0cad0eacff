import { z } from 'zod'
import { weightSum } from '../../geometry/skin/weight-table.ts'
import { listViewParts } from '../../item/parts.ts'
import { assignRows, hangLike, likeSurface, onNearestBone, onOneBone } from '../../operations/motion/assign.ts'
import { chosenCorners, regions } from '../../operations/motion/chosen-corners.ts'
import { facePicksSchema } from '../../operations/meshes/face-picks.ts'
import { heldPlaces, readHeldMesh } from '../../operations/motion/skin.ts'
import { formatCount } from '../../support/wording.ts'
import { nameInItem } from '../item-names.ts'
import { defineStep, gonePart, type StepField, type StepSummary } from '../step.ts'
import { boneNames, heldNames, heldPart } from './held-part.ts'

const parameters = z.object({
  part: nameInItem,
  corners: z.enum(regions),
  points: z.array(z.array(z.number()).length(3)).max(2),
  wider: z.number().min(0).max(1e6),
  faces: facePicksSchema,
  others: z.boolean(),
  to: z.enum(['bone', 'nearest', 'surface']),
  bone: nameInItem,
  /** The part whose nearest surface says what holds a corner. */
  like: nameInItem,
})

/** Says which bone holds which corners. */
export const assignWeights = defineStep<z.infer<typeof parameters>>({
  id: 'assign-weights',
  version: 1,
  stage: 'motion',
  title: 'Assign to bones',
  purpose:
    'Gives corners of a part to one bone, to the nearest one, or to what holds the nearest surface of another part.',
  parameters,
  fields: ({ document, rulebook: { space } }) => [
    { type: 'part', key: 'part', label: 'Part' },
    ...cornerFields(space.unit.plural),
    {
      type: 'choice',
      key: 'to',
      label: 'Follow',
      options: [
        { value: 'bone', label: 'one bone' },
        { value: 'nearest', label: 'the nearest bone' },
        { value: 'surface', label: 'the nearest surface of another part' },
      ],
    },
    {
      type: 'choice',
      key: 'bone',
      label: 'Bone',
      options: boneNames(document).map((name) => ({ value: name, label: name })),
      when: { key: 'to', is: ['bone'] },
    },
    { type: 'part', key: 'like', label: 'Like this part', when: { key: 'to', is: ['surface'] } },
  ],
  defaults: ({ document }) => ({
    part: heldNames(document)[0] ?? '',
    corners: 'all',
    points: [],
    wider: 0,
    faces: [],
    others: false,
    to: 'nearest',
    bone: boneNames(document)[0] ?? '',
    like: heldNames(document)[0] ?? '',
  }),
  propose: () => [],
  async run({ document, parameters }): Promise<StepSummary> {
    const { part: name, to, like, bone } = parameters
    const pattern = heldPart(document, like)
    const part = heldPart(document, name)
    if (!part && to === 'surface') {
      // What nothing holds yet, as a cover or a decal, is hung on the bones of what it lies on.
      const bare = listViewParts(document).find((each) => each.name === name)
      if (!bare || !pattern) return gonePart(bare ? like : name)
      const count = hangLike(document, bare, pattern)
      return done(count, count, `follow what holds ${like} there; bones did not hold ${name} before`)
    }
    const held = part && readHeldMesh(part)
    if (!part || !held) return gonePart(name)
    const places = heldPlaces(part, held)
    const marks = chosenCorners(document, part, places, parameters, (corner) => weightSum(held.table, corner) === 0)
    if (to === 'surface') {
      const rows = pattern && likeSurface(document, part, held, places, pattern)
      if (!rows) return gonePart(like)
      return done(assignRows(document, part, held, rows, marks), marks.length, `follow what holds ${like} there`)
    }
    const rows = to === 'bone' ? onOneBone(held, bone) : onNearestBone(held, places)
    if (!rows) return goneBone(bone, name)
    const follows = to === 'bone' ? `follow ${bone} alone` : 'follow the nearest bone'
    return done(assignRows(document, part, held, rows, marks), marks.length, follows)
  },
})

const cornerFields = (unit: string): StepField[] => [
  {
    type: 'choice',
    key: 'corners',
    label: 'Corners',
    options: [
      { value: 'all', label: 'all' },
      { value: 'box', label: 'in a box between two points' },
      { value: 'ball', label: 'in a ball: its middle, and a point on it' },
      { value: 'side', label: 'on one side: a point, and which way from there' },
      { value: 'picked', label: 'of picked faces' },
      { value: 'unheld', label: 'that no bone holds' },
    ],
  },
  {
    type: 'points',
    key: 'points',
    label: 'Two points',
    count: 2,
    unit,
    when: { key: 'corners', is: ['box', 'ball', 'side'] },
  },
  {
    type: 'number',
    key: 'wider',
    label: 'Wider by',
    unit,
    least: 0,
    most: 1000,
    step: 0.05,
    when: { key: 'corners', is: ['box', 'ball', 'side'] },
  },
  { type: 'faces', key: 'faces', label: 'Faces', when: { key: 'corners', is: ['picked'] } },
  { type: 'toggle', key: 'others', label: 'All but these' },
]

const done = (count: number, all: number, follow: string): StepSummary => ({
  headline: `${formatCount(count)} corners`,
  details: [
    count === 0
      ? 'No corner is meant: choose where they are.'
      : `${formatCount(count)} of ${formatCount(all)} corners ${follow}.`,
  ],
  changed: count > 0,
})

function goneBone(bone: string, part: string): StepSummary {
  const reason = `No bone “${bone}” holds ${part} at this place of the worklist. Choose another bone, or remove the step.`
  return { headline: 'does not apply', details: [reason], changed: false, doesNotApply: reason }
}
