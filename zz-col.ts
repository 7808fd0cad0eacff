import './cli/node-assets.ts'
import { readFileSync, readdirSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { createRequire } from 'node:module'
import { readMeshFile } from './cli/files.ts'
for (const p of process.argv.slice(2)) {
  console.log(p)
  const d = await readMeshFile(p)
  for (const m of d.getRoot().listMaterials()) console.log('  ours', m.getName(), m.getBaseColorFactor().map(v=>+v.toFixed(3)).join(','), 'em', m.getEmissiveFactor().join(','), 'tex', m.getBaseColorTexture()?.getName(), 'alpha', m.getAlphaMode(), 'r', m.getRoughnessFactor(), 'm', m.getMetallicFactor())
  for (const mesh of d.getRoot().listMeshes()) for (const pr of mesh.listPrimitives()) console.log('  prim', mesh.getName(), pr.getMaterial()?.getName(), pr.listSemantics().join(' '))
  const lib = await (createRequire(import.meta.url)('assimpjs') as any)()
  const l = new lib.FileList(); l.AddFile(basename(p), new Uint8Array(readFileSync(p)))
  for (const n of readdirSync(dirname(p))) if (/\.mtl$/i.test(n)) l.AddFile(n, new Uint8Array(readFileSync(join(dirname(p), n))))
  const r = lib.ConvertFileList(l, 'assjson'); if (!r.IsSuccess()) { console.log(r.GetErrorCode()); continue }
  const s = JSON.parse(new TextDecoder().decode(r.GetFile(0).GetContent()))
  s.materials.forEach((m: any) => console.log('  assimp', m.properties.filter((x: any) => /clr|tex.file|opac|name/.test(x.key)).map((x: any) => x.key + '=' + JSON.stringify(x.value)).join(' ')))
  s.meshes.forEach((m: any) => console.log('  mesh', m.name, 'mat', m.materialindex, 'colors', m.colors?.length ?? 0, 'faces', m.faces.length))
}
process.exit(0)
