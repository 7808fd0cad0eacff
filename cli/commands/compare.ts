import { gameNamed } from '../game.ts'
import { compareWithBrought, compareWithStock } from '../../core/crate/official.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import type { OfficialComparison } from '../../core/intake/compare/against-official.ts'
import { whatChanged } from '../../core/intake/compare/what-changed.ts'
import { parseCall, print, required, type Call, type Command } from '../command.ts'
import { readMeshFile } from '../files.ts'

export const compare: Command = {
  async run(words) {
    const call = parseCall(words, { official: { type: 'string' }, rulebook: { type: 'string' } })
    return typeof call.values['official'] === 'string'
      ? againstOfficial(call, call.values['official'])
      : twoVersions(call)
  },
}

async function twoVersions(call: Call): Promise<number> {
  const [before, after] = call.positionals
  if (!before || !after)
    throw new PlainError('two versions have to be named', 'this call', 'Name the older and the newer mesh.')
  const change = whatChanged(await readMeshFile(before), await readMeshFile(after))
  print(call, change, [
    `triangles: ${change.triangles.before} → ${change.triangles.after}`,
    ...change.parts
      .filter((part) => part.state !== 'same')
      .map((part) => `${part.name}: ${part.state}, ${part.before ?? 0} → ${part.after ?? 0} triangles`),
    ...change.textures
      .filter((texture) => texture.state !== 'same')
      .map((texture) => `texture ${texture.name}: ${texture.state}`),
  ])
  return 0
}

async function againstOfficial(call: Call, official: string): Promise<number> {
  const { game, stock } = await gameNamed(required(call, 'rulebook'))
  const { rulebook } = game
  const [path] = call.positionals
  if (!path) throw new PlainError('no scene was named', 'this call', 'Name the scene that holds the official object.')
  const scene = await readMeshFile(path)
  const inStock = rulebook.stock.objects.some((object) => object.id === official)
  const comparison: OfficialComparison = inStock
    ? await compareWithStock(scene, game, official, async () => stock)
    : compareWithBrought(scene, await readMeshFile(official), rulebook)
  print(call, comparison, [
    ...comparison.parts.map(
      (part) => `${part.state}: ${part.name}${part.official ? ` (${part.official})` : ''}, ${part.triangles} triangles`,
    ),
    ...comparison.gone.map((name) => `gone: ${name}`),
  ])
  return 0
}
