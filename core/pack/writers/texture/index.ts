import type { Rulebook } from '../../../game/schema.ts'
import { writeDdsMap } from './dds.ts'
import { writeKtx2Map } from './ktx2.ts'
import { writePngMap } from './png.ts'
import type { TextureWriter } from './texture-writer.ts'
import { writeTgaMap } from './tga.ts'

/** Every texture format that is written. */
export const textureWriters: Record<Rulebook['files']['texture']['writer'], TextureWriter> = {
  dds: writeDdsMap,
  ktx2: writeKtx2Map,
  tga: writeTgaMap,
  png: writePngMap,
}
