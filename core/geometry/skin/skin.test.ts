import { describe, expect, it } from 'vitest'
import { rotationMatrix } from '../../maths/matrices.ts'
import { splitEdges } from '../mesh/split-edges.ts'
import { bendBreaks } from './bend-angles.ts'
import { fewerBones, limitWeights, renumberBones } from './limit-weights.ts'
import { largestShift, skinPoints, type BoneMatrices } from './skin-points.ts'
import { smoothWeights } from './smooth-weights.ts'
import { mirrorWeights, nearestBones, weightsFrom } from './take-weights.ts'
import { emptyTable, holdByOne, sameRow, SLOTS, weightOfBone, weightSum, WeightGatherer } from './weight-table.ts'

/** A flat strip along X, `columns` squares long and two wide, `seam` corners doubled at the middle column. */
function strip(columns: number, seam = false) {
  const places: number[] = []
  const indices: number[] = []
  const corner = (x: number, z: number): number => {
    places.push(x, 0, z)
    return places.length / 3 - 1
  }
  const first = Array.from({ length: columns + 1 }, (_, x) => [0, 1, 2].map((z) => corner(x, z)))
  const second = first.map((column, x) => (seam && x === columns / 2 ? [0, 1, 2].map((z) => corner(x, z)) : column))
  for (let x = 0; x < columns; x++)
    for (let z = 0; z < 2; z++) {
      const [a, b, c, d] = [second[x][z], first[x + 1][z], first[x + 1][z + 1], second[x][z + 1]]
      indices.push(a, c, b, a, d, c)
    }
  return { positions: Float32Array.from(places), indices: Uint32Array.from(indices) }
}

/** What lies left of a border follows bone 0, the rest bone 1. */
function halves(positions: Float32Array, border: number) {
  const table = emptyTable(positions.length / 3, 2)
  for (let corner = 0; corner < table.corners; corner++)
    holdByOne(table, corner, positions[corner * 3] < border ? 0 : 1)
  return table
}

/** Bone 0 at rest, bone 1 turned about an axis through a place on X. */
function poseOf(angleDegrees: number, at = 0): BoneMatrices {
  const turned = rotationMatrix(0, 0, 1, (angleDegrees * Math.PI) / 180)
  turned[12] = at - turned[0] * at
  turned[13] = -turned[1] * at
  return Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, ...turned])
}

const random = (seed: number): (() => number) => {
  let state = seed
  return () => ((state = Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32
}

describe('smoothing weights', () => {
  const mesh = strip(40, true)
  const hard = halves(mesh.positions, 20)
  const soft = smoothWeights(mesh.positions, mesh.indices, hard, { reach: 4, amount: 1 })

  it('keeps every sum at 1', () => {
    for (let corner = 0; corner < soft.corners; corner++) expect(weightSum(soft, corner)).toBeCloseTo(1, 6)
  })

  it('leaves what is further off than the reach exactly as it was, and changes what is near', () => {
    let changed = 0
    for (let corner = 0; corner < soft.corners; corner++) {
      const far = Math.abs(mesh.positions[corner * 3] - 19.5) > 5
      if (far) expect(sameRow(hard, corner, soft, corner)).toBe(true)
      else if (!sameRow(hard, corner, soft, corner)) changed++
    }
    expect(changed).toBeGreaterThan(20)
  })

  it('keeps corners of a seam together, and goes evenly from one bone to the other', () => {
    const along = Array.from({ length: 41 }, (_, x) =>
      [...Array(soft.corners).keys()].filter((corner) => mesh.positions[corner * 3] === x),
    )
    for (const corners of along)
      for (const corner of corners) {
        const twin = corners.find(
          (other) => other !== corner && mesh.positions[other * 3 + 2] === mesh.positions[corner * 3 + 2],
        )
        if (twin !== undefined) expect(sameRow(soft, corner, soft, twin)).toBe(true)
      }
    const shares = along.map(([corner]) => weightOfBone(soft, corner, 1))
    for (let x = 1; x < shares.length; x++) expect(shares[x]).toBeGreaterThanOrEqual(shares[x - 1])
    expect(shares[19]).toBeGreaterThan(0.2)
    expect(shares[20]).toBeLessThan(0.8)
  })

  it('takes as much of it as is asked', () => {
    const half = smoothWeights(mesh.positions, mesh.indices, hard, { reach: 4, amount: 0.5 })
    const corner = 19 * 3
    expect(weightOfBone(half, corner, 1)).toBeCloseTo(weightOfBone(soft, corner, 1) / 2, 5)
  })
})

describe('limiting weights', () => {
  const corners = 300
  const bones = 9
  const next = random(7)
  const positions = Float32Array.from({ length: corners * 3 }, () => next() * 4 - 2)
  const table = emptyTable(corners, bones)
  const gather = new WeightGatherer(bones)
  for (let corner = 0; corner < corners; corner++) {
    for (let bone = 0; bone < bones; bone++) gather.add(bone, next() ** 4)
    gather.store(table, corner)
  }
  const poses = Array.from({ length: 12 }, () => {
    const matrices = new Float64Array(bones * 16)
    for (let bone = 0; bone < bones; bone++) {
      const m = rotationMatrix(next() - 0.5, next() - 0.5, next() - 0.5, next() * 2)
      m[12] = next()
      matrices.set(m, bone * 16)
    }
    return matrices
  })

  it('keeps the strongest, sums to 1, and states the true largest shift over the poses', () => {
    const limited = limitWeights(table, { influences: 3, least: 0 })
    let largest = 0
    for (const pose of poses) {
      const [before, after] = [skinPoints(positions, table, pose), skinPoints(positions, limited, pose)]
      for (let corner = 0; corner < corners; corner++)
        largest = Math.max(
          largest,
          Math.hypot(...[0, 1, 2].map((axis) => before[corner * 3 + axis] - after[corner * 3 + axis])),
        )
    }
    expect(largest).toBeGreaterThan(0.1)
    expect(largestShift(positions, table, limited, poses).distance).toBeCloseTo(largest, 5)
    for (let corner = 0; corner < corners; corner++) {
      const row = [...limited.weightOf.subarray(corner * SLOTS, corner * SLOTS + SLOTS)]
      expect(row.filter((weight) => weight > 0).length).toBeLessThanOrEqual(3)
      expect(row.reduce((sum, weight) => sum + weight)).toBeCloseTo(1, 6)
      expect(limited.boneOf[corner * SLOTS]).toBe(table.boneOf[corner * SLOTS])
    }
  })

  it('leaves out what hardly holds', () => {
    const one = emptyTable(1, 3)
    one.weightOf.set([0.97, 0.02, 0.01])
    one.boneOf.set([2, 0, 1])
    const limited = limitWeights(one, { influences: 4, least: 0.015 })
    expect([...limited.weightOf.subarray(0, 3)].map((weight) => Number(weight.toFixed(4)))).toEqual([0.9798, 0.0202, 0])
  })

  it('gives what bones too many hold to those above them', () => {
    const chain = emptyTable(6, 4)
    ;[0, 0, 1, 1, 1, 3].forEach((bone, corner) => holdByOne(chain, corner, bone))
    const takers = fewerBones(chain, [-1, 0, 1, 2], 2)
    expect(takers).toEqual([0, 1, 1, 1])
    expect(weightOfBone(renumberBones(chain, takers, 4), 5, 1)).toBe(1)
  })
})

describe('weights from elsewhere', () => {
  const body = strip(10)
  const table = smoothWeights(body.positions, body.indices, halves(body.positions, 5), { reach: 3, amount: 1 })

  it('are those of the body on a copy that is lifted off it', () => {
    const lifted = body.positions.map((value, at) => (at % 3 === 1 ? value + 0.05 : value))
    const taken = weightsFrom(lifted, { ...body, table })
    for (let corner = 0; corner < table.corners; corner++)
      for (const bone of [0, 1])
        expect(weightOfBone(taken, corner, bone)).toBeCloseTo(weightOfBone(table, corner, bone), 3)
  })

  it('lie between those of the corners around a place inside a triangle', () => {
    const taken = weightsFrom(Float32Array.from([4.5, 1, 0.25]), { ...body, table })
    const [left, right] = [weightOfBone(table, 4 * 3, 1), weightOfBone(table, 5 * 3, 1)]
    expect(weightOfBone(taken, 0, 1)).toBeCloseTo((left + right) / 2, 2)
  })

  it('come from the nearest bone, in equal shares where two are equally near', () => {
    const post = (x: number) => ({
      positions: Float32Array.from([x, -1, 0, x, 1, 0, x, 1, 0.1]),
      indices: Uint32Array.from([0, 1, 2]),
    })
    const nearest = nearestBones(Float32Array.from([1, 0, 0, 9, 0, 0, 5, 0, 0]), [post(0), post(10)])
    expect([0, 1, 2].map((corner) => weightOfBone(nearest, corner, 1))).toEqual([0, 1, 0.5])
  })

  it('match on both sides after mirroring, with bones exchanged', () => {
    const next = random(3)
    const centred = { ...body, positions: body.positions.map((value, at) => (at % 3 === 0 ? value - 5 : value)) }
    const uneven = emptyTable(table.corners, 3)
    const gather = new WeightGatherer(3)
    for (let corner = 0; corner < uneven.corners; corner++) {
      for (const bone of [0, 1, 2]) gather.add(bone, next())
      gather.store(uneven, corner)
    }
    const exchanged = [1, 0, 2]
    const made = mirrorWeights({ ...centred, table: uneven }, 0, 1, exchanged, 1e-4)
    for (let x = 0; x <= 10; x++)
      for (let z = 0; z < 3; z++)
        for (const bone of [0, 1, 2]) {
          const own = weightOfBone(made, x * 3 + z, bone)
          expect(weightOfBone(made, (10 - x) * 3 + z, exchanged[bone])).toBeCloseTo(own, 4)
          if (x > 5) expect(own).toBeCloseTo(weightOfBone(uneven, x * 3 + z, bone), 6)
        }
  })
})

describe('a bend', () => {
  const mesh = strip(4)
  const hard = halves(mesh.positions, 2)

  it('breaks by the angle by which a bone is turned, along the line about which it turns', () => {
    const bent = skinPoints(mesh.positions, hard, poseOf(30, 2))
    const { worstDegrees, over } = bendBreaks(mesh, [bent], 25)
    expect(worstDegrees).toBeCloseTo(30, 3)
    expect(over.length).toBe(2)
    expect(bendBreaks(mesh, [mesh.positions], 1).worstDegrees).toBe(0)
  })
})

describe('splitting edges', () => {
  const area = ({ positions, indices }: { positions: Float32Array; indices: Uint32Array }): number => {
    let sum = 0
    for (let at = 0; at < indices.length; at += 3) {
      const [a, b, c] = [0, 1, 2].map((corner) => indices[at + corner] * 3)
      // All of the strip lies flat and looks up.
      sum +=
        ((positions[c] - positions[a]) * (positions[b + 2] - positions[a + 2]) -
          (positions[b] - positions[a]) * (positions[c + 2] - positions[a + 2])) /
        2
    }
    return sum
  }

  it.each([
    ['all', (): boolean => true, 4],
    ['none', (): boolean => false, 1],
    ['those along the strip', null, 2],
  ] as const)('%s: the surface stays, wound as it was, and no gap opens', (_, marked, times) => {
    const mesh = strip(4, true)
    const lengthways = (a: number, b: number): boolean => mesh.positions[a * 3] !== mesh.positions[b * 3]
    const split = splitEdges(mesh.positions, mesh.indices, marked ?? lengthways)
    const positions = new Float32Array(mesh.positions.length + split.between.length * 3)
    positions.set(mesh.positions)
    split.between.forEach(([a, b], number) => {
      for (let axis = 0; axis < 3; axis++)
        positions[mesh.positions.length + number * 3 + axis] =
          (mesh.positions[a * 3 + axis] + mesh.positions[b * 3 + axis]) / 2
    })
    const made = { positions, indices: split.indices }
    expect(area(made)).toBeCloseTo(area(mesh), 5)
    expect(made.indices.length).toBeGreaterThanOrEqual(mesh.indices.length * times)
    // No corner lies on another triangle’s edge: every place along the border of the strip is met by exactly the
    // edges that meet there, so that inner edges all have two triangles.
    const edges = new Map<string, number>()
    const place = (corner: number): string => positions.subarray(corner * 3, corner * 3 + 3).join()
    for (let at = 0; at < made.indices.length; at++) {
      const next = made.indices[at % 3 === 2 ? at - 2 : at + 1]
      const key = [place(made.indices[at]), place(next)].sort().join(' ')
      edges.set(key, (edges.get(key) ?? 0) + 1)
    }
    const onBorder = [...edges].filter(([, count]) => count === 1).map(([key]) => key)
    for (const key of onBorder) {
      const [a, b] = key.split(' ').map((each) => each.split(',').map(Number))
      expect(a[0] === b[0] ? [0, 4] : [0, 2]).toContain(a[0] === b[0] ? a[0] : a[2])
    }
  })
})
