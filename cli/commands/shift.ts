import type { Document } from '@gltf-transform/core'
import { startOf } from '../../core/crate/bring-in.ts'
import { differenceOf } from '../../core/crate/difference.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { countTriangles, listViewParts } from '../../core/item/parts.ts'
import { kindOf } from '../../core/game/load.ts'
import { stepById } from '../../core/steps/registry.ts'
import { memoryStore } from '../../core/worklist/result-store.ts'
import { runWorklist } from '../../core/worklist/run.ts'
import { parseCall, print, type Command } from '../command.ts'
import { openCrate, readMeshFile } from '../files.ts'

export const shift: Command = {
  async run(words) {
    const call = parseCall(words, {})
    const [first, second] = call.positionals
    if (!first) throw new PlainError('nothing was named', 'this call', 'Name a crate file, or two meshes.')
    const items = second
      ? [measured(`${first} → ${second}`, await readMeshFile(first), await readMeshFile(second))]
      : await ofCrate(first)
    print(
      call,
      { items },
      items.flatMap((item) => [
        `${item.name}: ${item.trianglesBefore} → ${item.trianglesAfter} triangles`,
        `  the surface moved by ${short(item.worst)} at worst and ${short(item.mean)} on average; the outline ` +
          `changed by up to ${(Math.max(0, ...item.outlines) * 100).toFixed(2)} %`,
      ]),
    )
    return 0
  },
}

const short = (value: number): number => Number(value.toPrecision(4))

function measured(name: string, before: Document, after: Document) {
  const { worst, mean, worstAt, outlines } = differenceOf(before, after)
  const triangles = (document: Document): number => countTriangles(listViewParts(document))
  return { name, trianglesBefore: triangles(before), trianglesAfter: triangles(after), worst, mean, worstAt, outlines }
}

/** Each item of a crate: its result against its source as it stands in the game's space, strays left out. */
async function ofCrate(path: string) {
  const { crate, sources } = await openCrate(path)
  const { rulebook } = crate
  const items = []
  for (const item of crate.items) {
    const start = await startOf(item, async (sha256) => sources.get(sha256) ?? null, crate)
    const options = { rulebook, kind: kindOf(rulebook, item.kind), store: memoryStore() }
    const fitted = item.worklist.findIndex((entry) => !['intake', 'fit'].includes(stepById(entry.step).stage))
    const before = await runWorklist(start, fitted < 0 ? item.worklist : item.worklist.slice(0, fitted), options)
    items.push(measured(item.name, before.document, (await runWorklist(start, item.worklist, options)).document))
  }
  return items
}
