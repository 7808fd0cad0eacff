import '/work/main/cli/node-assets.ts'
import { readFileSync, readdirSync, statSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { judgeFile } from '/work/main/core/test-support/faithful/judge.ts'
const isMesh = (n: string) => /\.(glb|gltf|obj|dae|fbx|3ds|stl|ply)$/i.test(n)
for (const path of process.argv.slice(2)) {
  const folder = dirname(path)
  const files = new Map<string, Uint8Array>()
  files.set(basename(path), new Uint8Array(readFileSync(path)))
  for (const n of readdirSync(folder)) if (!isMesh(n) && statSync(join(folder, n)).isFile() && statSync(join(folder, n)).size < 8e6) files.set(n, new Uint8Array(readFileSync(join(folder, n))))
  try {
    const j = await judgeFile(basename(path), files)
    const d = j.difference
    const f = (v: number | null, k = 1) => v === null ? '-' : (v * k).toFixed(k === 100 ? 2 : 1)
    console.log(`${path.replace(/.*models\/|.*others\//, '')} tri ${j.triangles.source}>${j.triangles.packed} lost ${f(d?.lost ?? null, 100)} added ${f(d?.added ?? null, 100)} stated ${f(j.statedShift, 100)} vol ${f(d?.volume ?? null, 100)} area ${f(d?.area ?? null,100)} shade ${f(d?.shading ?? null, 100)} col ${f(d?.colour ?? null)} op ${f(d?.opacity ?? null)} ro ${f(d?.roughness ?? null)} me ${f(d?.metalness ?? null)} oc ${f(d?.occlusion ?? null)} gl ${f(d?.glow ?? null)} | ${j.levels.map(l => `${l.name}:${f(l.apart, 100)}/${f(l.turned, 100)}`).join(' ')} | loads ${j.loads} val ${j.validatorErrors.length} ${j.seconds.toFixed(1)}s blocks ${j.findings.filter(f=>f.severity==='blocks').map(f=>f.rule).join(',')}`)
    if (process.env.V) { console.log(j.steps.join(' ')); console.log(j.report.join('\n')); console.log(j.validatorErrors.slice(0,5)); console.log(j.log.filter(l=>l.level!=='told').map(l=>l.level+' '+l.code+' '+l.message).join('\n')) }
  } catch (e) { console.log(path, 'ERR', e instanceof Error ? e.stack?.split('\n').slice(0, 3).join(' ') : e) }
}
