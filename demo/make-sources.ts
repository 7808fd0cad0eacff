import { mkdirSync, writeFileSync } from 'node:fs'
import { gateMtl, gateObj } from './boathouse-gate.ts'
import { pennantsGlb } from './bow-pennants.ts'
import { awningGlb } from './canvas-awning.ts'
import { buoyStl } from './channel-buoy.ts'
import { draughtMarksPng } from './draught-marks.ts'
import { ferryHullDae } from './ferry-hull.ts'
import { quayGlb } from './ferry-quay.ts'
import { stoveFbx } from './galley-stove.ts'
import { planksMaps } from './landing-planks.ts'
import { bellGlb } from './mooring-bell.ts'
import { ironColour, paint, stoneColour, stoneNormals, timberColour, toJpeg, toPng } from './paint.ts'
import { hatLyingObj, hatMtl, hatWornObj } from './rain-hat.ts'
import { sluiceGlb } from './sluice-walk.ts'
import { timetableJpeg } from './timetable-board.ts'

/** Writes the committed sources of Otterby Landing. Run with `npm run demo:sources`. */
const items: Record<string, Record<string, Uint8Array | string>> = {
  boathouse_gate: {
    'boathouse_gate.obj': gateObj(),
    'Boathouse gate.v2.mtl': gateMtl(),
    'Gate Stone Albedo.jpg': toJpeg(paint(1500, 1100, stoneColour), 72),
    'gate stone_n.png': toPng(stoneNormals(512, 512)),
    'Timber leaf.v2.png': toPng(paint(512, 512, timberColour)),
    'iron_strap.png': toPng(paint(256, 256, ironColour)),
  },
  mooring_bell: { 'mooring_bell.glb': await bellGlb() },
  canvas_awning: { 'canvas_awning.glb': await awningGlb() },
  ferry_hull: {
    'ferry_hull.dae': ferryHullDae(),
    'deck boards.png': toPng(paint(256, 256, timberColour)),
    'draught marks.png': draughtMarksPng(),
  },
  galley_stove: { 'galley_stove.fbx': stoveFbx(), 'cast iron.png': toPng(paint(128, 128, ironColour)) },
  channel_buoy: { 'channel_buoy.stl': buoyStl() },
  timetable_board: { 'timetable_board.jpg': timetableJpeg() },
  sluice_walk: { 'sluice_walk.glb': await sluiceGlb() },
  landing_planks: planksMaps(),
  rain_hat: {
    'rain_hat_lying.obj': hatLyingObj(),
    'rain_hat_worn.obj': hatWornObj(),
    'rain_hat.mtl': hatMtl(),
    'oilskin_yellow.png': toPng(paint(128, 128, (u, v) => [214 - 20 * ((u * 8) % 1), 178 - 12 * ((v * 8) % 1), 52])),
    'oilskin_2025_old.png': toPng(paint(128, 128, (u) => [96, 104 - 10 * ((u * 8) % 1), 84])),
  },
  ferry_quay: { 'ferry_quay.glb': await quayGlb() },
  bow_pennants: { 'bow_pennants.glb': await pennantsGlb() },
}

for (const [folder, files] of Object.entries(items)) {
  const place = new URL(`./sources/${folder}/`, import.meta.url)
  mkdirSync(place, { recursive: true })
  for (const [name, content] of Object.entries(files)) writeFileSync(new URL(encodeURIComponent(name), place), content)
}
