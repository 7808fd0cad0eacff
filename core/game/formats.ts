import type { Rulebook } from './schema.ts'

type Files = Rulebook['files']

/** Texture files that hold blocks as the card reads them; the others hold plain pixels. */
const blockWriters: readonly Files['texture']['writer'][] = ['dds', 'ktx2']

/**
 * Whether a game's maps are block-compressed on the way, rather than written as pixels.
 * @example if (readsBlocks(rulebook)) await compress(texture)
 */
export const readsBlocks = ({ files }: Pick<Rulebook, 'files'>): boolean => blockWriters.includes(files.texture.writer)

/** What a mesh format holds beside triangles, normals, UVs and materials' names. */
export interface MeshCarries {
  normals: boolean
  uvs: boolean
  tangents: boolean
  bones: boolean
  lights: boolean
  /**
   * Nodes under nodes, with what each says of itself, and how they move; what is not held stands in the item's entry.
   */
  tree: boolean
  /** Motion as turns from key to key; otherwise as matrices, which need keys in between. */
  turnsOverTime: boolean
}

const whole: MeshCarries = {
  normals: true,
  uvs: true,
  tangents: true,
  bones: true,
  lights: true,
  tree: true,
  turnsOverTime: true,
}
const bare: MeshCarries = { ...whole, tangents: false, bones: false, lights: false, tree: false }
const bareTree: MeshCarries = { ...bare, bones: true, tree: true, turnsOverTime: false }
const facesAlone: MeshCarries = { ...bare, normals: false, uvs: false }

const carries: Record<Files['mesh']['writer'], MeshCarries> = {
  glb: whole,
  gltf: whole,
  obj: bare,
  dae: bareTree,
  'part-list': facesAlone,
}

/**
 * What the mesh files of a writer can hold.
 * @example carriedBy('obj').bones // false
 */
export const carriedBy = (writer: Files['mesh']['writer']): MeshCarries => carries[writer]
