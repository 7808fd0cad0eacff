import { createIO } from '../../../item/io.ts'
import { withEnding, type MeshWriter } from './mesh-writer.ts'

/**
 * glTF 2.0 as JSON with its numbers in one file beside it, of the same name.
 * @example const written = await writeGltf({ document, path: 'gate.gltf', rulebook })
 */
export const writeGltf: MeshWriter = async ({ document, path }) => {
  const binaryPath = withEnding(path, '.bin')
  const name = binaryPath.split('/').pop() ?? binaryPath
  for (const buffer of document.getRoot().listBuffers()) buffer.setURI(name)
  const { json, resources } = await createIO().writeJSON(document)
  return {
    files: [
      { path, bytes: new TextEncoder().encode(`${JSON.stringify(json, null, 1)}\n`) },
      ...Object.values(resources).map((bytes) => ({ path: binaryPath, bytes })),
    ],
    entry: {},
  }
}
