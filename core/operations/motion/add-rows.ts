import type { Accessor, Document, Mesh, Primitive } from '@gltf-transform/core'
import { splitEdges } from '../../geometry/mesh/split-edges.ts'
import {
  copyRow,
  emptyTable,
  SLOTS,
  weightOfBone,
  WeightGatherer,
  type WeightTable,
} from '../../geometry/skin/weight-table.ts'
import { smoothWeights } from '../../geometry/skin/smooth-weights.ts'
import { POLYGON_ATTRIBUTE } from '../../item/polygons.ts'
import type { Part } from '../../item/parts.ts'
import { accessorToFloats, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { breaksOf } from './measure-bend.ts'
import { heldPlaces, meshSoup, readHeldMesh, writeWeights, type HeldMesh } from './skin.ts'

/** Between two corners whose weights differ by less than this a new one would change nothing. */
const LEAST_DIFFERENCE = 0.1

/** A reach shorter than any edge: each corner goes halfway to its neighbours, once. */
const ONE_STEP = 1e-6

/**
 * Splits, in the middle, the edges at which a held mesh breaks by more than `mostDegrees` and whose ends follow their
 * bones differently; the rest shape stays where it is, values at new corners are those in between.
 * @param room how many triangles may be added
 * @returns how many were added; 0 where nothing breaks, or the room does not suffice
 *
 * @example const added = addRows(document, part, mesh, 30, 200)
 */
export function addRows(document: Document, part: Part, mesh: Mesh, mostDegrees: number, room: number): number {
  const held = readHeldMesh(part)
  if (!held) return 0
  const { over } = breaksOf(held, mostDegrees)
  if (over.length === 0) return 0
  const marks = new Uint8Array(held.indices.length / 3)
  for (const pair of over) for (const triangle of pair) marks[triangle] = 1
  const breaking = new Set<string>()
  const name = (a: number, b: number): string => placeKey(held, a, b)
  held.indices.forEach((corner, at) => {
    if (marks[Math.floor(at / 3)] === 0) return
    const next = held.indices[at % 3 === 2 ? at - 2 : at + 1]
    if (differenceOf(held.table, corner, next) >= LEAST_DIFFERENCE) breaking.add(name(corner, next))
  })
  const split = splitEdges(held.positions, held.indices, (a, b) => breaking.has(name(a, b)))
  const added = (split.indices.length - held.indices.length) / 3
  if (added === 0 || added > room) return 0
  writeSplit(document, mesh, held, split)
  return added
}

/**
 * Spreads weights over the new rows by one step, where that makes the bend rounder.
 * @example spreadOnce(document, part, mesh)
 */
export function spreadOnce(document: Document, part: Part, mesh: Mesh): void {
  const held = readHeldMesh(part)
  if (!held) return
  const places = heldPlaces(part, held)
  const table = smoothWeights(places, held.indices, held.table, { reach: ONE_STEP, amount: 1 })
  if (breaksOf({ ...held, table }).worstDegrees < breaksOf(held).worstDegrees) writeWeights(document, mesh, table)
}

/** The same edge has the same name on both sides of a seam. */
function placeKey({ positions }: HeldMesh, a: number, b: number): string {
  const [first, second] = [a, b].map((corner) => positions.subarray(corner * 3, corner * 3 + 3).join())
  return first < second ? `${first} ${second}` : `${second} ${first}`
}

/** How much of two corners different bones hold: 0 where both follow the same, 1 where they have no bone in common. */
function differenceOf(table: WeightTable, a: number, b: number): number {
  let shared = 0
  for (let slot = a * SLOTS; slot < (a + 1) * SLOTS; slot++)
    if (table.weightOf[slot] > 0) shared += Math.min(table.weightOf[slot], weightOfBone(table, b, table.boneOf[slot]))
  return 1 - shared
}

function writeSplit(document: Document, mesh: Mesh, held: HeldMesh, split: ReturnType<typeof splitEdges>): void {
  const { firstCorner } = meshSoup(mesh)
  const corners = held.positions.length / 3
  const surfaceOf = (corner: number): number => firstCorner.findIndex((first) => corner < first) - 1
  const added = mesh.listPrimitives().map((): number[] => [])
  const placeInSurface = split.between.map(([a], number) => {
    const surface = surfaceOf(a)
    added[surface].push(number)
    return firstCorner[surface + 1] - firstCorner[surface] + added[surface].length - 1
  })
  const lists = mesh.listPrimitives().map((): number[] => [])
  for (let at = 0; at < split.indices.length; at += 3) {
    const surface = surfaceOf(held.indices[split.fromTriangle[at / 3] * 3])
    for (let corner = at; corner < at + 3; corner++) {
      const index = split.indices[corner]
      lists[surface].push(index < corners ? index - firstCorner[surface] : placeInSurface[index - corners])
    }
  }
  mesh.listPrimitives().forEach((primitive, surface) => {
    const first = firstCorner[surface]
    const between = added[surface].map((number) => split.between[number].map((corner) => corner - first))
    addCorners(document, primitive, between)
    writeIndices(
      document,
      primitive,
      Uint32Array.from(lists[surface]),
      firstCorner[surface + 1] - first + between.length,
    )
  })
  writeWeights(document, mesh, tableWithAdded(held.table, firstCorner, added, split.between))
}

/**
 * Rows of all corners in their new order, surface by surface: those that were there, then those halfway between two.
 */
function tableWithAdded(
  table: WeightTable,
  firstCorner: readonly number[],
  added: readonly (readonly number[])[],
  between: readonly (readonly [number, number])[],
): WeightTable {
  const made = emptyTable(table.corners + between.length, table.bones)
  const gather = new WeightGatherer(table.bones)
  let next = 0
  added.forEach((numbers, surface) => {
    for (let corner = firstCorner[surface]; corner < firstCorner[surface + 1]; corner++)
      copyRow(table, corner, made, next++)
    for (const number of numbers) {
      for (const corner of between[number]) gather.addRow(table, corner, 0.5)
      gather.store(made, next++)
    }
  })
  return made
}

/** Adds a corner halfway between each pair, with every value halfway as well. */
function addCorners(document: Document, primitive: Primitive, between: readonly number[][]): void {
  primitive.setAttribute(POLYGON_ATTRIBUTE, null)
  for (const holder of [primitive, ...primitive.listTargets()])
    for (const semantic of holder.listSemantics()) {
      if (/^(JOINTS|WEIGHTS)_/.test(semantic)) continue
      const accessor = holder.getAttribute(semantic) as Accessor
      const size = accessor.getElementSize() as 1 | 2 | 3 | 4
      const made = halfway(accessorToFloats(accessor), size, between)
      if (semantic === 'NORMAL' || semantic === 'TANGENT') makeUnit(made, size, made.length / size - between.length)
      if (holder === primitive) writeAttribute(document, primitive, semantic, made, size)
      else holder.setAttribute(semantic, accessor.clone().setArray(made).setNormalized(false))
    }
}

function halfway(values: Float32Array, size: number, between: readonly number[][]): Float32Array<ArrayBuffer> {
  const made = new Float32Array(values.length + between.length * size)
  made.set(values)
  between.forEach(([a, b], number) => {
    for (let axis = 0; axis < size; axis++)
      made[values.length + number * size + axis] = (values[a * size + axis] + values[b * size + axis]) / 2
  })
  return made
}

function makeUnit(values: Float32Array, size: number, from: number): void {
  for (let at = from * size; at < values.length; at += size) {
    const long = Math.hypot(values[at], values[at + 1], values[at + 2])
    if (long > 0) for (let axis = 0; axis < 3; axis++) values[at + axis] /= long
    // A tangent's fourth number is a hand: 1 or −1.
    if (size === 4) values[at + 3] = values[at + 3] < 0 ? -1 : 1
  }
}
