import type { SourceFile } from '../../intake/source-file.ts'
import { bytes3ds, chunk3ds, sheetFbx } from '../binary-files.ts'
import { traitFiles } from '../faithful/traits.ts'
import { movingSheets } from '../faithful/trait-sheets.ts'
import { demoSources } from '../sources.ts'
import { text, type Seed } from './seeds.ts'

/** A GLB as a glTF whose data stands in it. */
function asGltf(path: string, glb: Uint8Array): SourceFile {
  const view = new DataView(glb.buffer, glb.byteOffset)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as { buffers: { uri?: string }[] }
  json.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(glb.subarray(28 + length)).toString('base64')}`
  return text(path, JSON.stringify(json))
}

const glbs = (): SourceFile[] =>
  traitFiles().flatMap(({ files }) =>
    [...files].filter(([path]) => path.endsWith('.glb')).map(([path, bytes]) => ({ path, bytes })),
  )

export const glbSeeds = (): Seed[] => glbs().map((file) => [file])

export const gltfSeeds = (): Seed[] => [
  ...glbs()
    .slice(0, 8)
    .map(({ path, bytes }) => [asGltf(path.replace('.glb', '.gltf'), bytes)]),
  [asGltf('moving.gltf', movingSheets())],
]

export const objSeeds = (): Seed[] => {
  const hat = demoSources('rain_hat')
  const mesh = hat.filter(({ path }) => path.endsWith('_worn.obj'))
  return [
    [...mesh, ...hat.filter(({ path }) => path.endsWith('.mtl'))],
    [
      text(
        'plank.obj',
        'mtllib plank.mtl\no plank\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nvt 0 0\nvt 1 0\nvt 1 1\nvn 0 0 ' +
          '1\ng a b\nusemtl oak\ns 1\nf 1/1/1 2/2/1 3/3/1 4/1/1\nf -1//1 -2//1 -3//1\nl 1 2\n',
      ),
      text('plank.mtl', 'newmtl oak\nKd 1 0.5 0.2\nd 0.5\nmap_Kd -s 1 2 oak.png\nmap_Bump -bm 0.3 oak_n.png\n'),
    ],
  ]
}

/** The material file is what is changed; the mesh that asks for it is read. */
export const mtlSeeds = (): Seed[] => objSeeds().map(([mesh, material]) => [material, mesh])

export const fbxSeeds = (): Seed[] => [
  demoSources('galley_stove').filter(({ path }) => path.endsWith('.fbx')),
  [{ path: 'sheet.fbx', bytes: sheetFbx() }],
  [
    text(
      'sheet.fbx',
      '; FBX 7.4.0 project file\nFBXHeaderExtension:  {\n\tFBXVersion: 7400\n}\nGlobalSettings:  ' +
        '{\n\tProperties70:  {\n\t\tP: "UpAxis", "int", "Integer", "",2\n\t\tP: "UnitScaleFactor", "double", ' +
        '"Number", "",2.5\n\t}\n}\nObjects:  {\n\tGeometry: 10, "Geometry::Sheet", "Mesh" {\n\t\tVertices: *12 ' +
        '{\n\t\t\ta: 0,0,0,1,0,0,1,1,0,0,1,0\n\t\t}\n\t\tPolygonVertexIndex: *4 {\n\t\t\ta: ' +
        '0,1,2,-4\n\t\t}\n\t\tLayerElementUV: 0 {\n\t\t\tMappingInformationType: ' +
        '"ByPolygonVertex"\n\t\t\tReferenceInformationType: "Direct"\n\t\t\tUV: *8 {\n\t\t\t\ta: ' +
        '0,0,1,0,1,1,0,1\n\t\t\t}\n\t\t}\n\t}\n\tModel: 20, "Model::Sheet", "Mesh" {\n\t\tProperties70:  ' +
        '{\n\t\t\tP: "Lcl Translation", "Lcl Translation", "", "A",1,2,3\n\t\t}\n\t}\n}\nConnections:  {\n\tC: ' +
        '"OO",10,20\n\tC: "OO",20,0\n}\n',
    ),
  ],
]

export const colladaSeeds = (): Seed[] => [
  demoSources('ferry_hull').filter(({ path }) => path.endsWith('.dae')),
  [
    text(
      'sheet.dae',
      '<?xml version="1.0"?><COLLADA version="1.4.1"><asset><unit meter="0.01" ' +
        'name="cm"/><up_axis>Z_UP</up_axis></asset><library_geometries><geometry id="g" name="sheet"><mesh><source ' +
        'id="p"><float_array id="pa" count="12">0 0 0 1 0 0 1 1 0 0 1 0</float_array><technique_common><accessor ' +
        'source="#pa" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param ' +
        'name="Z" type="float"/></accessor></technique_common></source><vertices id="v"><input semantic="POSITION" ' +
        'source="#p"/></vertices><polylist count="1"><input semantic="VERTEX" source="#v" ' +
        'offset="0"/><vcount>4</vcount><p>0 1 2 ' +
        '3</p></polylist></mesh></geometry></library_geometries><library_visual_scenes><visual_scene id="s"><node ' +
        'id="n" name="sheet"><matrix>1 0 0 0 0 1 0 0 0 0 1 0 0 0 0 1</matrix><instance_geometry ' +
        'url="#g"/></node></visual_scene></library_visual_scenes><scene><instance_visual_scene ' +
        'url="#s"/></scene></COLLADA>',
    ),
  ],
]

export const file3dsSeeds = (): Seed[] => {
  const { name, u16, floats } = bytes3ds
  const mesh = chunk3ds(
    0x4100,
    chunk3ds(0x4110, u16(3), floats(0, 0, 0, 1, 0, 0, 0, 1, 0)),
    chunk3ds(0x4140, u16(3), floats(0, 0, 1, 0, 0, 1)),
    chunk3ds(0x4120, u16(1), [0, 1, 2, 0].flatMap(u16), chunk3ds(0x4130, name('oak'), u16(1), u16(0))),
  )
  const material = chunk3ds(0xafff, chunk3ds(0xa000, name('oak')), chunk3ds(0xa200, chunk3ds(0xa300, name('oak.png'))))
  const main = chunk3ds(0x4d4d, chunk3ds(0x3d3d, material, chunk3ds(0x4000, name('Sheet'), mesh)))
  return [[{ path: 'sheet.3ds', bytes: Uint8Array.from(main) }]]
}

export const stlSeeds = (): Seed[] => [
  demoSources('channel_buoy'),
  [
    text(
      'plate.stl',
      'solid plate\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 0 3 ' +
        '0\nendloop\nendfacet\nendsolid plate\n',
    ),
  ],
]

export const plySeeds = (): Seed[] => {
  const head = (format: string) =>
    `ply\nformat ${format} 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float ` +
    `z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 2\nproperty list uchar int ` +
    `vertex_indices\nend_header\n`
  const body = new Uint8Array(4 * 15 + 2 * 13)
  const view = new DataView(body.buffer)
  for (const [corner, [x, y]] of [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ].entries()) {
    // prettier-ignore
    view.setFloat32(corner * 15, x, true)
    view.setFloat32(corner * 15 + 4, y, true)
  }
  for (const [face, corners] of [
    [0, 1, 2],
    [0, 2, 3],
  ].entries()) {
    // prettier-ignore
    view.setUint8(60 + face * 13, 3)
    for (const [at, corner] of corners.entries()) view.setInt32(61 + face * 13 + at * 4, corner, true)
  }
  const binary = new TextEncoder().encode(head('binary_little_endian'))
  return [
    [{ path: 'sheet.ply', bytes: Uint8Array.from([...binary, ...body]) }],
    [text('sheet.ply', `${head('ascii')}0 0 0 255 0 0\n1 0 0 0 255 0\n1 1 0 0 0 255\n0 1 0 9 9 9\n3 0 1 2\n3 0 2 3\n`)],
  ]
}
