import type { Rulebook } from '../../../game/schema.ts'
import { loadDds } from './dds.ts'
import { loadKtx2 } from './ktx2.ts'
import type { MapLoader } from './loaded-map.ts'
import { loadPng } from './png.ts'
import { loadTga } from './tga.ts'

/** A loader for every texture format that is written, each of its own. */
export const mapLoaders: Record<Rulebook['files']['texture']['writer'], MapLoader> = {
  dds: loadDds,
  ktx2: loadKtx2,
  tga: loadTga,
  png: loadPng,
}
