import { append, emptyMesh, type PolygonMesh } from './solid-shapes.ts'
import { box } from './glb-shapes.ts'
import { hull } from './ferry-shapes.ts'

/** Seven materials where the game takes four: nobody joined them. */
const materials = ['Hull paint', 'Hull below water', 'Deck boards', 'Fender rope', 'Brass', 'Stem iron', 'Rudder']

interface Part {
  name: string
  mesh: PolygonMesh
  /** Material of each face. */
  materialOf: (face: number) => number
}

const inches = (metres: number): number => metres / 0.0254

function parts(): Part[] {
  const body = hull(7.2, 2.4, 1.3, 36)
  const scaled = emptyMesh()
  append(scaled, body, ([x, y, z]) => [inches(x), inches(y), inches(z)])
  const block = (
    x: number,
    y: number,
    z: number,
    cells: [number, number, number],
    [px, py, pz]: [number, number, number],
  ): PolygonMesh => {
    const mesh = emptyMesh()
    append(mesh, box(inches(x), inches(y), inches(z), cells), ([a, b, c]) => [
      a + inches(px),
      b + inches(py),
      c + inches(pz),
    ])
    return mesh
  }
  const lowest = (face: number): number =>
    Math.min(...scaled.faces[face].points.map((point) => scaled.points[point][2]))
  return [
    { name: 'Hull', mesh: scaled, materialOf: (face) => (lowest(face) < inches(0.55) ? 1 : 0) },
    { name: 'Deck', mesh: block(1.7, 5.2, 0.06, [6, 14, 1], [0, -0.3, 0.95]), materialOf: () => 2 },
    { name: 'Fender port', mesh: block(0.14, 4.2, 0.14, [2, 12, 2], [-1.16, 0, 1.02]), materialOf: () => 3 },
    { name: 'Fender starboard', mesh: block(0.14, 4.2, 0.14, [2, 12, 2], [1.16, 0, 1.02]), materialOf: () => 3 },
    { name: 'Cleat', mesh: block(0.1, 0.3, 0.1, [1, 2, 1], [0, 2.3, 1.02]), materialOf: () => 4 },
    { name: 'Stem', mesh: block(0.08, 0.1, 1.4, [1, 1, 6], [0, 3.5, 0]), materialOf: () => 5 },
    { name: 'Rudder', mesh: block(0.05, 0.5, 0.9, [1, 2, 3], [0, -3.7, 0]), materialOf: () => 6 },
  ]
}

const id = (name: string): string => name.replace(/\W+/g, '_')
const list = (values: readonly number[]): string => values.map((value) => Number(value.toFixed(4))).join(' ')

function geometry({ name, mesh, materialOf }: Part): string {
  const source = (kind: string, values: number[], params: string[]): string =>
    `<source id="${id(name)}-${kind}"><float_array id="${id(name)}-${kind}-array" ` +
    `count="${values.length}">${list(values)}</float_array><technique_common><accessor ` +
    `source="#${id(name)}-${kind}-array" count="${values.length / params.length}" ` +
    `stride="${params.length}">${params.map((param) => `<param name="${param}" type="float"/>`).join('')}</accessor></technique_common></source>`
  const used = [...new Set(mesh.faces.map((_, face) => materialOf(face)))]
  const lists = used.map((material) => {
    const faces = mesh.faces.filter((_, face) => materialOf(face) === material)
    return (
      `<polylist material="m${material}" count="${faces.length}"><input semantic="VERTEX" ` +
      `source="#${id(name)}-vertices" offset="0"/><input semantic="TEXCOORD" source="#${id(name)}-map" offset="1" ` +
      `set="0"/><vcount>${faces.map((face) => face.points.length).join(' ')}</vcount><p>${faces.flatMap((face) => face.points.map((point, corner) => `${point} ${face.uvs[corner]}`)).join(' ')}</p></polylist>`
    )
  })
  return (
    `<geometry id="${id(name)}-mesh" ` +
    `name="${name}"><mesh>${source('positions', mesh.points.flat(), ['X', 'Y', 'Z'])}${source('map', mesh.uvs.flat(), ['S', 'T'])}<vertices id="${id(name)}-vertices"><input semantic="POSITION" source="#${id(name)}-positions"/></vertices>${lists.join('')}</mesh></geometry>`
  )
}

const textures: Record<number, string> = {
  0: 'file:///D:/Edda/lake%20mod/textures/hull_paint.png',
  2: './deck%20boards.png',
}
const colours = [
  '0.15 0.32 0.3',
  '0.45 0.16 0.13',
  '0.5 0.38 0.25',
  '0.6 0.52 0.36',
  '0.75 0.6 0.25',
  '0.2 0.2 0.22',
  '0.3 0.22 0.15',
]

/**
 * The Ferry hull: COLLADA in inches, Z up, seven materials, textures on someone's disk, a camera and an empty left
 * inside.
 */
export function ferryHullDae(): string {
  const all = parts()
  const images = Object.entries(textures)
    .map(([index, path]) => `<image id="i${index}"><init_from>${path}</init_from></image>`)
    .join('')
  const effects = materials
    .map((_, index) => {
      const diffuse =
        textures[index] === undefined
          ? `<color>${colours[index]} 1</color>`
          : `<texture texture="s${index}" texcoord="UV"/>`
      const parameters =
        textures[index] === undefined
          ? ''
          : `<newparam sid="f${index}"><surface ` +
            `type="2D"><init_from>i${index}</init_from></surface></newparam><newparam ` +
            `sid="s${index}"><sampler2D><source>f${index}</source></sampler2D></newparam>`
      return (
        `<effect id="e${index}"><profile_COMMON>${parameters}<technique ` +
        `sid="common"><lambert><diffuse>${diffuse}</diffuse></lambert></technique></profile_COMMON></effect>`
      )
    })
    .join('')
  const nodes = all.map(
    (part) =>
      `<node id="${id(part.name)}" name="${part.name}"><instance_geometry ` +
      `url="#${id(part.name)}-mesh"><bind_material><technique_common>${materials.map((_, index) => `<instance_material symbol="m${index}" target="#material${index}"/>`).join('')}</technique_common></bind_material></instance_geometry></node>`,
  )
  return `<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit name="inch" meter="0.0254"/><up_axis>Z_UP</up_axis></asset>
<library_cameras><camera id="view"><optics><technique_common><perspective><yfov>40</yfov><znear>1</znear><zfar>1000</zfar></perspective></technique_common></optics></camera></library_cameras>
<library_images>${images}</library_images>
<library_effects>${effects}</library_effects>
<library_materials>${materials.map((name, index) => `<material id="material${index}" name="${name}"><instance_effect url="#e${index}"/></material>`).join('')}</library_materials>
<library_geometries>
${all.map(geometry).join('\n')}
</library_geometries>
<library_visual_scenes><visual_scene id="scene">
${nodes.join('\n')}
<node id="Camera" name="Camera"><translate>0 -500 200</translate><instance_camera url="#view"/></node>
<node id="Target" name="Target"><translate>0 0 40</translate></node>
</visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#scene"/></scene>
</COLLADA>
`
}
