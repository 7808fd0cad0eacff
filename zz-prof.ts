import './cli/node-assets.ts'
import { gatherSources } from './cli/files.ts'
import { bringIn, startFrom } from './core/crate/bring-in.ts'
import { rulebookById, kindOf } from './core/game/load.ts'
import { steps } from './core/steps/registry.ts'
import { runWorklist } from './core/worklist/run.ts'
import { memoryStore } from './core/worklist/result-store.ts'
import { checkResult } from './core/crate/evaluate.ts'
import { ruleFamilies } from './core/rules/registry.ts'
import { packItems } from './core/pack/pack-crate.ts'
import { loadPack } from './core/trial/load-pack.ts'
const rulebook = rulebookById('tarn-and-tiller')
const kind = kindOf(rulebook, 'prop')
const t = (l: string, a: number) => { const d = performance.now()-a; if (d>60) console.log(l.padEnd(30), Math.round(d)) }
let a = performance.now()
const [b] = await bringIn(gatherSources([process.argv[2]]), 'prop', {}, [])
t('bring in', a); a = performance.now()
const start = await startFrom(b.item, b.document, b.files.map(f=>f.file), {rulebook, stock:null}, async()=>null)
const store = memoryStore(); const wl: any[] = []; let document = start.document
for (const step of steps) {
  a = performance.now()
  const p = step.propose({document, rulebook, kind, images: start.images, official: null})
  t('propose '+step.id, a)
  if (p.length===0) continue
  for (const {parameters, reason} of p) wl.push({id:'e'+wl.length, step: step.id, on:true, parameters, reason})
  a = performance.now()
  const r = await runWorklist(start, wl, {rulebook, kind, store})
  t('run '+step.id+' x'+p.length, a); document = r.document
}
for (const f of ruleFamilies) { a=performance.now(); f.check({document, rulebook, kind, itemName:'item'}); t('rule '+f.id, a) }
a=performance.now(); const pack = await packItems([{name:'x',kind,document}], rulebook, 'x'); t('pack',a)
a=performance.now(); loadPack(pack.bytes, rulebook); t('trial',a)
process.exit(0)
