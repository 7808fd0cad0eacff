import { carriedBy } from '../../game/formats.ts'
import type { Primitive } from '@gltf-transform/core'
import { presentMaps, showsRelief } from '../../game/map-roles.ts'
import type { Rulebook } from '../../game/schema.ts'
import { listAllParts, listViewParts, type Part } from '../../item/parts.ts'
import {
  facingIfTurned,
  measurePartFacing,
  type PartFacing,
  partsToTurn,
  partsWithoutOutside,
  TOLERATED_BACKS_SHARE,
  worstBacks,
} from '../../operations/meshes/measure-part-facing.ts'
import { outsideParts } from '../../operations/meshes/bodies.ts'
import { listed } from '../../support/wording.ts'
import { placeOfParts } from '../places.ts'
import type { Finding, RuleFamily } from '../rule.ts'

/** Which way faces look, and what they need to be lit and textured. */
export const faceRules: RuleFamily = {
  id: 'faces',
  ofMeshes: true,
  check({ document, rulebook, kind }) {
    const parts = listViewParts(document)
    const { tangents: asksTangents, normals: asksNormals } = carriedBy(rulebook.files.mesh.writer)
    // What is turned to who looks has no back that anybody sees.
    const findings: Finding[] = kind.mesh?.facesViewer
      ? []
      : [
          ...backsSeen(outsideParts(document, { rulebook, kind }), parts, rulebook.space.figure.eyeHeight),
          ...withoutOutside(parts),
        ]
    for (const part of listAllParts(document).filter(
      ({ extras }) => extras.role === 'part' || extras.role === 'level',
    )) {
      const primitives = part.mesh.listPrimitives()
      const place = placeOfParts([part])
      // A level's own normals and tangents are made with it; from far off nobody sees the difference.
      const near = part.extras.role === 'part'
      const common = { stage: 'mesh' as const, where: part.name, place, limit: 'present', value: 'missing' }
      if (near && asksNormals && primitives.some((primitive) => !primitive.getAttribute('NORMAL'))) {
        findings.push({
          ...common,
          rule: 'normals-missing',
          severity: 'risky',
          title: 'Normals missing',
          message: `${part.name} has no normals and would look flat or black`,
          why: 'Light is computed from normals.',
          mend: { step: 'even-normals', label: 'Even normals', parameters: {} },
        })
      }
      if (
        near &&
        asksTangents &&
        primitives.some((primitive) => isRelief(primitive, rulebook) && !primitive.getAttribute('TANGENT'))
      ) {
        findings.push({
          ...common,
          rule: 'tangents-missing',
          severity: 'risky',
          title: 'Tangents missing',
          message: `${part.name} has a normal map but no tangents to lay it on`,
          why: 'Without tangents the normal map lights from the wrong side.',
          mend: { step: 'even-normals', label: 'Make tangents', parameters: { tangents: true } },
        })
      }
      // Where UVs are not read, pictures lie by their place in the world.
      const asksUvs = kind.mesh?.losesUVs !== true
      if (
        asksUvs &&
        primitives.some((primitive) => showsMaps(primitive, rulebook) && !primitive.getAttribute('TEXCOORD_0'))
      ) {
        findings.push({
          ...common,
          rule: 'uvs-missing',
          severity: 'blocks',
          title: 'UVs missing',
          stage: 'surface',
          message: `${part.name} has a texture but no UVs to lay it on`,
          why: 'The loader cannot place a texture without UVs.',
          mend: null,
        })
      }
    }
    return findings
  },
}

/** Whether a surface shows a picture, its own or the game's. */
const showsMaps = (primitive: Primitive, rulebook: Rulebook): boolean => {
  const material = primitive.getMaterial()
  return material !== null && presentMaps(material, rulebook).length > 0
}

const isRelief = (primitive: Primitive, rulebook: Rulebook): boolean => {
  const material = primitive.getMaterial()
  return material !== null && showsRelief(material, rulebook)
}

/**
 * Backs that one sees: turned over where a part is inside out, without back faces where its inside shows.
 * @param parts those of the thing's outside
 * @param all parts of the item
 */
function backsSeen(parts: readonly Part[], all: readonly Part[], eyeHeight: number): Finding[] {
  const facing = measurePartFacing(parts, eyeHeight)
  // What other directions or a figure's eyes see is a note: the loader looks along the axes.
  const risky = facing.shareAlongAxes > TOLERATED_BACKS_SHARE
  if (!risky && facing.share <= TOLERATED_BACKS_SHARE) return []
  const many = worstBacks(facing)
  const worst = many.length > 0 ? many : facing.parts.slice(0, 1)
  const turnable = mendedByTurning(parts, worst, eyeHeight)
  const percent = `${((risky ? facing.shareAlongAxes : facing.share) * 100).toFixed(1)} %`
  const common = { stage: 'mesh' as const, value: percent, limit: `${TOLERATED_BACKS_SHARE * 100} %` }
  const place = (names: readonly string[]) =>
    placeOfParts(
      parts.filter((part) => names.includes(part.name)),
      worst.filter((part) => names.includes(part.name)).flatMap((part) => part.spots),
    )
  const insideOut = worst.map((part) => part.name).filter((name) => turnable.has(name))
  const open = worst.map((part) => part.name).filter((name) => !turnable.has(name))
  const findings: Finding[] = []
  if (insideOut.length > 0) {
    findings.push({
      ...common,
      rule: 'inward-faces',
      severity: risky ? 'risky' : 'note',
      title: 'Faces inside out',
      where: listed(insideOut),
      place: place(insideOut),
      message:
        `From outside ${percent} of what one sees are backs of faces, on ` +
        `${listed(worst.map((part) => part.name))}`,
      why: 'Backs are not drawn: one sees through the thing.',
      mend: { step: 'turn-outward', label: 'Turn outward', parameters: {} },
    })
  }
  if (open.length > 0) {
    findings.push({
      ...common,
      rule: 'inside-seen',
      severity: risky ? 'risky' : 'note',
      title: 'Inside without back faces',
      where: listed(open),
      place: place(open),
      message:
        `${risky ? 'From outside' : `From a figure’s eyes, ${eyeHeight} up,`} one looks into ${listed(open)}, ` +
        `and there are no back faces: ${percent} of the picture`,
      why: 'Backs are not drawn: where an inside can be seen, one sees through the thing.',
      mend: { step: 'two-sided', label: 'Make two-sided', parameters: { parts: [...bothSidesShown(all), ...open] } },
    })
  }
  return findings
}

/** Parts that are two-sided already: they stay so where more become it. */
const bothSidesShown = (parts: readonly Part[]): string[] =>
  parts
    .filter(({ mesh }) =>
      mesh.listPrimitives().every((primitive) => primitive.getMaterial()?.getDoubleSided() === true),
    )
    .map(({ name }) => name)

/** Turning has to take away so much of the backs that a part shows to be what mends it. */
const TAKEN_BY_TURNING = 0.5

/**
 * Which parts turning would mend. The two sides of a thin sheet that a reduction pushed through each other are turned
 * as they should be: what shows there are both sides.
 */
function mendedByTurning(parts: readonly Part[], worst: PartFacing['parts'], eyeHeight: number): ReadonlySet<string> {
  const turnable = partsToTurn(
    parts,
    worst.map((part) => part.name),
  )
  if (turnable.size === 0) return turnable
  const after = new Map(facingIfTurned(parts, [...turnable], eyeHeight).parts.map(({ name, share }) => [name, share]))
  const mended = worst.filter(
    ({ name, share }) => turnable.has(name) && (after.get(name) ?? 0) < share * TAKEN_BY_TURNING,
  )
  return new Set(mended.map(({ name }) => name))
}

/** Pieces with one side only: no step can turn them outward. */
function withoutOutside(parts: readonly Part[]): Finding[] {
  const twisted = partsWithoutOutside(parts)
  if (twisted.length === 0) return []
  const names = twisted.map((part) => part.name)
  return [
    {
      rule: 'no-outside',
      severity: 'note',
      stage: 'mesh',
      title: 'No outside',
      where: names.join(', '),
      place: placeOfParts(twisted),
      value: String(twisted.length),
      limit: '0',
      message:
        `${names.join(', ')} ${names.length === 1 ? 'has' : 'have'} a surface with one side only, like a twisted ` +
        'band',
      why: 'Such a surface has no outside to turn to, so half of it is always invisible.',
      mend: { step: 'two-sided', label: 'Make two-sided', parameters: {} },
    },
  ]
}
