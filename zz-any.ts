import './cli/node-assets.ts'
import { gatherSources } from './cli/files.ts'
import { bringIn } from './core/crate/bring-in.ts'
import { tryAlone } from './core/crate/try-alone.ts'
import { rulebookById } from './core/game/load.ts'
import { readdirSync, statSync, appendFileSync } from 'node:fs'
import { join } from 'node:path'
const rulebook = rulebookById('tarn-and-tiller')
const isMesh = (p: string) => /\.(glb|gltf|obj|dae|fbx|3ds|stl|ply)$/i.test(p)
const walk = (f: string): string[] => readdirSync(f,{withFileTypes:true}).flatMap(e=>e.isDirectory()?walk(join(f,e.name)):[join(f,e.name)])
const out = process.argv[2]
const list = process.argv.slice(3).flatMap(p => statSync(p).isDirectory()? walk(p): [p]).filter(isMesh)
for (const path of list) {
  let line: string
  try {
    const [brought] = await bringIn(gatherSources([path]), 'prop', {}, [])
    const t = await tryAlone(brought, { rulebook, stock: null })
    const limit = 3 + t.triangles/10000
    line = [t.loads?'LOADS':'no', t.seconds.toFixed(1), t.seconds>limit?'SLOW':'', t.kind, t.triangles, t.parts, t.materials, t.worklist.length, path, t.failures.join(' / '), t.refusals.slice(0,3).join(' / '), t.blocking.slice(0,2).map(f=>f.rule+' '+f.message).join(' / '), [...new Set(t.risky.map(f=>f.rule))].join(',')].join('|')
  } catch (e) { line = ['refused',path,(e as Error).message].join('|') }
  appendFileSync(out, line+'\n')
}
process.exit(0)
