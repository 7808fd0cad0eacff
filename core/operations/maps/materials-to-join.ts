import type { Document, Material } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { listLooks } from '../../item/looks.ts'
import { isUnlit } from '../../item/material-meaning.ts'
import { listUsedMaterials } from '../../item/parts.ts'

/**
 * Which materials have to become one each, so that an item keeps to the number that the game reads: only such as are
 * drawn alike, of these first where most are. Plain colours of one kind count once, since a palette makes one of them.
 * @param isBeyondReach whether a material's pictures cannot be painted
 * @returns lists of materials that become one; empty where there are few enough, or looks hang on them
 *
 * @example for (const group of materialsToJoin(document, rulebook, () => false)) await bake(group)
 */
export function materialsToJoin(
  document: Document,
  { materials: { largestCount } }: Rulebook,
  isBeyondReach: (material: Material) => boolean,
): Material[][] {
  if (listLooks(document).length > 1) return []
  const groups = new Map<string, Material[]>()
  for (const material of listUsedMaterials(document)) {
    const key = isBeyondReach(material) ? `alone ${groups.size}` : drawnAs(material)
    groups.set(key, [...(groups.get(key) ?? []), material])
  }
  let left = [...groups.values()].reduce((sum, group) => sum + countAfterPalette(group), 0)
  const joined: Material[][] = []
  for (const group of [...groups.values()].sort((a, b) => countAfterPalette(b) - countAfterPalette(a))) {
    if (left <= largestCount || countAfterPalette(group) < 2) break
    joined.push(group)
    left -= countAfterPalette(group) - 1
  }
  return joined
}

const isPlain = (material: Material): boolean => material.getBaseColorTexture() === null

const countAfterPalette = (group: readonly Material[]): number =>
  group.filter((material) => !isPlain(material)).length + (group.some(isPlain) ? 1 : 0)

const drawnAs = (material: Material): string => `${material.getAlphaMode()} ${isUnlit(material)}`
