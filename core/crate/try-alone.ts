import type { Document } from '@gltf-transform/core'
import { guessKind } from '../game/guess-kind.ts'
import type { Game } from '../game/game.ts'
import { kindOf } from '../game/load.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../item/parts.ts'
import { textureFacts } from '../operations/maps/texture-pixels.ts'
import { packItems } from '../pack/pack-crate.ts'
import type { Finding } from '../rules/rule.ts'
import { plainMessage } from '../support/plain-error.ts'
import { loadPack } from '../trial/load-pack.ts'
import type { WorklistEntry } from '../worklist/entry.ts'
import { prepareItem } from './prepare-item.ts'
import { memoryStore } from '../worklist/result-store.ts'
import type { RunOptions } from '../worklist/run.ts'
import { startFrom, type BroughtItem } from './bring-in.ts'
import { gameName } from './game-names.ts'
import type { BytesOf } from './stock.ts'

/** What came of an item that was prepared, packed and tried with nobody helping. */
export interface TriedItem {
  kind: string
  /** Of the source. */
  triangles: number
  parts: number
  materials: number
  /** Longest side of its largest map, in pixels; 0 where it has none. */
  largestMapPixels: number
  worklist: WorklistEntry[]
  seconds: number
  loads: boolean
  /** The first thing that keeps it from loading, in a sentence; null when it loads. */
  reason: string | null
  /** Steps that did not work, findings that block, and what the loader says of what it refuses. */
  failures: string[]
  blocking: Finding[]
  refusals: string[]
  /** Findings that are risky still. */
  risky: Finding[]
}

export interface TryOptions {
  /** What it becomes; guessed from the document when left out. */
  kind?: string
  /** Finds what the game has in stock. */
  bytesOf?: BytesOf
  onProgress?: RunOptions['onProgress']
}

/**
 * Prepares one brought item as *Prepare for me* does, packs it and lets the stand-in loader read the pack.
 *
 * @example const { loads, reason } = await tryAlone(brought[0], { rulebook, stock: null })
 */
export async function tryAlone(
  { item: asked, document, files }: BroughtItem,
  game: Game,
  { kind: kindId, bytesOf, onProgress }: TryOptions = {},
): Promise<TriedItem> {
  const began = performance.now()
  const { rulebook } = game
  const kind = kindId === undefined ? guessKind(document, rulebook).kind : kindOf(rulebook, kindId)
  const item = { ...asked, kind: kind.id }
  const bytes = new Map(files.map(({ sha256, file }) => [sha256, file.bytes]))
  const facts = factsOf(document)
  const start = await startFrom(
    item,
    document,
    files.map(({ file }) => file),
    game,
    async (sha256) => bytes.get(sha256) ?? (await bytesOf?.(sha256)) ?? null,
  )
  const options: RunOptions = { rulebook, kind, store: memoryStore(), onProgress }
  const itemName = gameName(item, rulebook)
  const { worklist, result, findings } = await prepareItem(start, options, { itemName })
  const failures = result.outcomes.flatMap((outcome) => (outcome.state === 'failed' ? [outcome.message] : []))
  const blocking = findings.filter(({ severity }) => severity === 'blocks')
  let refusals: string[]
  let loads = false
  try {
    const pack = await packItems([{ name: itemName, kind, document: result.document }], rulebook, item.name)
    const trial = loadPack(pack.bytes, rulebook)
    loads = trial.loads
    refusals = trial.log.filter(({ level }) => level === 'refused').map(({ message }) => message)
  } catch (error) {
    refusals = [plainMessage(error)]
  }
  return {
    kind: kind.id,
    ...facts,
    worklist,
    seconds: (performance.now() - began) / 1000,
    loads,
    reason: loads ? null : (refusals[0] ?? failures[0] ?? blocking[0]?.message ?? 'The loader does not take it.'),
    failures,
    blocking,
    refusals,
    risky: findings.filter(({ severity }) => severity === 'risky'),
  }
}

const factsOf = (document: Document): Pick<TriedItem, 'triangles' | 'parts' | 'materials' | 'largestMapPixels'> => {
  const parts = listViewParts(document)
  const sides = document
    .getRoot()
    .listTextures()
    .filter((texture) => texture.getImage() !== null)
    .map(textureFacts)
    .flatMap(({ width, height }) => [width, height])
  return {
    triangles: countTriangles(parts),
    parts: parts.length,
    materials: listUsedMaterials(document).length,
    largestMapPixels: Math.max(0, ...sides),
  }
}
