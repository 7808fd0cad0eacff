import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { noteGivenUp } from '../../item/given-up.ts'
import { freeName } from '../../item/name-apart.ts'
import { listViewParts } from '../../item/parts.ts'
import { isIdentity } from '../../maths/axes.ts'
import { triangleAreas } from '../../geometry/surface/sample-surface.ts'
import { unpaintedMaterial } from '../../operations/maps/unpainted.ts'
import {
  gatherTriangles,
  putTrays,
  trianglesOfSurfaces,
  type ItemSurface,
  type Tray,
} from '../../operations/meshes/trays.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const waysToSort = ['part-and-material', 'material', 'part'] as const
const parameters = z.object({
  by: z.enum(waysToSort),
  most: z.number().int().min(1).max(10_000),
})
type Parameters = z.infer<typeof parameters>

/** Sorts all triangles into trays, each with one finish. */
export const sortIntoTrays = defineStep<Parameters>({
  id: 'sort-into-trays',
  version: 1,
  stage: 'mesh',
  title: 'Sort into trays',
  purpose: 'Sorts everything into trays, each with one finish: by part, by material, or by both.',
  parameters,
  fields: () => [
    {
      type: 'choice',
      key: 'by',
      label: 'A tray for each',
      options: [
        { value: 'part-and-material', label: 'material of each part' },
        { value: 'material', label: 'material' },
        { value: 'part', label: 'part' },
      ],
    },
    { type: 'number', key: 'most', label: 'At most', unit: 'trays', least: 1, most: 1000, step: 1 },
  ],
  defaults: ({ document, rulebook }) => {
    const most = rulebook.halfBlocks?.mostTrays ?? 1000
    const by = waysToSort.find((way) => countTrays(document, way) <= most) ?? 'material'
    return { by, most }
  },
  propose(context) {
    const { document, rulebook } = context
    if (!rulebook.halfBlocks) return []
    const parts = listViewParts(document)
    const mixed = parts.filter(({ mesh }) => mesh.listPrimitives().length !== 1)
    const bare = parts.filter(({ mesh }) => mesh.listPrimitives().some((surface) => !surface.getMaterial()))
    const many = parts.length > rulebook.halfBlocks.mostTrays
    if (mixed.length === 0 && bare.length === 0 && !many) return []
    return [
      {
        parameters: this.defaults(context) as Parameters,
        reason: many
          ? `${plural(parts.length, 'part')}; the game has ${plural(rulebook.halfBlocks.mostTrays, 'tray')} an item.`
          : `${[...new Set([...mixed, ...bare])]
              .map(({ name }) => name)
              .slice(0, 4)
              .join(', ')}: a tray has one finish.`,
      },
    ]
  },
  async run({ document, parameters: { by, most } }) {
    const gathered = gatherTriangles(document)
    const areas = new Float64Array(gathered.surfaces.length)
    triangleAreas(gathered.positions, gathered.indices).forEach(
      (area, triangle) => (areas[gathered.surfaceOfTriangle[triangle]] += area),
    )
    const surfaces = withMaterials(document, gathered.surfaces)
    const groups = fewer(groupsOf(surfaces, areas, by), most)
    const taken = new Set<string>()
    const trays = groups.flatMap((group) => {
      const own = new Set(group.surfaces)
      const triangles = trianglesOfSurfaces(gathered, (surface) => own.has(surface))
      if (triangles.indices.length === 0) return []
      const name = freeName(group.name, taken)
      taken.add(name)
      return [{ name, material: group.material, ...triangles }]
    })
    for (const group of groups) {
      const others = [...new Set(group.surfaces.map((surface) => surfaces[surface].material))].filter(
        (material) => material !== group.material,
      )
      for (const other of others)
        noteGivenUp(document, {
          what: 'A finish of its own',
          where: `${group.name} ${other.getName()}`,
          message: `What was ${other.getName()} lies in the tray ${group.name} and shows ${group.material.getName()}`,
          why: 'A tray has one finish, and the game has so many trays.',
        })
    }
    const changed = !areTrays(document, trays)
    putTrays(document, trays)
    return {
      headline: plural(trays.length, 'tray'),
      details: trays.map(({ name, material }) => `${name} shows ${material.getName()}.`),
      changed,
    }
  },
})

/** Whether the parts are these trays as they stand: in place, nothing beside them, each with its one surface. */
function areTrays(document: Document, trays: readonly Tray[]): boolean {
  const parts = listViewParts(document)
  return (
    document.getRoot().listNodes().length === trays.length &&
    parts.length === trays.length &&
    parts.every(({ name, node, mesh }, number) => {
      const [surface, ...others] = mesh.listPrimitives()
      return (
        name === trays[number].name &&
        others.length === 0 &&
        surface.getMaterial() === trays[number].material &&
        isIdentity(node.getWorldMatrix())
      )
    })
  )
}

interface Group {
  name: string
  material: Material
  surfaces: number[]
  area: number
}

function countTrays(document: Document, by: Parameters['by']): number {
  const { surfaces } = gatherTriangles(document)
  return new Set(surfaces.map((surface) => keyOf(surface, by))).size
}

const materialName = (material: Material | null): string => material?.getName() ?? ''
const keyOf = ({ part, material }: ItemSurface, by: Parameters['by']): string =>
  by === 'part' ? part : by === 'material' ? materialName(material) : `${part}\n${materialName(material)}`

type Shown = ItemSurface & { material: Material }

function withMaterials(document: Document, surfaces: readonly ItemSurface[]): Shown[] {
  let made: Material | null = null
  return surfaces.map(({ part, material }) => ({
    part,
    material: material ?? (made ??= unpaintedMaterial(document, part)),
  }))
}

/** Groups of surfaces, each with the material that covers most of it. */
function groupsOf(surfaces: readonly Shown[], areas: Float64Array, by: Parameters['by']): Group[] {
  const groups = new Map<string, number[]>()
  surfaces.forEach((surface, number) => {
    const key = keyOf(surface, by)
    const known = groups.get(key)
    if (known) known.push(number)
    else groups.set(key, [number])
  })
  const ofPart = new Map<string, number>()
  for (const [first] of groups.values()) ofPart.set(surfaces[first].part, (ofPart.get(surfaces[first].part) ?? 0) + 1)
  return [...groups.values()].map((own): Group => {
    const largest = own.reduce((best, each) => (areas[each] > areas[best] ? each : best))
    const { part, material } = surfaces[largest]
    const name =
      by === 'material'
        ? material.getName()
        : by === 'part-and-material' && (ofPart.get(part) ?? 0) > 1
          ? `${part} ${material.getName()}`
          : part
    return { name, material, surfaces: own, area: own.reduce((sum, each) => sum + areas[each], 0) }
  })
}

/** While there are too many, the smallest joins the one whose colour is nearest. */
function fewer(groups: Group[], most: number): Group[] {
  const left = [...groups].sort((a, b) => b.area - a.area)
  while (left.length > most) {
    const smallest = left.pop() as Group
    const nearest = left.reduce((best, each) =>
      colourDistance(each.material, smallest.material) < colourDistance(best.material, smallest.material) ? each : best,
    )
    nearest.surfaces.push(...smallest.surfaces)
    nearest.area += smallest.area
  }
  return groups.filter((group) => left.includes(group))
}

const colourDistance = (a: Material, b: Material): number =>
  a === b ? -1 : Math.hypot(...[0, 1, 2].map((axis) => a.getBaseColorFactor()[axis] - b.getBaseColorFactor()[axis]))
