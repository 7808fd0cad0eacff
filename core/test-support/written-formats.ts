import type { Document } from '@gltf-transform/core'
import { DOMParser } from '@xmldom/xmldom'
import type { Object3D } from 'three'
import { vi } from 'vitest'
import { exportCollada } from '../item/export-collada/index.ts'
import { exportFbx } from '../item/export-fbx/index.ts'

/** A mesh format that is written, and how the drawing library shows what was written. */
export interface Written {
  name: string
  file: string
  write: (document: Document) => { bytes: Uint8Array; leftOut: string[] }
  /** As the drawing library shows it. */
  draw: (bytes: Uint8Array) => Promise<Object3D>
  /** Where it shows a place of the item. */
  drawn: (place: readonly number[]) => number[]
}

export const colladaOptions = { unit: { name: 'inch', metres: 0.0254 }, up: 'Z_UP', stem: 'rich' } as const
/** The formats that hold all of an item. */
export const writtenFormats: readonly Written[] = [
  {
    name: 'COLLADA',
    file: 'rich.dae',
    write(document) {
      const { dae, leftOut } = exportCollada(document, colladaOptions)
      return { bytes: new TextEncoder().encode(dae), leftOut }
    },
    async draw(bytes) {
      vi.stubGlobal('DOMParser', DOMParser)
      const { ColladaLoader } = await import('three/examples/jsm/loaders/ColladaLoader.js')
      const loaded = new ColladaLoader().parse(new TextDecoder().decode(bytes), '')
      if (!loaded) throw new Error('it is not read')
      return loaded.scene
    },
    // It turns what declares another unit and up into metres with Y up.
    drawn: ([x, y, z]) => [x, z, -y].map((value) => value * 0.0254),
  },
  {
    name: 'FBX',
    file: 'rich.fbx',
    write(document) {
      const { fbx, leftOut } = exportFbx(document, { metresPerUnit: 0.0254, up: '+z', forward: '-y', stem: 'rich' })
      return { bytes: fbx, leftOut }
    },
    async draw(bytes) {
      const { FBXLoader } = await import('three/examples/jsm/loaders/FBXLoader.js')
      return new FBXLoader().parse(bytes.slice().buffer, '')
    },
    // It turns what declares another up, and leaves the unit to whoever shows it.
    drawn: ([x, y, z]) => [x, z, -y],
  },
]
