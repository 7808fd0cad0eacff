import { hash } from './noise.ts'
import { plankColumns, stoneCells } from './paint.ts'
import {
  append,
  emptyMesh,
  extrude,
  gridBlock,
  roughen,
  rounded,
  turned,
  type Point,
  type PolygonMesh,
  type Uv,
} from './solid-shapes.ts'

/**
 * The Boathouse gate as a modder's program would write it: centimetres, Z up, front towards -Y,
 * with the faults of real files. The opening is 180 cm wide and 250 cm high.
 */
const opening = { halfWidth: 90, spring: 160 }
const outerRadius = 195
const depth = 90
const leafSwing = (78 * Math.PI) / 180

function stoneUv(stone: number) {
  return (side: number, s: number, t: number): Uv => {
    const cell = Math.floor(hash(stone, side) * stoneCells.columns * stoneCells.rows)
    const column = cell % stoneCells.columns
    const row = Math.floor(cell / stoneCells.columns)
    return [(column + s) / stoneCells.columns, (row + t) / stoneCells.rows]
  }
}

function stone(number: number, shape: (u: number, v: number, w: number) => Point): PolygonMesh {
  return gridBlock({
    cells: [10, 10, 10],
    at: (u, v, w) => roughen(shape(...rounded(u, v, w, 0.035)), 1.6, 0.06),
    uvAt: stoneUv(number),
  })
}

function archStone(): PolygonMesh {
  const mesh = emptyMesh()
  let number = 0
  const box = (x0: number, x1: number, z0: number, z1: number): void => {
    const proud = (hash(number, 5) - 0.5) * 8
    append(
      mesh,
      stone(number++, (u, v, w) => [x0 + (x1 - x0) * u, -depth / 2 + proud + depth * v, z0 + (z1 - z0) * w]),
    )
  }
  for (const side of [-1, 1]) {
    const inner = opening.halfWidth * side
    const outer = outerRadius * side
    const middle = (inner + outer) / 2 + 14 * side
    for (let course = 0; course < 4; course++) {
      const z0 = course * 40
      const cuts = course % 2 === 0 ? [inner, middle, outer] : [inner, outer]
      for (let cut = 0; cut + 1 < cuts.length; cut++)
        box(Math.min(cuts[cut], cuts[cut + 1]), Math.max(cuts[cut], cuts[cut + 1]), z0, z0 + 40)
    }
  }
  const voussoirs = 11
  for (let index = 0; index < voussoirs; index++) {
    const proud = (hash(index, 8) - 0.5) * 10
    const reach = outerRadius + (hash(index, 4) - 0.7) * 14 * (index === 5 ? 0 : 1)
    append(
      mesh,
      stone(number++, (u, v, w) => {
        const angle = Math.PI * (1 - (index + u) / voussoirs)
        const radius = opening.halfWidth + (reach - opening.halfWidth) * w
        return [Math.cos(angle) * radius, -depth / 2 + proud + depth * v, opening.spring + Math.sin(angle) * radius]
      }),
    )
  }
  return mesh
}

/** The right leaf shut: hinge at x = 90, free edge at x = 2. */
function shutLeaf(): { timber: PolygonMesh; iron: PolygonMesh } {
  const timber = emptyMesh()
  const iron = emptyMesh()
  const planks = 5
  const from = 2
  const width = (opening.halfWidth - 3 - from) / planks
  for (let plank = 0; plank < planks; plank++) {
    const x0 = from + plank * width
    const top = opening.spring + Math.sqrt(Math.max(0, 88 ** 2 - (x0 + width) ** 2)) - 2
    append(
      timber,
      gridBlock({
        cells: [4, 1, 40],
        at: (u, v, w) => roughen([x0 + 0.4 + (width - 0.8) * u, -4 + 8 * v, 3 + (top - 3) * w], 0.35, 0.08),
        uvAt: (side, s, t) => {
          const [across, along] = plankPlace(side, s, t)
          return [(plank + 0.04 + 0.92 * across) / plankColumns, along]
        },
      }),
    )
  }
  for (const z of [45, 150]) {
    const strap: [number, number][] = [
      [86, z - 4],
      [86, z + 4],
      [30, z + 4],
      [24, z + 8],
      [20, z + 3],
      [12, z],
      [20, z - 3],
      [24, z - 8],
      [30, z - 4],
    ]
    append(iron, extrude(strap, -6.2, -4.2, 1 / 40))
    for (const x of [80, 70, 60, 50, 40, 33]) {
      const nail = turned(
        [
          [1.9, 0],
          [1.7, 0.6],
          [1.1, 1.1],
          [0.3, 1.3],
        ],
        8,
        [1, 0.3],
      )
      append(iron, nail, ([px, py, pz]) => [x + px, -6 - pz, z + py])
    }
  }
  append(
    timber,
    gridBlock({
      cells: [8, 1, 2],
      at: (u, v, w) => [8 + 74 * u, 4 + 4 * v, 88 + 14 * w],
      uvAt: (_side, s, t) => [t / plankColumns, s],
    }),
  )
  return { timber, iron }
}

/** Where a corner of a plank's side lies across and along the painted plank. */
function plankPlace(side: number, s: number, t: number): [number, number] {
  if (side < 2) return [s * 0.1, t]
  if (side < 4) return [t, s]
  return [s, t * 0.05]
}

/** Swings the right leaf open about its hinge, towards the back. */
function swing([x, y, z]: Point): Point {
  const dx = x - opening.halfWidth
  return [
    opening.halfWidth - 4 + dx * Math.cos(leafSwing) + y * Math.sin(leafSwing),
    24 - dx * Math.sin(leafSwing) + y * Math.cos(leafSwing),
    z,
  ]
}

const mirror = ([x, y, z]: Point): Point => [-x, y, z]

function hingePins(): PolygonMesh {
  const mesh = emptyMesh()
  for (const side of [-1, 1]) {
    for (const z of [36, 141]) {
      append(
        mesh,
        turned(
          [
            [2.6, 0],
            [2.6, 17],
            [1.4, 19],
          ],
          24,
          [2, 1],
        ),
        ([x, y, h]) => [side * (opening.halfWidth - 5) + x, 22 + y, z + h],
      )
    }
  }
  return mesh
}

function groundShade(): PolygonMesh {
  const mesh = emptyMesh()
  mesh.points.push([-260, -150, -0.5], [260, -150, -0.5], [260, 150, -0.5], [-260, 150, -0.5])
  mesh.uvs.push([0, 0], [1, 0], [1, 1], [0, 1])
  mesh.faces.push({ points: [0, 1, 2, 3], uvs: [0, 1, 2, 3] })
  return mesh
}

interface NamedMesh {
  name: string
  groups: { material: string; mesh: PolygonMesh }[]
}

function gateObjects(): NamedMesh[] {
  const { timber, iron } = shutLeaf()
  const placed = (mesh: PolygonMesh, place: (point: Point) => Point): PolygonMesh => {
    const copy = emptyMesh()
    append(copy, mesh, place)
    return copy
  }
  const leaf = (place: (point: Point) => Point): NamedMesh['groups'] => [
    { material: 'Leaf timber', mesh: placed(timber, place) },
    { material: 'Iron strap', mesh: placed(iron, place) },
  ]
  return [
    { name: 'Arch stone.001', groups: [{ material: 'Gate Stone.001', mesh: archStone() }] },
    { name: 'Right leaf', groups: leaf(swing) },
    { name: 'Left leaf', groups: leaf((point) => mirror(swing(point))) },
    { name: 'Hinge pins', groups: [{ material: 'Iron strap', mesh: hingePins() }] },
    { name: 'Ground shade', groups: [{ material: 'Shade', mesh: groundShade() }] },
  ]
}

const digits = (value: number, places: number): string => String(Number(value.toFixed(places)))

/** The gate as OBJ text. */
export function gateObj(): string {
  const lines = ['# Boathouse gate, Otterby Landing', 'mtllib Boathouse gate.v2.mtl']
  let pointBase = 1
  let uvBase = 1
  for (const { name, groups } of gateObjects()) {
    lines.push(`o ${name}`)
    for (const { material, mesh } of groups) {
      for (const point of mesh.points) lines.push(`v ${point.map((value) => digits(value, 2)).join(' ')}`)
      const uvLine = new Map<string, number>()
      const uvIndex = mesh.uvs.map(([u, v]) => {
        const text = `vt ${digits(u, 4)} ${digits(v, 4)}`
        const known = uvLine.get(text)
        if (known !== undefined) return known
        uvLine.set(text, uvLine.size)
        lines.push(text)
        return uvLine.size - 1
      })
      lines.push(`usemtl ${material}`, 's 1')
      for (const face of mesh.faces)
        lines.push(
          `f ${face.points.map((point, corner) => `${point + pointBase}/${uvIndex[face.uvs[corner]] + uvBase}`).join(' ')}`,
        )
      pointBase += mesh.points.length
      uvBase += uvLine.size
    }
  }
  return `${lines.join('\n')}\n`
}

/** Its materials, with the texture paths of the modder's own disk. */
export function gateMtl(): string {
  const folder = 'D:\\Edda\\lake mod\\textures'
  return [
    'newmtl Gate Stone.001',
    'Kd 0.8 0.8 0.8',
    'Ns 20',
    `map_Kd ${folder}\\Gate Stone Albedo.jpg`,
    `map_Bump -bm 1.0 ${folder}\\gate stone_n.png`,
    '',
    'newmtl Leaf timber',
    'Kd 0.8 0.8 0.8',
    'Ns 30',
    `map_Kd ${folder}\\Timber leaf.v2.png`,
    '',
    'newmtl Iron strap',
    'Kd 0.5 0.5 0.5',
    'Ns 90',
    `map_Kd ${folder}\\IRON_strap.PNG`,
    '',
    'newmtl Shade',
    'Kd 0.05 0.05 0.05',
    'd 0.6',
    '',
  ].join('\n')
}
