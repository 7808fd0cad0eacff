import {
  sheetFile,
  matte,
  moved,
  uses,
  glb,
  clear,
  metalRough,
  shade,
  light,
  bands,
  plainBoxes,
  instancedSheet,
  morphedSheet,
  movingSheets,
  objFile,
  type TraitFile,
} from './trait-sheets.ts'

/** Every trait that was lost once, and some that never were. */
export const traitFiles = (): TraitFile[] => [
  glb('plain-texture', sheetFile({ material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte } } })),
  glb(
    'tint',
    sheetFile({
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, baseColorFactor: [0.9, 0.4, 0.2, 1], ...matte },
      },
    }),
  ),
  glb(
    'moved-texture',
    sheetFile({
      material: {
        pbrMetallicRoughness: {
          baseColorTexture: moved({ offset: [0.2, 0.1], scale: [0.6, 0.6], rotation: 0.4 }),
          ...matte,
        },
      },
      extensionsUsed: uses,
    }),
  ),
  glb(
    'second-set',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0, texCoord: 1 }, ...matte } },
      second: (uvs) => uvs.map((value) => 1 - value * 0.8),
    }),
  ),
  glb(
    'corner-colours',
    sheetFile({ images: [], material: { pbrMetallicRoughness: matte }, colours: (u, v) => [u, v, 0.3, 1] }),
  ),
  glb(
    'corner-colours-on-texture',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte } },
      colours: (u) => [1 - u * 0.7, 1, 0.5 + u * 0.5, 1],
    }),
  ),
  glb(
    'metal-rough-map',
    sheetFile({
      images: [bands, metalRough],
      material: {
        pbrMetallicRoughness: {
          baseColorTexture: { index: 0 },
          metallicRoughnessTexture: { index: 1 },
          metallicFactor: 0.8,
          roughnessFactor: 0.6,
        },
      },
    }),
  ),
  glb(
    'metal-rough-factors',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, metallicFactor: 0.7, roughnessFactor: 0.3 } },
    }),
  ),
  glb(
    'occlusion-strength',
    sheetFile({
      images: [bands, shade],
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte },
        occlusionTexture: { index: 1, strength: 0.5 },
      },
    }),
  ),
  glb(
    'occlusion-on-own-set',
    sheetFile({
      images: [bands, shade],
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte },
        occlusionTexture: { index: 1, texCoord: 1 },
      },
      second: (uvs) => uvs.map((value, at) => (at % 2 === 0 ? 1 - value : value)),
    }),
  ),
  glb(
    'glow-map',
    sheetFile({
      images: [bands, light],
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte },
        emissiveTexture: { index: 1 },
        emissiveFactor: [1, 1, 1],
      },
    }),
  ),
  glb(
    'unlit',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 } }, extensions: { KHR_materials_unlit: {} } },
      extensionsUsed: ['KHR_materials_unlit'],
    }),
  ),
  glb(
    'mirrored-wrapping',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte } },
      samplers: [{ wrapS: 33648, wrapT: 33648 }],
      uvs: (uvs) => uvs.map((value) => value * 3 - 1),
    }),
  ),
  glb(
    'clamped-wrapping',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte } },
      samplers: [{ wrapS: 33071, wrapT: 33071 }],
      uvs: (uvs) => uvs.map((value) => value * 2 - 0.5),
    }),
  ),
  glb(
    'cut-off',
    sheetFile({
      images: [clear],
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte },
        alphaMode: 'MASK',
        alphaCutoff: 0.25,
        doubleSided: true,
      },
    }),
  ),
  glb(
    'blended',
    sheetFile({
      images: [clear],
      material: {
        pbrMetallicRoughness: { baseColorTexture: { index: 0 }, baseColorFactor: [1, 1, 1, 0.6], ...matte },
        alphaMode: 'BLEND',
        doubleSided: true,
      },
    }),
  ),
  glb(
    'mirrored-node',
    sheetFile({
      material: { pbrMetallicRoughness: { baseColorTexture: { index: 0 }, ...matte } },
      node: { scale: [-1, 1.5, 1], rotation: [0, 0.3826834, 0, 0.9238795] },
    }),
  ),
  glb('two-plain-glowing', plainBoxes()),
  glb('instances', instancedSheet()),
  glb('morphed', morphedSheet()),
  glb('moving-parts', movingSheets()),
  objFile('mtl-scale-offset', 'map_Kd -s 2 3 1 -o 0.25 0.1 0 bands.png'),
  objFile('mtl-tint', 'Kd 0.5 0.9 0.4\nmap_Kd bands.png'),
]
