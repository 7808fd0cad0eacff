import { turned, type PolygonMesh } from './solid-shapes.ts'

/** Centimetres, Y up: crown and brim of a rain hat. */
const lying: [number, number][] = [
  [25, 0],
  [22, 2],
  [13, 4],
  [12, 9],
  [9, 13],
  [3, 14],
]
const worn: [number, number][] = [
  [24, -3],
  [20, 0],
  [12, 3],
  [11.5, 10],
  [8.5, 14],
  [3, 15],
]

function objOf(mesh: PolygonMesh, name: string, material: string): string {
  const lines = [`mtllib rain_hat.mtl`, `o ${name}`]
  for (const [x, y, z] of mesh.points) lines.push(`v ${x.toFixed(3)} ${z.toFixed(3)} ${(-y).toFixed(3)}`)
  for (const [u, v] of mesh.uvs) lines.push(`vt ${u.toFixed(4)} ${v.toFixed(4)}`)
  lines.push(`usemtl ${material}`, 's 1')
  // The lower cap is left out: a hat is open below.
  for (const face of mesh.faces.filter(({ points }) => points.length === 4 || !points.includes(0)))
    lines.push(`f ${face.points.map((point, corner) => `${point + 1}/${face.uvs[corner] + 1}`).join(' ')}`)
  return `${lines.join('\n')}\n`
}

export const hatLyingObj = (): string => objOf(turned(lying, 24, [1, 0.2]), 'Rain hat lying', 'Hat oilskin')
export const hatWornObj = (): string => objOf(turned(worn, 24, [1, 0.2]), 'Rain hat worn', 'Hat oilskin old')

/** The worn model still asks for the picture of last year. */
export const hatMtl = (): string =>
  [
    'newmtl Hat oilskin',
    'Kd 1 1 1',
    'map_Kd oilskin_yellow.png',
    'newmtl Hat oilskin old',
    'Kd 1 1 1',
    'map_Kd oilskin_2025_old.png',
    '',
  ].join('\n')
