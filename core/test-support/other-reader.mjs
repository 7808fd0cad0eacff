// A process of its own that counts triangles with readers that are not ours: they may hang or trap on odd files.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { createRequire } from 'node:module'
import { basename, dirname, extname, join } from 'node:path'

const require = createRequire(import.meta.url)
const library = await require('assimpjs')()

function byLibrary(path) {
  const list = new library.FileList()
  const folder = dirname(path)
  // Textures say nothing of triangles; only materials and binaries are handed over.
  const beside = readdirSync(folder).filter(
    (name) => /\.(mtl|bin)$/i.test(name) && statSync(join(folder, name)).size < 4e6,
  )
  for (const name of [basename(path), ...beside]) list.AddFile(name, new Uint8Array(readFileSync(join(folder, name))))
  const result = library.ConvertFileList(list, 'assjson')
  if (!result.IsSuccess()) return null
  const scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()))
  const counts = (scene.meshes ?? []).map((mesh) => mesh.faces.filter((face) => face.length === 3).length)
  const below = (node) =>
    (node.meshes ?? []).reduce((sum, mesh) => sum + counts[mesh], 0) +
    (node.children ?? []).reduce((sum, child) => sum + below(child), 0)
  return below(scene.rootnode)
}

/** The drawing library's own loaders, where they need no page. */
async function byDrawing(path) {
  const bytes = readFileSync(path)
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength)
  const count = (geometry) => (geometry.index ? geometry.index.count : geometry.attributes.position.count) / 3
  const ending = extname(path).toLowerCase()
  if (ending === '.obj') {
    const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js')
    let sum = 0
    new OBJLoader().parse(bytes.toString('utf8')).traverse((each) => {
      if (each.isMesh) sum += count(each.geometry)
    })
    return sum
  }
  if (ending === '.stl')
    return count(new (await import('three/examples/jsm/loaders/STLLoader.js')).STLLoader().parse(buffer))
  if (ending === '.ply')
    return count(new (await import('three/examples/jsm/loaders/PLYLoader.js')).PLYLoader().parse(buffer))
  if (ending !== '.gltf') return null
  // What a glTF declares of its accessors, whatever its buffers are packed with.
  const scene = JSON.parse(bytes.toString('utf8'))
  const triangles = (mesh) =>
    scene.meshes[mesh].primitives.reduce(
      (sum, primitive) =>
        sum +
        ((primitive.mode ?? 4) === 4
          ? scene.accessors[primitive.indices ?? primitive.attributes.POSITION].count / 3
          : 0),
      0,
    )
  const below = (index) =>
    (scene.nodes[index].mesh === undefined ? 0 : triangles(scene.nodes[index].mesh)) +
    (scene.nodes[index].children ?? []).reduce((sum, child) => sum + below(child), 0)
  return scene.scenes[scene.scene ?? 0].nodes.reduce((sum, root) => sum + below(root), 0)
}

process.on('message', async (path) => {
  const counts = []
  for (const read of [byLibrary, byDrawing]) {
    try {
      const count = await read(path)
      if (count !== null) counts.push(count)
    } catch {
      // What another reader cannot read says nothing of ours.
    }
  }
  process.send(counts)
})
process.send('ready')
