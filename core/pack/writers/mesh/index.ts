import type { Rulebook } from '../../../game/schema.ts'
import { writeDae } from './dae.ts'
import { writeGlb } from './glb.ts'
import { writeGltf } from './gltf.ts'
import type { MeshWriter } from './mesh-writer.ts'
import { writeObj } from './obj.ts'
import { writePartList } from './part-list.ts'

/** Every mesh format that is written. */
export const meshWriters: Record<Rulebook['files']['mesh']['writer'], MeshWriter> = {
  dae: writeDae,
  glb: writeGlb,
  gltf: writeGltf,
  obj: writeObj,
  'part-list': writePartList,
}
