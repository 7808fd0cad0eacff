import { mkdirSync, writeFileSync } from 'node:fs'
import { gateMtl, gateObj } from './boathouse-gate.ts'
import { bellGlb } from './mooring-bell.ts'
import { ironColour, paint, stoneColour, stoneNormals, timberColour, toJpeg, toPng } from './paint.ts'

/** Writes the committed sources of Otterby Landing. Run with `npm run demo:sources`. */
const folder = new URL('./sources/', import.meta.url)
const gate = new URL('boathouse_gate/', folder)
const bell = new URL('mooring_bell/', folder)
for (const each of [gate, bell]) mkdirSync(each, { recursive: true })

writeFileSync(new URL('boathouse_gate.obj', gate), gateObj())
writeFileSync(new URL('Boathouse gate.v2.mtl', gate), gateMtl())
writeFileSync(new URL('Gate Stone Albedo.jpg', gate), toJpeg(paint(1500, 1100, stoneColour), 72))
writeFileSync(new URL('gate stone_n.png', gate), toPng(stoneNormals(512, 512)))
writeFileSync(new URL('Timber leaf.v2.png', gate), toPng(paint(512, 512, timberColour)))
writeFileSync(new URL('iron_strap.png', gate), toPng(paint(256, 256, ironColour)))
writeFileSync(new URL('mooring_bell.glb', bell), await bellGlb())
