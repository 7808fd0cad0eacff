import { z } from 'zod'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { invertMatrix, transformedPoints } from '../../maths/matrices.ts'
import { restMatrix } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { PlainError } from '../../support/plain-error.ts'
import { convexHull, type TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { fitBox } from '../../geometry/shapes/box.ts'
import { UNTURNED } from '../../geometry/shapes/placed-shape.ts'
import { shapeRefusal } from './add-solid.ts'
import { nextSolidName, soupMesh } from '../../operations/meshes/derived-meshes.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { formatCount } from '../../support/wording.ts'

const parameters = z.object({ solids: namesInItem, into: z.enum(['hull', 'box', 'mesh']) })

/** Makes one solid of several. */
export const mergeSolids = defineStep<z.infer<typeof parameters>>({
  id: 'merge-solids',
  version: 1,
  stage: 'solids',
  title: 'Merge solids',
  purpose:
    'Makes one solid of several: their common hull or box, or one mesh of them all; what it is made of comes ' +
    'from the first.',
  parameters,
  fields: ({ document, rulebook, kind }) => [
    {
      type: 'layers',
      key: 'solids',
      label: 'Solids',
      options: listSolids(document).map(({ name }) => ({ value: name, label: name })),
    },
    {
      type: 'choice',
      key: 'into',
      label: 'Become',
      options: (['hull', 'box', 'mesh'] as const).map((into) => ({
        value: into,
        label: { hull: 'Their common hull', box: 'Their common box', mesh: 'One mesh' }[into],
        refused: shapeRefusal(into, rulebook, kind) ?? undefined,
      })),
    },
  ],
  defaults: ({ document }) => ({
    solids: listSolids(document)
      .slice(0, 2)
      .map(({ name }) => name),
    into: 'hull',
  }),
  propose: () => [],
  async run({ document, rulebook, kind, parameters: { solids: names, into } }) {
    const solids = names.flatMap((name) => listSolids(document).find((each) => each.name === name) ?? [])
    const parent = solids[0]?.node.getParentNode()
    if (solids.length < 2 || !parent) return gonePart(names.join(', ') || 'two solids')
    const refused = shapeRefusal(into, rulebook, kind)
    if (refused) throw new PlainError(refused, 'Merge solids', 'Choose another shape.')
    const toParent = invertMatrix(restMatrix(parent)) ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
    const all: TriangleSoup = { positions: new Float32Array(), indices: new Uint32Array() }
    for (const { node, mesh } of solids) {
      const { positions, indices } = readPrimitive(mesh.listPrimitives()[0])
      const first = all.positions.length / 3
      all.positions = Float32Array.from([
        ...all.positions,
        ...transformedPoints(transformedPoints(positions, restMatrix(node)), toParent),
      ])
      all.indices = Uint32Array.from([...all.indices, ...indices.map((corner) => corner + first)])
    }
    const shape =
      into === 'box'
        ? fitBox(all.positions)
        : {
            mesh: into === 'hull' ? convexHull(all.positions, rulebook.solids.hullPoints) : all,
            translation: [0, 0, 0] as [number, number, number],
            rotation: UNTURNED,
          }
    if (!shape.mesh) throw new PlainError('they lie in a plane and have no hull', 'Merge solids', 'Choose a box.')
    const masses = solids.map(({ extras }) => extras.solid?.massKilograms ?? null)
    const facts = solids[0].extras.solid
    for (const { node } of solids.slice(1)) node.dispose()
    const [first] = solids
    const name = nextSolidName(document, rulebook, into)
    first.node
      .setName(name)
      .setMesh(soupMesh(document, name, shape.mesh))
      .setTranslation(shape.translation)
      .setRotation(shape.rotation)
    const massKilograms = masses.every((mass) => mass === null)
      ? null
      : masses.reduce<number>((sum, mass) => sum + (mass ?? 0), 0)
    setNodeExtras(first.node, {
      ...getNodeExtras(first.node),
      solid: { shape: into, surface: facts?.surface ?? null, layers: facts?.layers ?? [], massKilograms },
    })
    return {
      headline: `${solids.length} → 1`,
      details: [
        `${names.join(', ')} are ${name} now: ${formatCount(shape.mesh.indices.length / 3)} triangles under ` +
          `${parent.getName()}.`,
      ],
      changed: true,
    }
  },
})
