import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import { getMaterialExtras } from '../document/extras.ts'
import { listAllParts, listUsedMaterials } from '../document/parts.ts'
import { readPrimitive, writeAttribute } from '../document/primitive-arrays.ts'
import type { Kind, Rulebook } from '../rulebook/schema.ts'
import { presentMaps } from '../rulebook/shading.ts'
import type { Pixels } from '../texture/pixels.ts'
import { addTexture, baseNameOf, srgbBytes } from './map-pixels.ts'
import { defineStep, plural } from './step.ts'
import { guessSurface } from './tag-materials.ts'

const parameters = z.object({
  /** Surface kinds stay apart: each keeps a material of its own. */
  bySurface: z.boolean(),
  cellPixels: z.number().int().min(2).max(64),
})
type Parameters = z.infer<typeof parameters>

/** One small texture for everything that has only a plain colour. */
export const plainColours = defineStep<Parameters>({
  id: 'plain-colours',
  version: 1,
  stage: 'surface',
  title: 'Palette',
  purpose: 'Gathers plain colours in one small texture, one cell each, so far apart that they do not mix in the mipmaps that are used; parts without a material get one.',
  parameters,
  fields: () => [
    { type: 'toggle', key: 'bySurface', label: 'One material for each surface kind' },
    { type: 'choice', key: 'cellPixels', label: 'A cell', options: [4, 8, 16, 32].map((side) => ({ value: side, label: `${side} × ${side} pixels` })) },
  ],
  defaults: ({ document, rulebook, kind }) => ({ bySurface: fitsApart(document, rulebook, kind), cellPixels: 8 }),
  propose(context) {
    const { document, kind } = context
    if (kind.mesh === null || kind.mesh.losesUVs) return []
    const plain = plainMaterials(document)
    const bare = partsWithoutMaterial(document)
    if (plain.length === 0 && bare.length === 0) return []
    const said = [plain.length > 0 ? `${plural(plain.length, 'material')} ${plain.length === 1 ? 'has' : 'have'} a plain colour and no map` : '', bare.length > 0 ? `${bare.join(', ')} ${bare.length === 1 ? 'has' : 'have'} no material` : ''].filter((each) => each !== '')
    return [{ parameters: this.defaults(context) as Parameters, reason: `${said.join('; ')}. The game shows nothing without a colour map.` }]
  },
  async run({ document, rulebook, parameters: { bySurface, cellPixels } }) {
    giveMaterials(document)
    const plain = plainMaterials(document)
    if (plain.length === 0) return { headline: 'none', details: ['Every material has a map.'], changed: false }
    const colours = [...new Set(plain.map((material) => colourKey(material)))]
    const across = Math.max(1, Math.ceil(Math.sqrt(colours.length)))
    const side = Math.max(rulebook.maps.smallestPixels, 2 ** Math.ceil(Math.log2(across * cellPixels)))
    const pixels = paintCells(colours, across, side)
    const texture = addTexture(document, 'palette', 'colour', pixels, 'palette of plain colours')
    const groups = groupBySurface(plain, rulebook, bySurface)
    const details = [`${plural(colours.length, 'colour')} in one texture of ${side} × ${side} pixels.`]
    for (const [name, members] of groups) {
      const target = members[0]
      const cells = members.map((material) => cellCentre(colours.indexOf(colourKey(material)), across))
      members.forEach((material, index) => {
        placeOnCell(document, material, cells[index])
        if (material !== target) replaceMaterial(document, material, target)
      })
      target.setName(name).setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, target.getBaseColorFactor()[3]])
      details.push(`${name}: ${plural(members.length, 'material')}.`)
    }
    return { headline: `${plain.length} → ${groups.size}`, details, changed: true }
  },
})

/** Materials with no map at all, found or awaited. */
const plainMaterials = (document: Document): Material[] =>
  listUsedMaterials(document).filter((material) => presentMaps(material).length === 0 && !getMaterialExtras(material).references.some((reference) => reference.role === 'colour' && reference.found === null))

const partsWithoutMaterial = (document: Document): string[] =>
  listAllParts(document).filter((part) => part.extras.role !== 'solid' && part.mesh.listPrimitives().some((primitive) => !primitive.getMaterial())).map((part) => part.name)

const UNPAINTED: [number, number, number, number] = [0.6, 0.6, 0.6, 1]

function giveMaterials(document: Document): void {
  let made: Material | null = null
  for (const part of listAllParts(document)) {
    if (part.extras.role === 'solid') continue
    for (const primitive of part.mesh.listPrimitives()) if (!primitive.getMaterial()) primitive.setMaterial((made ??= document.createMaterial(part.name).setBaseColorFactor(UNPAINTED).setRoughnessFactor(0.8).setMetallicFactor(0)))
  }
}

const colourKey = (material: Material): string => [...srgbBytes(material.getBaseColorFactor()), Math.round(material.getBaseColorFactor()[3] * 255)].join(' ')

function paintCells(colours: readonly string[], across: number, side: number): Pixels {
  const data = new Uint8Array(side * side * 4)
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const cell = Math.floor((y * across) / side) * across + Math.floor((x * across) / side)
      data.set(colours[Math.min(cell, colours.length - 1)].split(' ').map(Number), (y * side + x) * 4)
    }
  }
  return { width: side, height: side, data }
}

const cellCentre = (cell: number, across: number): [number, number] => [((cell % across) + 0.5) / across, (Math.floor(cell / across) + 0.5) / across]

/** All corners of a material's surfaces lie in the middle of its cell. */
function placeOnCell(document: Document, material: Material, [u, v]: [number, number]): void {
  for (const part of listAllParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      if (primitive.getMaterial() !== material) continue
      const corners = readPrimitive(primitive).positions.length / 3
      writeAttribute(document, primitive, 'TEXCOORD_0', Float32Array.from({ length: corners * 2 }, (_, at) => (at % 2 === 0 ? u : v)), 2)
    }
  }
}

function replaceMaterial(document: Document, from: Material, to: Material): void {
  for (const part of listAllParts(document)) for (const primitive of part.mesh.listPrimitives()) if (primitive.getMaterial() === from) primitive.setMaterial(to)
  if (from.getDoubleSided()) to.setDoubleSided(true)
  from.dispose()
}

function groupBySurface(plain: readonly Material[], rulebook: Rulebook, bySurface: boolean): Map<string, Material[]> {
  if (!bySurface) return new Map([[plain.length === 1 ? plain[0].getName() : 'palette', [...plain]]])
  const groups = new Map<string, Material[]>()
  for (const material of plain) {
    const name = `palette_${guessSurface(baseNameOf(material, rulebook), rulebook)}`
    groups.set(name, [...(groups.get(name) ?? []), material])
  }
  return new Map([...groups].map(([name, members]) => [members.length === 1 ? members[0].getName() : name, members]))
}

/** Whether a material for each surface kind leaves the item within its number of materials. */
function fitsApart(document: Document, rulebook: Rulebook, _kind: Kind): boolean {
  const plain = plainMaterials(document)
  return listUsedMaterials(document).length - plain.length + groupBySurface(plain, rulebook, true).size <= rulebook.materials.largestCount
}
