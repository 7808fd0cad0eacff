import { exportCollada } from '../../../item/export-collada/index.ts'
import { copyDocument } from '../../../item/io.ts'
import { listSceneNodes } from '../../../item/parts.ts'
import { orderCorners } from '../../corners-in-use.ts'
import { withEnding, type MeshWriter } from './mesh-writer.ts'

/** What corners have in COLLADA; tangents and shapes to morph to are not written. */
const WRITTEN = /^(POSITION|NORMAL|TEXCOORD_\d+|COLOR_\d+|JOINTS_\d+|WEIGHTS_\d+)$/

/**
 * COLLADA 1.4.1 in the game's unit and with its own up. What nodes say of themselves has no place there that loaders
 * agree on: it goes into the entry, by the names of the nodes.
 *
 * @example const written = await writeDae({ document, path: 'gate.dae', rulebook })
 */
export const writeDae: MeshWriter = async ({ document: given, path, rulebook: { space } }) => {
  const document = copyDocument(given)
  await orderCorners(document, WRITTEN)
  const { dae } = exportCollada(document, {
    unit: { name: space.unit.name, metres: space.unit.metres },
    up: space.up === '+x' ? 'X_UP' : space.up === '+z' ? 'Z_UP' : 'Y_UP',
    stem: withEnding(path.split('/').pop() ?? path, ''),
  })
  const said = listSceneNodes(document).flatMap((node): [string, object][] =>
    node.getParentNode() !== null && Object.keys(node.getExtras()).length > 0
      ? [[node.getName(), node.getExtras()]]
      : [],
  )
  return {
    files: [{ path, bytes: new TextEncoder().encode(dae) }],
    entry: said.length > 0 ? { said: Object.fromEntries(said) } : {},
  }
}
