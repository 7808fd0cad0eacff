import './cli/node-assets.ts'
import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { createRequire } from 'node:module'
import { readMeshFile } from './cli/files.ts'
import { listAllParts } from './core/document/parts.ts'
import { partBounds } from './core/document/measure.ts'
const p = process.argv[2]
const d = await readMeshFile(p)
for (const part of listAllParts(d)) { const b = partBounds(part); console.log('ours', part.name, b.min.map(v=>v.toFixed(2)).join(' '), '|', b.max.map(v=>v.toFixed(2)).join(' ')) }
for (const n of d.getRoot().listNodes()) console.log('node', n.getName(), n.getTranslation().map(v=>+v.toFixed(2)), n.getRotation().map(v=>+v.toFixed(2)), n.getScale(), 'parent', n.getParentNode()?.getName())
const lib = await (createRequire(import.meta.url)('assimpjs') as any)()
const l = new lib.FileList(); l.AddFile(basename(p), new Uint8Array(readFileSync(p)))
const s = JSON.parse(new TextDecoder().decode(lib.ConvertFileList(l, 'assjson').GetFile(0).GetContent()))
const mul = (a: number[], b: number[]) => Array.from({length:16},(_,i)=>[0,1,2,3].reduce((t,k)=>t+a[(i>>2)*4+k]*b[k*4+(i&3)],0))
const walk = (n: any, w: number[]) => { const m = mul(w, n.transformation); for (const k of n.meshes ?? []) { const v = s.meshes[k].vertices; const mn=[1e9,1e9,1e9], mx=[-1e9,-1e9,-1e9]; for (let i=0;i<v.length;i+=3) for (let a=0;a<3;a++){ const q=m[a*4]*v[i]+m[a*4+1]*v[i+1]+m[a*4+2]*v[i+2]+m[a*4+3]; mn[a]=Math.min(mn[a],q); mx[a]=Math.max(mx[a],q)}; console.log('assimp', n.name, mn.map(v=>v.toFixed(2)).join(' '),'|',mx.map(v=>v.toFixed(2)).join(' ')) } console.log(' anode', n.name, n.transformation.map((v:number)=>+v.toFixed(2)).join(' ')); for (const c of n.children ?? []) walk(c, m) }
walk(s.rootnode, [1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1])
process.exit(0)
