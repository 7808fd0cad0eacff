import { tellsBodies } from '../../game/body-names.ts'
import { transformedPoints } from '../../maths/matrices.ts'
import { listViewParts, restMatrix, type Part } from '../../item/parts.ts'
import { faultsOf, type MeshFaults } from '../../geometry/mesh/mesh-faults.ts'
import { placeMesh } from '../../geometry/mesh/triangle-mesh.ts'
import { joinable } from '../../operations/meshes/joinable.ts'
import { readMesh } from '../../operations/meshes/mesh-arrays.ts'
import { formatCount, listed, plural } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, RuleFamily } from '../rule.ts'

type Spot = [number, number, number]
interface Faulty {
  part: Part
  faults: Omit<MeshFaults, 'unusedCorners'>
  /** Places of the part in the scene, 3 floats each, and the place of each triangle corner. */
  places: Float32Array
  placeOfIndex: Uint32Array
}

/**
 * Whether a mesh is whole as a surface: doubles, slivers, holes, edges where too many faces meet; and whether one thing
 * is one node.
 */
export const surfaceRules: RuleFamily = {
  id: 'surfaces',
  ofMeshes: true,
  check({ document, kind, rulebook }) {
    if (!kind.mesh) return []
    const faulty = listViewParts(document).map(lookAt)
    const findings: Finding[] = []
    const doubles = told(faulty, ({ doubles: list }) => list.length)
    if (doubles.count > 0) {
      findings.push({
        ...common(doubles),
        rule: 'double-triangles',
        title: 'Doubles',
        place: placeOfParts(
          doubles.parts,
          spotsOf(doubles.faulty, (each) => Array.from(each.faults.doubles, (triangle) => middleOf(each, triangle))),
        ),
        message:
          `${plural(doubles.count, 'triangle')} ${doubles.count === 1 ? 'stands' : 'stand'} in the same place as ` +
          `another, on ${doubles.where}`,
        why: 'Two faces in one place flicker, and both are paid for.',
        mend: { step: 'clean-mesh', label: 'Drop doubles', parameters: { doubles: true } },
      })
    }
    const slivers = told(faulty, ({ slivers: list }) => list.length)
    if (slivers.count > 0) {
      findings.push({
        ...common(slivers),
        rule: 'slivers',
        title: 'Slivers',
        place: placeOfParts(
          slivers.parts,
          spotsOf(slivers.faulty, (each) => Array.from(each.faults.slivers, (triangle) => middleOf(each, triangle))),
        ),
        message: `${plural(slivers.count, 'triangle is', 'triangles are')} thinner than 1°, on ${slivers.where}`,
        why: 'Slivers shade badly and are drawn at the price of a whole triangle.',
        mend: { step: 'clean-mesh', label: 'Drop slivers', parameters: { slivers: true } },
      })
    }
    const crowded = told(faulty, ({ nonManifoldEdges }) => nonManifoldEdges.length)
    if (crowded.count > 0) {
      findings.push({
        ...common(crowded),
        rule: 'crowded-edges',
        title: 'Edges with too many faces',
        place: placeOfParts(
          crowded.parts,
          spotsOf(crowded.faulty, (each) =>
            Array.from(each.faults.nonManifoldEdges, (edge) => placeAt(each, each.placeOfIndex[edge])),
          ),
        ),
        message: `At ${plural(crowded.count, 'edge')} more than two faces meet, on ${crowded.where}`,
        why: 'There no side is inside or outside, so turning faces and closing shapes fail.',
        mend: null,
      })
    }
    const holes = told(faulty, ({ openLoops }) => openLoops.length)
    // Where bodies are told apart, their own rule says which have to be closed.
    const isMeant = kind.mesh.facesViewer || tellsBodies(rulebook, kind)
    if (holes.count > 0 && !isMeant && (kind.mesh.closedSurfaces || holes.count <= FEW_HOLES)) {
      findings.push({
        ...common(holes),
        rule: 'holes',
        title: kind.mesh.closedSurfaces ? 'Not closed' : 'Holes and open borders',
        place: placeOfParts(
          holes.parts,
          spotsOf(holes.faulty, (each) => each.faults.openLoops.map((loop) => placeAt(each, loop[0]))),
        ),
        message: `${plural(holes.count, 'hole or open border', 'holes and open borders')} on ${holes.where}`,
        why: kind.mesh.closedSurfaces
          ? 'This kind is read as a solid body; it has to be closed.'
          : 'A border that was not meant shows as a gap.',
        mend: { step: 'clean-mesh', label: 'Close small holes', parameters: { holeEdges: SMALL_HOLE } },
      })
    }
    return [...findings, ...oneNode(joinable(document), kind.mesh.oneNodePerObject)]
  },
}

/** More open borders than this are how the thing is built, not a fault to be told one by one. */
const FEW_HOLES = 40
const SMALL_HOLE = 12

function lookAt(part: Part): Faulty {
  const { positions, indices } = readMesh(part.mesh)
  const mesh = placeMesh(positions, indices)
  return {
    part,
    faults: faultsOf(mesh),
    places: transformedPoints(mesh.places, restMatrix(part.node)),
    placeOfIndex: mesh.placeOfIndex,
  }
}

interface Told {
  count: number
  parts: Part[]
  faulty: Faulty[]
  where: string
}

function told(faulty: readonly Faulty[], countOf: (faults: Faulty['faults']) => number): Told {
  const having = faulty.filter(({ faults }) => countOf(faults) > 0)
  const names = having.map(({ part }) => part.name)
  return {
    count: having.reduce((sum, { faults }) => sum + countOf(faults), 0),
    parts: having.map(({ part }) => part),
    faulty: having,
    where: listed(names),
  }
}

const common = ({ count, where }: Told) => ({
  severity: 'note' as const,
  stage: 'mesh' as const,
  where,
  value: formatCount(count),
  limit: '0',
})

const spotsOf = (faulty: readonly Faulty[], spots: (each: Faulty) => Spot[]): Spot[] =>
  faulty.flatMap((each) => spots(each).slice(0, 20))

const placeAt = ({ places }: Faulty, place: number): Spot => [
  places[place * 3],
  places[place * 3 + 1],
  places[place * 3 + 2],
]

function middleOf(each: Faulty, triangle: number): Spot {
  const corners = [0, 1, 2].map((corner) => placeAt(each, each.placeOfIndex[triangle * 3 + corner]))
  return [0, 1, 2].map((axis) => corners.reduce((sum, corner) => sum + corner[axis], 0) / 3) as Spot
}

/** Where the game asks for one node an object, still parts are to be one. */
function oneNode(parts: readonly Part[], asked: boolean): Finding[] {
  if (!asked || parts.length < 2) return []
  return [
    {
      rule: 'one-node',
      severity: 'note',
      stage: 'mesh',
      title: 'Several nodes',
      where: 'item',
      place: placeOfParts(parts),
      value: formatCount(parts.length),
      limit: '1',
      message:
        `${formatCount(parts.length)} still parts are nodes of their own; the game stretches each about its own ` +
        'middle, so the thing comes apart',
      why: 'Players may stretch what they place; only one node stays one thing.',
      mend: { step: 'join-parts', label: 'Join parts', parameters: {} },
    },
  ]
}
