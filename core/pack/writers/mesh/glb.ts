import { createIO } from '../../../item/io.ts'
import type { MeshWriter } from './mesh-writer.ts'

/**
 * One binary glTF 2.0 file (Khronos, glTF 2.0, section 4.4).
 * @example const written = await writeGlb({ document, path: 'gate.glb', rulebook })
 */
export const writeGlb: MeshWriter = async ({ document, path }) => ({
  files: [{ path, bytes: await createIO().writeBinary(document) }],
  entry: {},
})
