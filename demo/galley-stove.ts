import { box, flatNormal } from './glb-shapes.ts'
import { append, emptyMesh, turned, type PolygonMesh } from './solid-shapes.ts'

interface Part {
  name: string
  mesh: PolygonMesh
  material: number
  /** Scaling of the model, as left by whoever resized it. */
  scaling: number
}

const materials: { name: string; colour: [number, number, number]; texture?: string }[] = [
  { name: 'Cast iron', colour: [0.13, 0.13, 0.14], texture: 'C:\\Users\\edda\\Desktop\\stove\\cast iron.png' },
  { name: 'Enamel', colour: [0.32, 0.45, 0.38] },
  { name: 'Brass rail', colour: [0.7, 0.55, 0.22] },
  { name: 'Ember glow', colour: [0.9, 0.35, 0.1] },
]

function moved(mesh: PolygonMesh, x: number, y: number, z: number): PolygonMesh {
  const copy = emptyMesh()
  append(copy, mesh, ([a, b, c]) => [a + x, c + z, -(b + y)])
  return copy
}

/** Centimetres, Y up. */
const parts = (): Part[] => [
  { name: 'Stove body', mesh: moved(box(70, 55, 60, [5, 4, 4]), 0, 0, 20), material: 0, scaling: 1 },
  { name: 'Stove top', mesh: moved(box(78, 62, 4, [5, 4, 1]), 0, 0, 80), material: 1, scaling: 1 },
  { name: 'Fire door', mesh: moved(box(30, 3, 26, [3, 1, 3]), 0, -29, 34), material: 3, scaling: 1 },
  {
    name: 'Flue',
    mesh: moved(
      turned(
        [
          [9, 0],
          [9, 60],
          [8, 90],
        ],
        18,
        [2, 1],
      ),
      20,
      15,
      84,
    ),
    material: 0,
    scaling: 1,
  },
  { name: 'Rail', mesh: moved(box(0.8, 0.02, 0.02, [8, 1, 1]), 0, -0.33, 0.76), material: 2, scaling: 100 },
  ...[
    [-30, -22],
    [30, -22],
    [-30, 22],
    [30, 22],
  ].map(([x, y], index): Part => ({
    name: `Leg ${index + 1}`,
    mesh: moved(box(8, 8, 20), x, y, 0),
    material: 0,
    scaling: 1,
  })),
]

const list = (values: readonly number[]): string =>
  `*${values.length} {\n\t\t\ta: ${values.map((value) => Number(value.toFixed(5))).join(',')}\n\t\t}`

function geometryNode({ name, mesh }: Part, id: number): string {
  const corners = mesh.faces.flatMap(({ points }) =>
    points.map((point, index) => (index === points.length - 1 ? -point - 1 : point)),
  )
  // Someone flipped the faces of one half after the normals were made: they point behind it.
  const normals = mesh.faces.flatMap((face, number) =>
    face.points.flatMap(() => flatNormal(mesh, face.points).map((value) => (number % 2 === 0 ? -value : value))),
  )
  const uvs = mesh.faces.flatMap((face) => face.uvs.flatMap((uv) => mesh.uvs[uv]))
  return `	Geometry: ${id}, "Geometry::${name}", "Mesh" {
		Vertices: ${list(mesh.points.flat())}
		PolygonVertexIndex: ${list(corners)}
		LayerElementNormal: 0 {
			MappingInformationType: "ByPolygonVertex"
			ReferenceInformationType: "Direct"
			Normals: ${list(normals)}
		}
		LayerElementUV: 0 {
			MappingInformationType: "ByPolygonVertex"
			ReferenceInformationType: "Direct"
			UV: ${list(uvs)}
		}
		LayerElementMaterial: 0 {
			MappingInformationType: "AllSame"
			ReferenceInformationType: "IndexToDirect"
			Materials: *1 {
				a: 0
			}
		}
	}`
}

/** The Galley stove: text FBX in centimetres, Y up; normals broken, four materials, one part scaled a hundredfold. */
export function stoveFbx(): string {
  const all = parts()
  const objects = all.flatMap((part, index) => [
    geometryNode(part, 1000 + index),
    `	Model: ${2000 + index}, "Model::${part.name}", "Mesh" {
		Properties70:  {
			P: "Lcl Scaling", "Lcl Scaling", "", "A",${part.scaling},${part.scaling},${part.scaling}
		}
	}`,
  ])
  const materialNodes = materials.map(
    ({ name, colour }, index) => `	Material: ${3000 + index}, "Material::${name}", "" {
		ShadingModel: "phong"
		Properties70:  {
			P: "DiffuseColor", "Color", "", "A",${colour.join(',')}
		}
	}`,
  )
  const textured = materials.flatMap((material, index) => (material.texture ? [{ index, path: material.texture }] : []))
  const textureNodes = textured.map(
    ({ index, path }) => `	Texture: ${4000 + index}, "Texture::cast iron", "" {
		FileName: "${path}"
		RelativeFilename: "..\\stove\\cast iron.png"
	}`,
  )
  const lamp = `	Model: 5000, "Model::Work lamp", "Light" {
		Properties70:  {
			P: "Lcl Translation", "Lcl Translation", "", "A",120,180,90
		}
	}
	NodeAttribute: 5001, "NodeAttribute::Work lamp", "Light" {
		Properties70:  {
			P: "LightType", "enum", "", "",0
			P: "Intensity", "Number", "", "A",100
		}
	}`
  const links = [
    ...all.flatMap((part, index) => [
      `	C: "OO",${1000 + index},${2000 + index}`,
      `	C: "OO",${2000 + index},0`,
      `	C: "OO",${3000 + part.material},${2000 + index}`,
    ]),
    ...textured.map(({ index }) => `	C: "OP",${4000 + index},${3000 + index}, "DiffuseColor"`),
    '	C: "OO",5000,0',
    '	C: "OO",5001,5000',
  ]
  return `; FBX 7.4.0 project file
FBXHeaderExtension:  {
	FBXHeaderVersion: 1003
	FBXVersion: 7400
}
GlobalSettings:  {
	Version: 1000
	Properties70:  {
		P: "UpAxis", "int", "Integer", "",1
		P: "UpAxisSign", "int", "Integer", "",1
		P: "FrontAxis", "int", "Integer", "",2
		P: "FrontAxisSign", "int", "Integer", "",1
		P: "UnitScaleFactor", "double", "Number", "",1
	}
}
Objects:  {
${[...objects, ...materialNodes, ...textureNodes, lamp].join('\n')}
}
Connections:  {
${links.join('\n')}
}
`
}
