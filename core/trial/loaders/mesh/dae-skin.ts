import { multiply } from '../../matrices.ts'
import type { LoadedPrimitive } from './read-primitive.ts'
import { every, numbersIn, within, type XmlNode } from './xml-tree.ts'

/** Which bones hold a geometry (COLLADA 1.4.1, chapter 4, “Skin a skeleton”). */
export interface DaeSkin {
  /** The geometry it holds, as a reference. */
  source: string
  /** How the file calls each bone. */
  bones: string[]
  /** From the mesh to each bone at rest, column-major. */
  binds: number[][]
  /** For each place of the geometry: bone numbers and weights, in turn. */
  held: number[][]
}

/** Finds what a reference points to. */
type Find = (url: string | undefined) => XmlNode | undefined

/**
 * @throws Error with a short reason
 * @example const skin = readSkin(element, find, columnsOf)
 */
export function readSkin(skin: XmlNode, find: Find, columnsOf: (rows: readonly number[]) => number[]): DaeSkin {
  const inputsOf = (element: XmlNode | undefined, semantic: string) =>
    every(element, 'input').find((input) => input.attributes['semantic'] === semantic)
  const listOf = (input: XmlNode | undefined): XmlNode | undefined => {
    const source = find(input?.attributes['source'])
    return find(within(source, 'technique_common', 'accessor')?.attributes['source'])
  }
  const joints = within(skin, 'joints')
  const names =
    listOf(inputsOf(joints, 'JOINT'))
      ?.text.split(/\s+/)
      .filter((word) => word !== '') ?? []
  const inverse = numbersIn(listOf(inputsOf(joints, 'INV_BIND_MATRIX')))
  if (inverse.length !== names.length * 16) throw new Error('a bone without its rest')
  const shape = within(skin, 'bind_shape_matrix')
  const bindShape = shape ? columnsOf(numbersIn(shape)) : null
  const binds = names.map((_, bone) => {
    const bind = columnsOf(inverse.slice(bone * 16, bone * 16 + 16))
    return bindShape ? multiply(bind, bindShape) : bind
  })
  return { source: skin.attributes['source'] ?? '', bones: names, binds, held: heldPlaces(skin, listOf, names.length) }
}

function heldPlaces(
  skin: XmlNode,
  listOf: (input: XmlNode | undefined) => XmlNode | undefined,
  bones: number,
): number[][] {
  const told = within(skin, 'vertex_weights')
  const inputs = every(told, 'input')
  const [joint, weight] = ['JOINT', 'WEIGHT'].map((semantic) =>
    inputs.find(({ attributes }) => attributes['semantic'] === semantic),
  )
  const weights = numbersIn(listOf(weight))
  const counts = numbersIn(within(told, 'vcount'))
  const pairs = numbersIn(within(told, 'v'))
  const stride = Math.max(...inputs.map(({ attributes }) => Number(attributes['offset'] ?? 0))) + 1
  const [boneAt, weightAt] = [joint, weight].map((input) => Number(input?.attributes['offset'] ?? 0))
  if (pairs.length !== counts.reduce((sum, count) => sum + count, 0) * stride)
    throw new Error('corners with more or fewer bones than they say')
  let at = 0
  return counts.map((count) => {
    const row: number[] = []
    for (let each = 0; each < count; each++, at += stride) {
      const [bone, share] = [pairs[at + boneAt], weights[pairs[at + weightAt]]]
      if (!(bone >= 0 && bone < bones) || share === undefined)
        throw new Error('a corner held by a bone that is not there')
      row.push(bone, share)
    }
    return row
  })
}

/**
 * A surface with what holds each of its corners.
 * @param placeOf which place of the geometry each corner is
 *
 * @example primitives.push(heldBy(primitive, placeOf, skin))
 */
export function heldBy(primitive: LoadedPrimitive, placeOf: readonly number[], { held }: DaeSkin): LoadedPrimitive {
  const most = placeOf.reduce((longest, place) => Math.max(longest, (held[place]?.length ?? 0) / 2), 1)
  const influences = Array.from({ length: Math.ceil(most / 4) }, () => ({
    bones: new Float32Array(placeOf.length * 4),
    weights: new Float32Array(placeOf.length * 4),
  }))
  placeOf.forEach((place, corner) => {
    const row = held[place]
    if (!row) throw new Error('a corner that no weights are told of')
    for (let each = 0; each < row.length / 2; each++) {
      const { bones, weights } = influences[each >> 2]
      bones[corner * 4 + (each & 3)] = row[each * 2]
      weights[corner * 4 + (each & 3)] = row[each * 2 + 1]
    }
  })
  return { ...primitive, influences }
}
