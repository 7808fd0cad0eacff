import './cli/node-assets.ts'
import { readFileSync, readdirSync, statSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { createRequire } from 'node:module'
import { readMeshFile } from './cli/files.ts'
const p = process.argv[2]
const d = await readMeshFile(p)
for (const mesh of d.getRoot().listMeshes()) for (const pr of mesh.listPrimitives()) { const t = pr.getAttribute('TEXCOORD_0'); if (t) console.log('ours', [...t.getArray()!].slice(0, 24).map(v => +v.toFixed(3)).join(' '), 'min', t.getMin([]), 'max', t.getMax([])) ; console.log('idx', [...pr.getIndices()!.getArray()!].slice(0,12).join(' ')); const q=pr.getAttribute('POSITION')!; console.log('pos', [...q.getArray()!].slice(0,36).map(v => +v.toFixed(2)).join(' ')) }
const lib = await (createRequire(import.meta.url)('assimpjs') as any)()
const l = new lib.FileList(); l.AddFile(basename(p), new Uint8Array(readFileSync(p)))
const r = lib.ConvertFileList(l, 'assjson')
const s = JSON.parse(new TextDecoder().decode(r.GetFile(0).GetContent()))
for (const m of s.meshes) { console.log('assimp uv', m.texturecoords?.map((t: number[]) => t.slice(0, 24).map(v => +v.toFixed(3)).join(' '))); console.log('faces', JSON.stringify(m.faces.slice(0,4))); console.log('pos', m.vertices.slice(0,36).map((v: number)=>+v.toFixed(2)).join(' ')) }
s.materials.forEach((m: any) => console.log('  assimp', JSON.stringify(m.properties.filter((x: any) => /tex/.test(x.key)))))
process.exit(0)
