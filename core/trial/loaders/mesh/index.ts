import type { Rulebook } from '../../../game/schema.ts'
import { loadDae } from './dae.ts'
import { loadGlb } from './glb.ts'
import { loadGltf } from './gltf.ts'
import type { MeshLoader } from './loaded-mesh.ts'
import { loadObj } from './obj.ts'
import { loadPartList } from './part-list.ts'

/** A loader for every mesh format that is written, each of its own. */
export const meshLoaders: Record<Rulebook['files']['mesh']['writer'], MeshLoader> = {
  dae: loadDae,
  glb: loadGlb,
  gltf: loadGltf,
  obj: loadObj,
  'part-list': loadPartList,
}
