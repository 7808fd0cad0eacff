import { faultsOf } from '../../geometry/mesh/mesh-faults.ts'
import { placeMesh } from '../../geometry/mesh/triangle-mesh.ts'
import { restMatrix } from '../../item/parts.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { boxesMeet, listBodies, type Body } from '../../operations/meshes/bodies.ts'
import { readMesh } from '../../operations/meshes/mesh-arrays.ts'
import { listed, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, RuleContext, RuleFamily } from '../rule.ts'

/**
 * Bodies of level geometry that the game tells apart: each known to the kind, turned as one sees it, cutting something.
 */
export const bodyRules: RuleFamily = {
  id: 'bodies',
  ofMeshes: true,
  check(context) {
    const bodies = listBodies(context.document, context)
    const cut = bodies.filter(({ is }) => is !== 'trim')
    const standing = bodies.filter(({ is }) => is === 'solid')
    const unknown = bodies.filter(({ is }) => !context.kind.faceRoles.includes(is))
    const open = cut.filter(({ closed }) => !closed)
    const inward = standing.filter(({ closed, volume }) => closed && volume < 0)
    const outward = bodies.filter(({ is, closed, volume }) => is === 'hollow' && closed && volume > 0)
    const alone = bodies.filter((body) => body.is === 'hollow' && !standing.some((other) => boxesMeet(body, other)))
    return [
      ...told(unknown, {
        rule: 'body-unknown',
        title: 'Sort of body not known',
        limit: context.kind.faceRoles.join(', '),
        message: (names) => `${names}: this kind has no such bodies`,
        why: 'Its name says a sort that the game does not look for here.',
        mend: { step: 'tell-bodies', label: 'Make them solid', parameters: { is: 'solid', parts: namesOf(unknown) } },
      }),
      ...told(open, {
        rule: 'body-open',
        title: 'Not closed',
        limit: 'closed',
        message: (names) => `${names} cannot be cut: ${open.length === 1 ? 'it is' : 'they are'} not closed`,
        why: 'What has no inside is left out where the game cuts bodies.',
        mend: openMend(open, bodies, context),
      }),
      ...told(inward, {
        rule: 'body-inside-out',
        title: 'Solid inside out',
        limit: 'outward',
        message: (names) => `${names}: the faces look inward, and it is named as one that stands there`,
        why: 'The game takes the inside for the outside: one falls through, or sees nothing.',
        mend: turnMend(inward, 'solid'),
      }),
      ...told(outward, {
        rule: 'hollow-outward',
        title: 'Room turned outward',
        limit: 'inward',
        message: (names) => `${names}: the faces look outward, and a room is seen from inside`,
        why: 'Its walls would be drawn towards the rock and not towards who stands in it.',
        mend: turnMend(outward, 'hollow'),
      }),
      ...told(alone, {
        rule: 'hollow-cuts-nothing',
        title: 'Room in nothing',
        limit: 'within a solid',
        message: (names) => `${names} lies in no body that stands there, and cuts nothing out`,
        why: 'A room is what is missing of a solid; by itself it is not there.',
        mend: null,
      }),
    ]
  },
}

const namesOf = (bodies: readonly Body[]): string[] => bodies.map(({ part }) => part.name)

/** The step turns what it is told of as that is seen. */
const turnMend = (bodies: readonly Body[], is: Body['is']): Finding['mend'] => ({
  step: 'tell-bodies',
  label: is === 'hollow' ? 'Turn inward' : 'Turn outward',
  parameters: { is, parts: namesOf(bodies) },
})

/** A place on each hole or open border of a body that is not closed, in the scene; 20 at most. */
function openAt({ part, closed }: Body): [number, number, number][] {
  if (closed) return []
  const { positions, indices } = readMesh(part.mesh)
  const mesh = placeMesh(positions, indices)
  const places = transformedPoints(mesh.places, restMatrix(part.node))
  return faultsOf(mesh)
    .openLoops.slice(0, 20)
    .map(([place]) => [places[place * 3], places[place * 3 + 1], places[place * 3 + 2]])
}

type Said = Pick<Finding, 'rule' | 'title' | 'limit' | 'why' | 'mend'> & { message: (names: string) => string }

function told(bodies: readonly Body[], { message, ...said }: Said): Finding[] {
  if (bodies.length === 0) return []
  const names = namesOf(bodies)
  return [
    {
      ...said,
      severity: 'risky',
      stage: 'mesh',
      where: names[0],
      place: placeOfParts(
        bodies.map(({ part }) => part),
        bodies.flatMap(openAt),
      ),
      value: plural(bodies.length, 'part'),
      message: message(listed(names)),
    },
  ]
}

/** What is not closed may be only seen, where something else is left to stand on; or its small holes are closed. */
const openMend = (open: readonly Body[], bodies: readonly Body[], { kind }: RuleContext): Finding['mend'] =>
  kind.faceRoles.includes('trim') && bodies.some(({ is, closed }) => is === 'solid' && closed)
    ? {
        step: 'tell-bodies',
        label: 'Make them trim',
        parameters: { is: 'trim', parts: withThose(open, bodies, 'trim') },
      }
    : { step: 'clean-mesh', label: 'Close small holes', parameters: { holeEdges: 12 } }

/** Together with those that are so already: a step that said so of them says it of all. */
const withThose = (more: readonly Body[], bodies: readonly Body[], is: Body['is']): string[] =>
  namesOf([...bodies.filter((body) => body.is === is), ...more])
