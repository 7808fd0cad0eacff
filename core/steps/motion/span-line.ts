import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { cleanName, uniqueName } from '../../game/clean-name.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import { hangingLine } from '../../geometry/shapes/hanging-line.ts'
import { flatSection, roundSection, sweep, type Section } from '../../geometry/shapes/sweep.ts'
import { itemScene, listSceneNodes } from '../../item/parts.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import type { Vector3 } from '../../maths/vectors.ts'
import { factorOfHex } from '../../pictures/srgb.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'
import { materialInItem } from '../item-names.ts'
import { defineStep, type StepSummary } from '../step.ts'

const parameters = z.object({
  name: z.string().max(200),
  /** The places that it goes through, in the scene: two or more. */
  places: z.array(z.array(z.number()).length(3)).max(32),
  /** How much longer it is than the straight way, in percent; 0 is taut. */
  slackPercent: z.number().min(0).max(300),
  section: z.enum(['round', 'flat', 'drawn']),
  /** Across a round one, or wide; in game units. */
  width: z.number().positive().max(1000),
  /** Of a flat one. */
  thickness: z.number().positive().max(1000),
  sides: z.number().int().min(3).max(64),
  /** Its corners across, to the right and up, in shares of the width. */
  drawn: z.array(z.array(z.number().min(-10).max(10)).length(2)).max(64),
  closed: z.boolean(),
  /** Rings between two places. */
  rings: z.number().int().min(1).max(500),
  /** The material that it gets; a new one where the item has none of that name. */
  material: materialInItem,
  colour: z.string().regex(/^#[0-9a-f]{6}$/i),
})
type Parameters = z.infer<typeof parameters>

/** A line, strap, cable or strip of cloth between places of the yard, mapped and ready to be held by bones. */
export const spanLine = defineStep<Parameters>({
  id: 'span-line',
  version: 1,
  stage: 'motion',
  title: 'Span a line',
  purpose:
    'Makes a line, strap or strip of cloth between two or more places: hanging or taut, round, flat or drawn, ' +
    'mapped and ringed so that it can bend.',
  parameters,
  fields: ({ document, rulebook }) => {
    const unit = rulebook.space.unit.plural
    const names = materialsOf(document).map((material) => baseNameOf(material, rulebook))
    return [
      { type: 'text', key: 'name', label: 'Name' },
      { type: 'points', key: 'places', label: 'Through', count: 32, unit },
      {
        type: 'number',
        key: 'slackPercent',
        label: 'Longer by',
        unit: '%',
        least: 0,
        most: 50,
        step: 0.5,
        slider: true,
      },
      {
        type: 'choice',
        key: 'section',
        label: 'Across it is',
        options: [
          { value: 'round', label: 'round' },
          { value: 'flat', label: 'flat' },
          { value: 'drawn', label: 'drawn' },
        ],
      },
      { type: 'number', key: 'width', label: 'Width', unit, least: 0.01, most: 50, step: 0.01 },
      {
        type: 'number',
        key: 'thickness',
        label: 'Thickness',
        unit,
        least: 0.01,
        most: 50,
        step: 0.01,
        when: { key: 'section', is: ['flat'] },
      },
      {
        type: 'number',
        key: 'sides',
        label: 'Sides',
        unit: 'round it',
        least: 3,
        most: 24,
        step: 1,
        slider: true,
        when: { key: 'section', is: ['round'] },
      },
      { type: 'outline', key: 'drawn', label: 'Drawn across', when: { key: 'section', is: ['drawn'] } },
      { type: 'toggle', key: 'closed', label: 'Closed round', when: { key: 'section', is: ['drawn'] } },
      {
        type: 'number',
        key: 'rings',
        label: 'Rings',
        unit: 'between places',
        least: 1,
        most: 120,
        step: 1,
        slider: true,
      },
      {
        type: 'choice',
        key: 'material',
        label: 'Material',
        options: [{ value: '', label: 'one of its own' }, ...names.map((name) => ({ value: name, label: name }))],
      },
      { type: 'colour', key: 'colour', label: 'Colour', when: { key: 'material', is: [''] } },
    ]
  },
  defaults: ({ rulebook: { space } }) => ({
    name: 'line',
    places: [],
    slackPercent: 4,
    section: 'round',
    width: Number((space.figure.height * 0.02).toPrecision(2)),
    thickness: Number((space.figure.height * 0.006).toPrecision(2)),
    sides: 6,
    drawn: FOLDS,
    closed: false,
    rings: 12,
    material: '',
    colour: '#8a7350',
  }),
  propose: () => [],
  async run({ document, rulebook, parameters: chosen }): Promise<StepSummary> {
    const places = chosen.places as Vector3[]
    if (places.length < 2) return nothing('Click the places between which it goes: two or more.')
    const section = sectionOf(chosen)
    if (section.outline.length < (section.closed ? 3 : 2))
      return nothing(`Draw at least ${section.closed ? 'three points' : 'two points'} across.`)
    const line = places
      .slice(1)
      .flatMap((to, number) =>
        hangingLine(places[number], to, chosen.slackPercent / 100, chosen.rings).slice(number === 0 ? 0 : 1),
      )
    const length = line.slice(1).reduce((sum, at, number) => sum + apart(at, line[number]), 0)
    if (length < rulebook.space.smallestDrawn)
      return nothing('Its places are all in one spot; click places that lie apart.')
    const { positions, normals, uvs, indices } = sweep(section, line)
    const primitive = document.createPrimitive().setMaterial(materialFor(document, chosen, rulebook))
    writeAttribute(document, primitive, 'POSITION', positions, 3)
    writeAttribute(document, primitive, 'NORMAL', normals, 3)
    writeAttribute(document, primitive, 'TEXCOORD_0', uvs, 2)
    writeIndices(document, primitive, indices, positions.length / 3)
    const taken = new Set(listSceneNodes(document).map((node) => node.getName()))
    const name = uniqueName(rulebook, cleanName(rulebook, chosen.name, 'line'), taken)
    itemScene(document).addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)))
    const unit = rulebook.space.unit.plural
    const lowest = Math.min(...line.map(([, y]) => y))
    const sag = Math.min(...places.map(([, y]) => y)) - lowest
    return {
      headline: `+${formatCount(indices.length / 3)}`,
      details: [
        `${name} is ${formatLength(length)} ${unit} long, with ${plural(line.length, 'ring')} and ` +
          `${plural(indices.length / 3, 'triangle')}.`,
        ...(sag > 0.005 ? [`It hangs ${formatLength(sag)} ${unit} below the lowest of its places.`] : []),
      ],
      changed: true,
    }
  },
})

/** What is drawn at first: the folds of a strip of cloth. */
const FOLDS: [number, number][] = [
  [-0.5, 0],
  [-0.3, 0.06],
  [-0.1, -0.06],
  [0.1, 0.06],
  [0.3, -0.06],
  [0.5, 0],
]

function sectionOf({ section, width, thickness, sides, drawn, closed }: Parameters): Section {
  if (section === 'round') return roundSection(width, sides)
  if (section === 'flat') return flatSection(width, thickness)
  return { outline: drawn.map(([x, y]): [number, number] => [x * width, y * width]), closed, smooth: true }
}

const materialsOf = (document: Document): Material[] =>
  document
    .getRoot()
    .listMaterials()
    .filter((material) => material.listParents().some(({ propertyType }) => propertyType === 'Primitive'))

function materialFor(document: Document, { material, name, colour }: Parameters, rulebook: Rulebook): Material {
  const found = materialsOf(document).find((each) => material !== '' && baseNameOf(each, rulebook) === material)
  if (found) return found
  const [red, green, blue] = factorOfHex(colour)
  return document
    .createMaterial(cleanName(rulebook, name, 'line'))
    .setBaseColorFactor([red, green, blue, 1])
    .setRoughnessFactor(0.85)
    .setMetallicFactor(0)
}

const apart = (a: Vector3, b: Vector3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

const nothing = (reason: string): StepSummary => ({ headline: 'no line', details: [reason], changed: false })
