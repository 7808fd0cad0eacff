import type { Document, Material } from '@gltf-transform/core'

const UNPAINTED: [number, number, number, number] = [0.6, 0.6, 0.6, 1]

/** What stands for “no material”: a mid grey, matt. Its shine is nobody's word. */
export const unpaintedMaterial = (document: Document, name: string): Material => document.createMaterial(name).setBaseColorFactor(UNPAINTED).setRoughnessFactor(1).setMetallicFactor(0)
